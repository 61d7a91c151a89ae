// The parts of a surface's faces in an intersection. For src/core/geom/divide only.
#pragma once

#include "geom/divide/checked_intersection.h"

namespace kervo {

/// The fragments of a surface's faces; true for those whose own normal, taken forward, is that of the surface.
ShapeMap<bool> fragmentsOf(const Shape& surface, const Intersection& intersection, Sides& sides);

}  // namespace kervo
