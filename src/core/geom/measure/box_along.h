// The exact box around a body along the axes of any plane.
#pragma once

#include "geom/shape.h"

namespace kervo {

/// In the plane's coordinates: x and y along its axes, z along its normal, mm. As exact as Shape::box().
Box boxAlong(const Shape& shape, const Plane& plane);

}  // namespace kervo
