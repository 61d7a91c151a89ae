#include "geom/kernel/curve_edges.h"

#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Ellipse.hxx>
#include <Geom_Line.hxx>

namespace kervo {

namespace {

Handle(Geom_BSplineCurve) bsplineOf(const SplineArc& arc) {
  const Spline& spline = arc.spline;
  TColgp_Array1OfPnt poles(1, static_cast<int>(spline.poles().size()));
  TColStd_Array1OfReal weights(1, poles.Length());
  for (int i = 1; i <= poles.Length(); ++i) {
    const PlanePoint at = spline.poles()[static_cast<std::size_t>(i) - 1];
    poles.SetValue(i, toPnt(arc.plane.at(at.u, at.v)));
    weights.SetValue(i, spline.weights()[static_cast<std::size_t>(i) - 1]);
  }
  std::vector<double> knots;
  std::vector<int> times;
  for (const double knot : spline.knots()) {
    if (knots.empty() || knot > knots.back()) {
      knots.push_back(knot);
      times.push_back(0);
    }
    ++times.back();
  }
  const int count = static_cast<int>(knots.size());
  return new Geom_BSplineCurve(poles, weights, TColStd_Array1OfReal(knots.front(), 1, count),
                               TColStd_Array1OfInteger(times.front(), 1, count), spline.degree());
}

/// The kernel's curve, and its parameters at the ends.
struct Bounded {
  Handle(Geom_Curve) curve;
  double from, to;
};

Bounded boundedOf(const SpaceCurve& curve) {
  if (const auto* line = std::get_if<Segment>(&curve.form())) {
    const gp_Pnt a = toPnt(line->from), b = toPnt(line->to);
    return {new Geom_Line(a, gp_Dir(gp_Vec(a, b))), 0, a.Distance(b)};
  }
  if (const auto* arc = std::get_if<CircularArc>(&curve.form()))
    return {new Geom_Circle(toAxes(arc->axes).Ax2(), arc->radius), arc->fromAngle, arc->toAngle};
  if (const auto* arc = std::get_if<EllipticalArc>(&curve.form()))
    return {new Geom_Ellipse(toAxes(arc->axes).Ax2(), arc->large, arc->small), arc->fromAngle, arc->toAngle};
  return {bsplineOf(std::get<SplineArc>(curve.form())), 0, 1};
}

}  // namespace

TopoDS_Edge edgeAlong(const SpaceCurve& curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
  const Bounded bounded = boundedOf(curve);
  return BRepBuilderAPI_MakeEdge(bounded.curve, from, to, bounded.from, bounded.to);
}

TopoDS_Edge edgeBetween(const SpaceCurve& curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
  if (std::holds_alternative<Segment>(curve.form())) return BRepBuilderAPI_MakeEdge(from, to).Edge();
  if (const auto* arc = std::get_if<CircularArc>(&curve.form()))
    return BRepBuilderAPI_MakeEdge(gp_Circ(toAxes(arc->axes).Ax2(), arc->radius), from, to).Edge();
  return edgeAlong(curve, from, to);
}

TopoDS_Edge closedEdge(const SpaceCurve& curve) {
  if (const auto* arc = std::get_if<CircularArc>(&curve.form()))
    return BRepBuilderAPI_MakeEdge(gp_Circ(toAxes(arc->axes).Ax2(), arc->radius)).Edge();
  const Bounded bounded = boundedOf(curve);
  return BRepBuilderAPI_MakeEdge(bounded.curve, bounded.from, bounded.to).Edge();
}

}  // namespace kervo
