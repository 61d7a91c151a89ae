// A mesh divided by a plane.
#pragma once

#include "geom/mesh.h"

namespace kervo {

struct MeshHalves {
  Mesh front;  ///< on the side that the plane's normal points to; empty if nothing lies there
  Mesh back;
};

/// Both sides of a closed mesh are closed by the same triangles in the plane, with the paint of none; of an open one
/// they stay open. Volumes and areas add up to rounding. Throws Error for a mesh that runs through itself at the plane.
MeshHalves splitByPlane(const Mesh& mesh, const Plane& plane);

}  // namespace kervo
