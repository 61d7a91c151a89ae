// Elementary surfaces moved nearer to points. For src/core/geom/surface only.
#pragma once

#include <Geom_ElementarySurface.hxx>
#include <vector>

#include "geom/space.h"

namespace kervo {

/// The surface of the same kind with the least sum of squared distances from the points, found from one that is near to
/// it by the method of Levenberg and Marquardt. Null if it gets beyond all sizes, or stays much farther from the points
/// than `tolerance` (mm).
Handle(Geom_ElementarySurface)
    nearerTo(const std::vector<Point>& points, const Handle(Geom_ElementarySurface) & guess, double tolerance);

}  // namespace kervo
