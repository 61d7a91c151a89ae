// Triangles of a planar region bounded by polygons, however many holes it has.
#pragma once

#include <array>
#include <optional>
#include <utility>
#include <vector>

#include "geom/profile.h"

namespace kervo {

/// Triangles (counter-clockwise, as indices into `points`) of the region whose border consists of `segments` (pairs of
/// indices): the points from which a ray crosses the border an odd number of times. Nothing if segments cross.
std::optional<std::vector<std::array<int, 3>>> planarTriangles(const std::vector<PlanePoint>& points,
                                                               const std::vector<std::pair<int, int>>& segments);

}  // namespace kervo
