// Outlines of curved faces: where a surface turns away from the eye.
#pragma once

#include <vector>

#include "geom/display/tessellate.h"
#include "view/camera.h"

namespace kervo {

/// Line segments (x, y, z of both ends) on the mesh where its normals are at right angles to the line of sight.
std::vector<float> silhouette(const BodyMesh& mesh, const Camera& camera);

}  // namespace kervo
