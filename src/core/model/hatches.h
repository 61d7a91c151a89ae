// Hatches for cut faces: families of parallel lines, as drawn on paper.
#pragma once

#include <string>
#include <vector>

namespace kervo {

/// Parallel lines, each drawn in dashes or in one go. Lengths in mm on paper.
struct HatchLines {
  double angle = 0;    ///< radians, from the plane's x axis
  double spacing = 3;  ///< from line to line
  double offset = 0;   ///< of the first one, across the lines
  double dash = 0;     ///< drawn; 0: all of it
  double gap = 0;      ///< not drawn after that
  double shift = 0;    ///< by how much each line's dashes begin later than those of the one before
};

struct Hatch {
  std::string key;    ///< in files
  std::string label;  ///< for people
  std::vector<HatchLines> lines;
};

/// All that Kervo ships, in the order of their lists.
const std::vector<Hatch>& hatches();
/// The one of that key, or null.
const Hatch* findHatch(const std::string& key);
std::vector<std::string> hatchKeys();

}  // namespace kervo
