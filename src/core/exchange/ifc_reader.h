// Reads IFC4 files with libifcplusplus. A library of its own: its headers do not go together with the kernel's.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "geom/color.h"
#include "geom/mesh.h"

namespace kervo {

struct IfcElement {
  std::string name, storey;
  std::vector<Point> points;                      ///< in mm, as it stands in the building
  std::vector<std::vector<std::uint32_t>> faces;  ///< flat, counter-clockwise from outside, with its openings
  std::optional<Color> color;
};

struct IfcStorey {
  std::string name;
  double height = 0;  ///< mm
};

struct IfcModel {
  std::vector<IfcElement> elements;
  std::vector<IfcStorey> storeys;
  double unit = 1;  ///< mm
  std::vector<std::string> notes;
};

/// Products with a body, but for openings and rooms, in the order of the file. `goOn` is asked in between; it may
/// throw. What could not be understood is noted. Throws std::exception for a text that is no IFC4 file.
IfcModel ifcModelOf(const std::string& text, const std::function<void(double share)>& goOn);

}  // namespace kervo
