// Where a plane cuts a solid, as exact faces.
#pragma once

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// The faces at which the plane cuts the solid, as a surface with the plane's normal; empty where it does not meet it.
/// Found by the checked division of the plane by the solid. Throws as divide() does; Stopped on request.
Shape sectionFace(const Shape& solid, const Plane& plane, Progress& progress);

/// The length of all edges of a shape, mm.
double edgeLength(const Shape& shape);

}  // namespace kervo
