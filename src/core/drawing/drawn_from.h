// Curves as drawn ones, with points of their own: snapshots of bodies, and outlines out of files.
#pragma once

#include <string>
#include <vector>

#include "drawing/drawing.h"
#include "drawing/plane_curve.h"

namespace kervo {

/// With the curves drawn in addition; ends nearer than `gap` (mm) are one point. Lines, arcs, circles and ellipses are
/// what they were, a spline of one span is one by control points, any other one goes through so many points that it is
/// less than 1e-4 mm off. `like`: what each of them takes over but its id, kind and shape.
Drawing withDrawn(Drawing drawing, const std::vector<PlanarCurve>& curves, double gap, const DrawnCurve& like = {});

}  // namespace kervo
