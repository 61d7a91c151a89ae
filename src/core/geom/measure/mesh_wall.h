// The thinnest wall of a mesh.
#pragma once

#include <optional>

#include "geom/measure/thinnest_wall.h"

namespace kervo {

/// The shortest way through the material of a closed mesh, straight down from places on its triangles: evenly over all
/// of them, and closer together around the thinnest. Triangles that meet, and that do not look away from each other,
/// bound no wall. Nothing if there is none thinner than `limit`.
std::optional<Wall> thinnestWallOf(const Mesh& mesh, double limit, Progress& progress);

}  // namespace kervo
