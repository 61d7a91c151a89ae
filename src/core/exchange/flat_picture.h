// What is written to DXF, SVG, PDF and PNG: outlines and fills on layers of a sheet, at true scale.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/progress.h"
#include "drawing/plane_curve.h"
#include "model/hatches.h"
#include "model/shown.h"

namespace kervo {

using FlatCurve = std::shared_ptr<const PlaneCurve>;
/// Curves that follow each other end to end; each may run either way. One closed curve by itself is a chain too.
using FlatChain = std::vector<FlatCurve>;

/// What loops enclose, by odd and even: filled with a colour, or hatched.
struct FlatFill {
  std::vector<FlatChain> loops;
  Color color{};
  std::vector<HatchLines> hatch = {};  ///< in mm of the sheet; none: filled
};

struct FlatLayer {
  std::string name;
  Color ink{};
  double width = 0.25;  ///< of its lines, mm
  std::vector<FlatChain> chains = {};
  std::vector<FlatFill> fills = {};
  double dash = 0, gap = 0;  ///< of its lines, mm; 0: drawn in one go
};

/// In mm from the lower left corner, v upwards.
struct FlatPicture {
  double width = 0, height = 0;
  std::vector<FlatLayer> layers;
  std::string title = {};

  /// The layer of that name, added with that ink if there is none.
  FlatLayer& layer(const std::string& name, Color ink);
};

/// Written in the format of the file's extension: .dxf, .svg, .pdf or .png; whole or not at all. Lines, arcs, circles,
/// ellipses and splines stay exact in DXF, lines, circles and arcs in SVG; else they are off by 1e-4 mm at most. Throws
/// FileError; Stopped on request.
void writePicture(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress);

/// Where it starts and ends in the order of the chain, and whether each curve runs backwards.
struct RunOfChain {
  std::vector<bool> backwards;
  PlanePoint start, end;
  bool closed = false;
};
RunOfChain runOf(const FlatChain& chain);

/// A stretch of a chain as a cubic; straight ones have their inner points on the line.
struct Cubic {
  PlanePoint from, first, second, to;
  bool straight = false;
};
/// In the order of the chain, off by 1e-4 mm at most.
std::vector<Cubic> cubicsOf(const FlatChain& chain);

/// The lines of a hatch across a box, each from end to end.
std::vector<std::pair<PlanePoint, PlanePoint>> hatchAcross(const HatchLines& lines, const PlaneBox& box);
PlaneBox boxOf(const std::vector<FlatChain>& chains);

}  // namespace kervo
