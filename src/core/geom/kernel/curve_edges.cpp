#include "geom/kernel/curve_edges.h"

#include <Geom_Circle.hxx>
#include <Geom_Line.hxx>

namespace kervo {

TopoDS_Edge edgeAlong(const SpaceCurve& curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
  if (const auto* line = std::get_if<Segment>(&curve.form())) {
    const gp_Pnt a = toPnt(line->from), b = toPnt(line->to);
    return BRepBuilderAPI_MakeEdge(new Geom_Line(a, gp_Dir(gp_Vec(a, b))), from, to, 0, a.Distance(b));
  }
  const auto& arc = std::get<CircularArc>(curve.form());
  return BRepBuilderAPI_MakeEdge(new Geom_Circle(toAxes(arc.axes).Ax2(), arc.radius), from, to, arc.fromAngle,
                                 arc.toAngle);
}

namespace {
gp_Circ circleOf(const SpaceCurve& curve) {
  const auto& arc = std::get<CircularArc>(curve.form());
  return {toAxes(arc.axes).Ax2(), arc.radius};
}
}  // namespace

TopoDS_Edge edgeBetween(const SpaceCurve& curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
  if (std::holds_alternative<Segment>(curve.form())) return BRepBuilderAPI_MakeEdge(from, to).Edge();
  return BRepBuilderAPI_MakeEdge(circleOf(curve), from, to).Edge();
}

TopoDS_Edge closedEdge(const SpaceCurve& curve) {
  return BRepBuilderAPI_MakeEdge(circleOf(curve)).Edge();
}

}  // namespace kervo
