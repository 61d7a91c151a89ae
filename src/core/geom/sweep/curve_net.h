// Curves on a plane that meet in shared points, and the regions that the kernel makes of them. Which curves meet and
// cross is found by core/drawing.
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/space_curve.h"
#include "geom/sweep/profile.h"

namespace kervo {

struct CurveNet {
  struct Link {
    NamedCurve along;
    std::size_t from = 0, to = 0;  ///< nodes; of a closed curve they say nothing
  };
  struct Run {
    std::size_t link = 0;
    bool backwards = false;
  };

  Plane plane;
  std::vector<Point> nodes;
  std::vector<Link> links;
  /// Closed chains of links that do not meet each other. Nothing if curves cross, touch or branch; the kernel then
  /// intersects all of them.
  std::optional<std::vector<std::vector<Run>>> loops;
  double fuzzy = 0;  ///< what is nearer than that meets, mm
};

/// Every region that the curves enclose, smallest last within larger ones. Stopped on request.
std::vector<Region> regionsOf(const CurveNet& net, Progress& progress);

}  // namespace kervo
