// Regions and edges as lines through points, to be shown.
#pragma once

#include <vector>

#include "geom/space_curve.h"
#include "geom/sweep/profile.h"

namespace kervo {

/// Every loop that bounds the region, closed (its first point comes again at the end).
std::vector<Polyline> outlinesOf(const Region& region);

/// The middle of the box around the region, on its plane; and the plane's normal.
Point middleOf(const Region& region);
Vector normalOf(const Region& region);

/// Every edge of a shape; seams left out.
std::vector<Polyline> edgeLines(const Shape& shape);

/// The rectangle on the plane that covers a box and `margin` mm more on every side, closed.
Polyline rectangleAround(const Box& box, const Plane& plane, double margin);

}  // namespace kervo
