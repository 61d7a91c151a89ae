// Curve bodies sampled, and put together of stretches. For src/core/geom/surface only.
#pragma once

#include <vector>

#include "geom/curves/curve_chains.h"

namespace kervo {

/// Points of curves in the coordinates of a plane.
std::vector<Point> sampled(const Shape& curves, const Plane& across);

/// A curve body of stretches: those that meet become one curve, and what a seam divided one stretch. Empty for none.
Shape chained(const std::vector<CurveChain>& stretches);

}  // namespace kervo
