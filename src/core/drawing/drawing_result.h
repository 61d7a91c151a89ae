// What a drawing comes to: its plane, and what its curves enclose.
#pragma once

#include <vector>

#include "geom/outline.h"
#include "geom/path.h"
#include "geom/profile.h"

namespace kervo {

/// A drawing's plane, the regions and open lines found in it, and its curves as lines to be shown.
struct DrawingResult {
  Plane plane;
  std::vector<Region> regions;
  std::vector<Path> paths;  ///< open lines
  std::vector<Polyline> lines;
};

}  // namespace kervo
