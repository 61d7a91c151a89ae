// What a drawing comes to: its plane, and what its curves enclose.
#pragma once

#include "drawing/regions.h"

namespace kervo {

/// A drawing's plane, the regions and open lines found in it, and its curves as lines to be shown.
struct DrawingResult {
  Plane plane;
  std::vector<Region> regions;
  std::vector<Path> paths;  ///< open lines
  std::vector<Polyline> lines;

  /// Of curves on a plane. Throws as findRegions() does.
  static DrawingResult of(const Plane& plane, const std::vector<PlanarCurve>& curves, Progress& progress);
};

}  // namespace kervo
