// Meshes of exact shapes, for the screen and for picking.
#pragma once

#include <cstdint>
#include <vector>

#include "base/progress.h"
#include "geom/mesh.h"
#include "geom/shape.h"

namespace kervo {

/// How closely a mesh follows its shape.
struct MeshQuality {
  double deflection = 0.1;    ///< mm between a face and its triangles, at most
  double angleRadians = 0.2;  ///< between neighbouring segments of a curve, at most

  /// For a body of this size on a screen. Stepwise, so that small changes of size keep the meshes that are there.
  static MeshQuality forSize(double diagonal);
};

/// Triangles and edge lines of one shape, in mm. Immutable once made.
struct BodyMesh {
  /// A run of `count` elements from `first`.
  struct Range {
    std::uint32_t first = 0;
    std::uint32_t count = 0;
  };

  std::vector<float> points;                          ///< x, y, z of every vertex
  std::vector<float> normals;                         ///< outward, one for each vertex
  std::vector<std::uint32_t> triangles;               ///< three vertices each, counter-clockwise from outside
  std::vector<Range> faceVertices;                    ///< the vertices of each face, in the order of facesOf()
  std::vector<Range> faceTriangles;                   ///< the triangles of each face
  std::vector<float> edgePoints;                      ///< x, y, z along the edges
  std::vector<Range> edges;                           ///< the points of each edge, in the order of edgesOf()
  std::vector<std::vector<std::uint32_t>> faceEdges;  ///< the edges around each face
  std::vector<float> corners;                         ///< x, y, z of every vertex of the shape
  Box box;                                            ///< around the mesh
  bool closed = false;                                ///< a watertight solid: its back faces are never seen

  std::size_t triangleCount() const { return triangles.size() / 3; }
};

/// The mesh of a shape. Planar faces are triangulated from their edges' points (CGAL's constrained Delaunay
/// triangulation), curved ones by the kernel (Delabella). Faces that have a mesh at least as good from before keep it.
/// From any thread. Throws Error if a face cannot be meshed, and Stopped on request.
BodyMesh tessellate(const Shape& shape, const MeshQuality& quality, Progress& progress);
/// The triangles of a mesh as they are, each with its own normal; those of one paint are a face, in the order of the
/// paints.
BodyMesh meshForDisplay(const Mesh& mesh);

}  // namespace kervo
