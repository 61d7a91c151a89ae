// Edges of the kernel along curves in space. For src/core/geom only.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Vertex.hxx>

#include "geom/kernel/shape_body.h"
#include "geom/space_curve.h"

namespace kervo {

/// From the curve's beginning to its end, with the parameters that the kernel gives it. Null if it cannot be made.
TopoDS_Edge edgeAlong(const SpaceCurve& curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to);
/// The same, with parameters where the vertices lie on the curve.
TopoDS_Edge edgeBetween(const SpaceCurve& curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to);
/// A closed curve, as an edge with a vertex of its own.
TopoDS_Edge closedEdge(const SpaceCurve& curve);

}  // namespace kervo
