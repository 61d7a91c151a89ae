// How far bodies can move before they meet a face.
#pragma once

#include <optional>
#include <utility>
#include <vector>

#include "base/progress.h"
#include "geom/topology.h"

namespace kervo {

/// The distance along a direction (unit length) at which the first of the shapes touches the face; a planar face counts
/// as far as its plane goes. Nothing if they pass it. Found by conservative advancement: a body may always move by its
/// distance from the target without meeting it.
std::optional<double> distanceUntilMet(const std::vector<Shape>& shapes, Vector direction, const Face& target,
                                       Progress& progress);

/// Whether two shapes have a point in common, or one lies inside the other.
bool touches(const Shape& a, const Shape& b);

/// The least and the greatest distance along a direction (unit length) that a shape reaches to, exactly.
std::pair<double, double> extentAlong(const Shape& shape, Vector direction);

}  // namespace kervo
