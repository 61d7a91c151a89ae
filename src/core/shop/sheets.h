// Cut sheets: parts of bodies as outlines on sheets, the kerf taken into account.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "exchange/flat_picture.h"
#include "model/model.h"

namespace kervo {

/// A flat part, in the coordinates of its own plane.
struct ShopPart {
  std::string name;
  BodyId body;
  FlatChain outline = {};
  std::vector<FlatChain> holes = {};
  std::vector<FlatChain> marks = {};  ///< its number
  double area = 0;                    ///< mm²
};

struct ShopParts {
  std::vector<ShopPart> parts;
  std::vector<std::string> leftOut;  ///< bodies that are no planar surfaces, in words
};

/// Every planar surface among the bodies, a part for each of its faces; the curves of a body that is called like one of
/// them and ends with /label are its number. Throws Stopped on request.
ShopParts shopParts(const std::vector<Body>& bodies, Progress& progress);

struct SheetOrder {
  double width = 600, height = 400;  ///< of a sheet, mm
  double spacing = 3;                ///< between parts, and to the sheet's edge, mm
  double kerf = 0.2;                 ///< that the beam takes away, mm
};

/// Layers of a sheet. What is cut inside of parts comes before what frees them.
inline constexpr const char* insideLayer = "cut-inside";
inline constexpr const char* outsideLayer = "cut-outside";
inline constexpr const char* numberLayer = "number";

struct CutSheets {
  struct Sheet {
    FlatPicture picture;
    double used = 0;  ///< share of the sheet that parts cover, 0 … 1
    std::vector<std::string> parts;
  };
  std::vector<Sheet> sheets;
  std::vector<std::string>
      notes;  ///< parts that fit on no sheet, holes narrower than the kerf, outlines of short lines
};

/// Outlines lie half a kerf outside of parts and inside of holes, so that what falls free has its true size. Throws
/// Error for sizes that make no sense, or if no part fits; Stopped on request.
CutSheets cutSheets(const std::vector<ShopPart>& parts, const SheetOrder& order, Progress& progress);

/// Writes one file a sheet: "x.dxf" for one sheet, "x-1.dxf", "x-2.dxf" … for several. Gives their paths. Throws
/// FileError.
std::vector<std::filesystem::path> writeSheets(const std::filesystem::path& path, const CutSheets& sheets,
                                               Progress& progress);

}  // namespace kervo
