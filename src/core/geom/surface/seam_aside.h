// The seam of a surface that closes on itself, put where nothing is cut.
#pragma once

#include "geom/shape.h"

namespace kervo {

/// A surface of one face that goes all round a cylinder, cone, sphere or torus between two circles or poles, with its
/// seam in the middle of the widest gap that curves on it leave; the same Shape for other surfaces, and where the
/// curves leave no gap.
Shape withSeamAside(const Shape& surface, const Shape& curvesOnIt);
/// Whether it is such a surface.
bool hasSeamToTurn(const Shape& surface);

}  // namespace kervo
