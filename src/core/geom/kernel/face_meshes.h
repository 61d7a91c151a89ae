// Meshes of the faces of a shape, kept with the faces. For src/core/geom only.
#pragma once

#include "base/progress.h"
#include "geom/kernel/edge_points.h"

namespace kervo {

/// All meshes of a shape as they are once each of its faces has one.
struct ShapeMeshes {
  std::vector<Handle(Poly_Triangulation)> faces;  ///< in the skeleton's order, with normals; null where there is none
  std::vector<TopLoc_Location> places;            ///< of the meshes
  std::vector<std::vector<gp_Pnt>> edges;         ///< points along every visible edge, in space
};

/// Gives every face a mesh that has none as good as wanted. From any thread: bodies that are cut from one share faces,
/// on which the meshes are kept, so that one waits for another. Throws Stopped.
ShapeMeshes meshFaces(const Shape& shape, const MeshQuality& quality, Progress& progress);

}  // namespace kervo
