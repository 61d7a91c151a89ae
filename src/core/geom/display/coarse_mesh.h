// Fewer triangles for a mesh while the view moves.
#pragma once

#include <cstdint>
#include <vector>

#include "geom/display/tessellate.h"

namespace kervo {

/// Corners of triangles, three each, over the mesh's own points: some `share` (0 … 1) as many as it has, more where it
/// would leave its shape by more than a fiftieth of its size. By the edge collapses of meshoptimizer.
std::vector<std::uint32_t> coarseTriangles(const BodyMesh& mesh, double share);

}  // namespace kervo
