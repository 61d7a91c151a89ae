// What drawn curves enclose, and what they leave open.
#pragma once

#include "base/progress.h"
#include "drawing/plane_curve.h"
#include "geom/sweep/path.h"
#include "geom/sweep/profile.h"

namespace kervo {

/// Every region that the curves enclose, smallest last within larger ones; curves may cross, touch and overlap.
/// Curves that enclose nothing are left out. Throws Error for a curve without length; Stopped on request.
std::vector<Region> findRegions(const Plane& plane, const std::vector<PlanarCurve>& curves, Progress& progress);

/// The chains of those curves that bound none of the regions. Where more than two of them meet, chains end.
std::vector<Path> findPaths(const Plane& plane, const std::vector<PlanarCurve>& curves,
                            const std::vector<Region>& regions);

}  // namespace kervo
