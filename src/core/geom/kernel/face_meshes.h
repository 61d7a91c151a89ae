// Meshes of the faces of a shape, kept with the faces. For src/core/geom only.
#pragma once

#include "base/progress.h"
#include "geom/kernel/edge_points.h"

namespace kervo {

/// Gives every face a mesh that has none as good as wanted. Only one thread may do so at a time. Throws Stopped.
void meshFaces(const Shape& shape, EdgePoints& edgePoints, const MeshQuality& quality, Progress& progress);

}  // namespace kervo
