// The faces, edges and vertices of a shape and how they are connected, found in one walk. For src/core/geom only.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <cstdint>
#include <vector>

#include "geom/shape.h"

namespace kervo {

/// Each part once, in the order in which the topology has them; faces and edges oriented as they are met first.
struct Skeleton {
  struct EdgePart {
    TopoDS_Edge edge;
    std::vector<std::uint32_t> faces;  ///< those it bounds; none for an edge of a curve
    bool visible = true;               ///< has a length, and is no seam of one closed face
  };
  struct VertexPart {
    TopoDS_Vertex vertex;
    std::vector<std::uint32_t> faces;
    std::uint32_t edgeCount = 0;
  };

  std::vector<TopoDS_Face> faces;
  std::vector<EdgePart> edges;
  std::vector<VertexPart> vertices;
};

/// Found on first use and kept with the shape, which is not empty. From any thread.
const Skeleton& skeletonOf(const Shape& shape);
/// The reference is valid only while the shape lives.
const Skeleton& skeletonOf(Shape&&) = delete;

}  // namespace kervo
