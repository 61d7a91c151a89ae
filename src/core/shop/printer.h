// A simulated printer: it reads the file that was written, never the model, and tells what would come out of it.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "exchange/body_file.h"
#include "exchange/flat_picture.h"

namespace kervo {

struct PrinterSettings {
  double layer = 0.2;                             ///< height of one, mm
  double nozzle = 0.4;                            ///< width of a line, mm
  int walls = 2;                                  ///< lines round every outline
  int closed = 4;                                 ///< layers above and below that are filled
  double fill = 0.2;                              ///< share of the inside that is filled in between
  double wallSpeed = 40;                          ///< mm/s
  double fillSpeed = 60;                          ///< mm/s
  double travelSpeed = 150;                       ///< from outline to outline, mm/s
  double overhang = 0.785398;                     ///< radians from upright up to which a layer carries the next
  double width = 220, depth = 220, height = 250;  ///< of what it can print, mm
};

/// What of one colour lies in a layer.
struct PrintedPart {
  std::optional<Color> color;
  std::vector<std::vector<PlanePoint>> outlines;  ///< closed; holes run clockwise
  double area = 0;                                ///< mm²
};

struct PrintedLayer {
  double top = 0;  ///< its upper side above the bed, mm
  std::vector<PrintedPart> parts;
  std::vector<std::vector<PlanePoint>> unsupported;  ///< what begins in the air: under no part of it is anything
  std::vector<std::vector<PlanePoint>> thin;         ///< what is narrower than the nozzle
  double hanging = 0;                                ///< mm² that reach farther out than the layer below carries
  double seconds = 0;                                ///< that it takes
};

/// Material of one colour.
struct PrintedMaterial {
  std::optional<Color> color;
  double volume = 0;  ///< mm³, as it is filled
};

struct PrintRun {
  std::vector<PrintedLayer> layers;
  std::vector<PrintedMaterial> materials;
  double seconds = 0;
  double solidVolume = 0;  ///< mm³ that the layers enclose
  Box box;                 ///< of all parts as the file has them
  /// What a person should look at before printing: bodies that do not close, islands without support, walls under the
  /// nozzle's width, what does not fit.
  std::vector<std::string> findings;
};

/// Reads a .3mf, .stl or other file of triangles and slices it; what lies lowest stands on the bed. Throws FileError
/// for a file that cannot be read or holds exact bodies, Error for settings that make no sense or more than 100 000
/// layers; Stopped on request.
PrintRun runPrinter(const std::filesystem::path& file, const PrinterSettings& settings, Progress& progress);

}  // namespace kervo
