// The mesh of a face that knows its points along its edges. The kernel notes those on the edges instead, which outlive
// the many faces that trials give them.
#pragma once

#include <Poly_Triangulation.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <vector>

#include "geom/kernel/shape_body.h"

namespace kervo {

class BorderedMesh : public Poly_Triangulation {
 public:
  BorderedMesh(std::size_t nodes, std::size_t triangles, bool normals)
      : Poly_Triangulation(static_cast<int>(nodes), static_cast<int>(triangles), false, normals) {}

  /// The nodes (from 0) along the edge's curve. The edge is one of the face that has this mesh.
  void setBorder(const TopoDS_Face& face, const TopoDS_Edge& edge, std::vector<int> nodes) {
    borders_[within(face, edge)] = std::move(nodes);
  }
  /// None if that edge is not known.
  const std::vector<int>& border(const TopoDS_Face& face, const TopoDS_Edge& edge) const {
    static const std::vector<int> none;
    const auto found = borders_.find(within(face, edge));
    return found == borders_.end() ? none : found->second;
  }

  DEFINE_STANDARD_RTTI_INLINE(BorderedMesh, Poly_Triangulation)

 private:
  /// The edge as it lies in the face, wherever that lies. In some files one edge, moved, is both rims of a wall.
  static TopoDS_Shape within(const TopoDS_Face& face, const TopoDS_Edge& edge) {
    if (face.Location().IsIdentity()) return edge;
    return edge.Located(face.Location().Inverted() * edge.Location());
  }

  ShapeMap<std::vector<int>> borders_;
};

}  // namespace kervo
