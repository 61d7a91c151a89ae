// An edge of the kernel seen along a plane's normal. For src/core/geom only.
#pragma once

#include <TopoDS_Edge.hxx>
#include <optional>

#include "geom/space_curve.h"

namespace kervo {

/// As flattened(): on the plane, or nothing where the edge is seen as a point.
std::optional<SpaceCurve> flatCurveOf(const TopoDS_Edge& edge, const Plane& plane);

/// How far edges may end from the corners of a shape, mm.
double looseness(const TopoDS_Shape& shape);

}  // namespace kervo
