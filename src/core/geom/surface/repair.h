// Makes a damaged body sound again, as far as that changes nothing that is known of it.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/measure/soundness.h"

namespace kervo {

struct Repaired {
  Shape shape;
  int faces = 0;           ///< that were not valid, and are now
  int joinedEdges = 0;     ///< free edges that were joined
  std::vector<Flaw> left;  ///< what could not be repaired
};

/// The body with its flawed faces mended by the kernel's healing (borders that cross or miss each other by less than
/// the edges' tolerances), and with free edges that run along each other joined, if they are less than 0.01 mm apart.
/// Names and colours of the faces stay. A way of repairing counts only if fewer flaws are left and the volume stays
/// within 1e-6 of itself, the body's error bound, and what edges so far apart leave open. Throws Error if the body has
/// no flaw, or none that could be repaired; then it says which and where. Throws Stopped on request.
Repaired repaired(const Shape& body, Progress& progress);

}  // namespace kervo
