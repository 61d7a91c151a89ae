// The open borders of a surface: edges that bound one face only, and the directions across them.
// For src/core/geom only.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>
#include <vector>

namespace kervo {

/// An open border edge with the face that it bounds.
struct Border {
  TopoDS_Edge edge;
  TopoDS_Face face;

  struct Frame {
    gp_Pnt point;
    gp_Vec outwards;  ///< unit length: in the face's tangent plane, across the edge, away from the face
  };
  /// At a parameter of the edge. Throws Error where the surface comes to a point.
  Frame at(double parameter) const;
};

/// Without seams and degenerate edges.
std::vector<Border> bordersOf(const TopoDS_Shape& surface);

}  // namespace kervo
