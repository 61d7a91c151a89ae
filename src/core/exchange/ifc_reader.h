// Reads IFC4 files with libifcplusplus, in a module that is loaded when it is needed: that library is large, and its
// headers do not go together with the kernel's.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "geom/color.h"
#include "geom/space.h"

namespace kervo {

struct IfcElement {
  std::string name, storey;
  /// Flat, counter-clockwise from outside, in mm, as it stands in the building with its openings.
  std::vector<std::vector<Point>> faces;
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
/// throw. What could not be understood is noted. Throws std::exception for a text that is no IFC4 file,
/// and if the module is not there.
IfcModel ifcModelOf(const std::string& text, const std::function<void(double share)>& goOn);

/// The one function of the module, and its name.
using IfcReading = void (*)(const std::string& text, const std::function<void(double share)>& goOn, IfcModel& model);
inline constexpr const char* ifcReadingName = "kervoReadIfc";

}  // namespace kervo
