// Planes, cylinders, cones, spheres and tori that a file gives as splines, made such surfaces again.
#pragma once

#include <map>
#include <set>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/topology.h"

namespace kervo {

struct Recognised {
  Shape shape;                       ///< the same Shape if nothing was recognised
  std::map<std::string, int> kinds;  ///< how many faces became a "plane", "cylinder", …
  int edges = 0;                     ///< that became lines and circles
  int left = 0;                      ///< free-form faces that were asked about and stay
  double off = 0;                    ///< mm: how far the new surfaces are from the old ones at most
};

/// The free-form faces of a body (all of them, or those of these names) that are nowhere farther than `tolerance` (mm)
/// from such a surface, on that surface; edges between such faces become lines and circles where they are. Names and
/// colours stay. Throws Error if the new faces do not fit together, Stopped on request.
Recognised recognised(const Shape& shape, const std::set<std::string>& only, double tolerance, Progress& progress);

}  // namespace kervo
