// Triangles of a planar region bounded by polylines, however many holes it has.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "geom/sweep/profile.h"

namespace kervo {

using Triangle = std::array<int, 3>;

/// Triangles (counter-clockwise, as indices into `points`) of the region whose border consists of `lines` (each a run
/// of indices): the points from which a ray crosses the border an odd number of times. Nothing if lines cross.
std::optional<std::vector<Triangle>> planarTriangles(const std::vector<PlanePoint>& points,
                                                     const std::vector<std::vector<int>>& lines);

}  // namespace kervo
