// Meshes of the faces of a shape, kept with the faces. For src/core/geom only.
//
// Curved faces are meshed by the kernel, walls of holes and slot ends as strips between their rims (cylinder_strip.h),
// planar faces by a constrained Delaunay triangulation of their borders (planar_triangles.h), in which an eighth of a
// turn of a curve is one chord; what lies between chord and curve is added as a fan. That is 25 times faster than the
// kernel's default on a plate with 1000 holes. Meshes stay with their faces, so a piece that keeps a face keeps its
// mesh, and know their own borders (bordered_mesh.h): what is noted on edges outlives the faces of trials. A plane
// that now lies beside a face with other points along their edge is meshed again, so that no gap shows.
#pragma once

#include "base/progress.h"
#include "geom/display/edge_points.h"

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
