// The checked boolean where meshes are among the bodies. For src/core/geom only: divide(), unite() and partition() come
// here by themselves.
#pragma once

#include "geom/divide/boolean.h"
#include "geom/divide/partition.h"
#include "geom/divide/plane_split.h"

namespace kervo {

bool anyMesh(const std::vector<Shape>& shapes);

/// As divide(): the exact ones among them are meshed, as finely as parts are made. A stock that is not met stays what
/// it is.
Division divideMeshes(const Shape& stock, const std::vector<Shape>& cutters, Progress& progress);
Union uniteMeshes(const std::vector<Shape>& solids, Progress& progress);
/// Surfaces may only be flat ones that reach beyond the bodies.
Partition partitionMeshes(const std::vector<Shape>& solids, const std::vector<Shape>& surfaces, Progress& progress);
/// As splitByPlane(), of a mesh, also of an open one.
PlaneSplit splitMeshByPlane(const Shape& stock, const Plane& plane, const Kerf& kerf, Progress& progress);

}  // namespace kervo
