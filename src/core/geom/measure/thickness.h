// How thick material is at a place of a cut face.
#pragma once

#include <optional>

#include "geom/measure/thinnest_wall.h"

namespace kervo {

/// The shortest straight way through a point of a planar cut face from border to border of the material, on the plane.
/// Curved borders are taken in steps of a 256th: off by 1e-5 of their size. Nothing for a point outside. Throws Error
/// if the borders cannot be followed.
std::optional<Wall> thicknessAt(const Shape& cutFace, const Plane& plane, Point place);

}  // namespace kervo
