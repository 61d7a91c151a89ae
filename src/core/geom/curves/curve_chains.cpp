#include "geom/curves/curve_chains.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GeomAPI_ExtremaCurveCurve.hxx>
#include <GeomAPI_IntCS.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomConvert.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <IntCurvesFace_Intersector.hxx>
#include <ShapeAnalysis_FreeBounds.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_HSequenceOfShape.hxx>
#include <TopoDS.hxx>
#include <algorithm>

#include "base/error.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/tolerances.h"

namespace kervo {

Point CurveStretch::at(double parameter) const {
  return fromPnt(curve->Value(parameter));
}

Vector CurveStretch::tangentAt(double parameter) const {
  gp_Pnt point;
  gp_Vec way;
  curve->D1(parameter, point, way);
  return normalized(fromVec(way));
}

double CurveStretch::length() const {
  return GCPnts_AbscissaPoint::Length(GeomAdaptor_Curve(curve), from, to, tolerance::parallel);
}

CurveStretch lineFrom(Point from, Point to) {
  const Handle(Geom_Curve) line = new Geom_Line(toPnt(from), toDir(to - from));
  return {line, 0, distance(from, to)};
}

Handle(Geom_BSplineCurve) splineOf(const CurveStretch& stretch) {
  return GeomConvert::CurveToBSplineCurve(new Geom_TrimmedCurve(stretch.curve, stretch.from, stretch.to));
}

CurveStretch CurveStretch::reversed() const {
  const Handle(Geom_Curve) other = curve->Reversed();
  return {other, curve->ReversedParameter(to), curve->ReversedParameter(from)};
}

bool CurveChain::closed() const {
  return distance(stretches.front().start(), stretches.back().end()) < sameEnd;
}

CurveChain CurveChain::reversed() const {
  CurveChain result;
  for (auto stretch = stretches.rbegin(); stretch != stretches.rend(); ++stretch)
    result.stretches.push_back(stretch->reversed());
  return result;
}

std::vector<CurveChain> chainsOf(const Shape& curve) {
  return chainsOf(curve.body().topology);
}

std::vector<CurveChain> chainsOf(const TopoDS_Shape& shape) {
  return kernelCall("following curves", [&] {
    Handle(TopTools_HSequenceOfShape) edges = new TopTools_HSequenceOfShape, wires = new TopTools_HSequenceOfShape;
    for (TopExp_Explorer it(shape, TopAbs_EDGE); it.More(); it.Next())
      if (!BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) edges->Append(it.Current());
    ShapeAnalysis_FreeBounds::ConnectEdgesToWires(edges, sameEnd, false, wires);
    std::vector<CurveChain> chains;
    for (int i = 1; i <= wires->Length(); ++i) {
      CurveChain chain;
      for (BRepTools_WireExplorer it(TopoDS::Wire(wires->Value(i))); it.More(); it.Next()) {
        const TopoDS_Edge& edge = it.Current();
        TopLoc_Location place;
        CurveStretch stretch;
        const Handle(Geom_Curve) shape = BRep_Tool::Curve(edge, place, stretch.from, stretch.to);
        stretch.curve = Handle(Geom_Curve)::DownCast(shape->Transformed(place.Transformation()));
        chain.stretches.push_back(edge.Orientation() == TopAbs_REVERSED ? stretch.reversed() : stretch);
      }
      if (!chain.stretches.empty()) chains.push_back(std::move(chain));
    }
    return chains;
  });
}

Shape bodyOf(const std::vector<CurveChain>& chains) {
  return kernelCall("making curves", [&] {
    BRep_Builder builder;
    TopoDS_Compound all;
    builder.MakeCompound(all);
    TopoDS_Wire wire;
    for (const CurveChain& chain : chains) {
      const auto vertexAt = [&](Point at, Point other) {
        TopoDS_Vertex vertex;
        const Point middle = (at + other) * 0.5;
        builder.MakeVertex(vertex, toPnt(middle), std::max(tolerance::point, distance(at, other)));
        return vertex;
      };
      const auto& stretches = chain.stretches;
      const bool closed = chain.closed();
      const TopoDS_Vertex first =
          vertexAt(stretches.front().start(), closed ? stretches.back().end() : stretches.front().start());
      builder.MakeWire(wire);
      TopoDS_Vertex before = first;
      for (std::size_t i = 0; i < stretches.size(); ++i) {
        const Point end = stretches[i].end();
        const bool last = i + 1 == stretches.size();
        const TopoDS_Vertex after = last && closed ? first : vertexAt(end, last ? end : stretches[i + 1].start());
        BRepBuilderAPI_MakeEdge make(stretches[i].curve, before, after, stretches[i].from, stretches[i].to);
        if (!make.IsDone()) throw Error("an edge cannot be made of a stretch of a curve");
        builder.Add(wire, make.Edge());
        before = after;
      }
      wire.Closed(closed);
      builder.Add(all, wire);
    }
    return makeShape(chains.size() == 1 ? static_cast<const TopoDS_Shape&>(wire) : all, {}, "curve");
  });
}

namespace {

void addOn(std::vector<double>& found, const CurveStretch& stretch, double parameter) {
  const double slack = sameEnd;
  if (parameter < stretch.from && distance(stretch.at(parameter), stretch.start()) < slack) parameter = stretch.from;
  if (parameter > stretch.to && distance(stretch.at(parameter), stretch.end()) < slack) parameter = stretch.to;
  if (parameter >= stretch.from && parameter <= stretch.to) found.push_back(parameter);
}

void addFaces(std::vector<double>& found, const CurveStretch& stretch, const TopoDS_Shape& shape) {
  const Handle(GeomAdaptor_Curve) adaptor = new GeomAdaptor_Curve(stretch.curve);
  for (TopExp_Explorer it(shape, TopAbs_FACE); it.More(); it.Next()) {
    IntCurvesFace_Intersector meeting(TopoDS::Face(it.Current()), tolerance::point);
    meeting.Perform(adaptor, stretch.from, stretch.to);
    for (int i = 1; meeting.IsDone() && i <= meeting.NbPnt(); ++i) addOn(found, stretch, meeting.WParameter(i));
  }
}

void addCurves(std::vector<double>& found, const CurveStretch& stretch, const Shape& curve) {
  for (const CurveChain& chain : chainsOf(curve))
    for (const CurveStretch& other : chain.stretches) {
      GeomAPI_ExtremaCurveCurve nearest(stretch.curve, other.curve, stretch.from, stretch.to, other.from, other.to);
      for (int i = 1; i <= nearest.NbExtrema(); ++i) {
        if (nearest.Distance(i) > sameEnd) continue;
        double own = 0, its = 0;
        nearest.Parameters(i, own, its);
        addOn(found, stretch, own);
      }
      // Where one of the two ends on the other nothing is at a right angle to both.
      for (const Point end : {other.start(), other.end()}) {
        const GeomAPI_ProjectPointOnCurve onto(toPnt(end), stretch.curve, stretch.from, stretch.to);
        if (onto.NbPoints() > 0 && onto.LowerDistance() < sameEnd) addOn(found, stretch, onto.LowerDistanceParameter());
      }
    }
}

}  // namespace

std::vector<double> crossingsOf(const CurveStretch& stretch, const CurveCutter& cutter) {
  return kernelCall("crossing curves", [&] {
    std::vector<double> found;
    if (cutter.plane) {
      const Handle(Geom_Plane) plane = new Geom_Plane(toPln(*cutter.plane));
      GeomAPI_IntCS meeting(new Geom_TrimmedCurve(stretch.curve, stretch.from, stretch.to), plane);
      for (int i = 1; meeting.IsDone() && i <= meeting.NbPoints(); ++i) {
        double u = 0, v = 0, parameter = 0;
        meeting.Parameters(i, u, v, parameter);
        addOn(found, stretch, parameter);
      }
    } else if (cutter.body.kind() == BodyKind::Curve) {
      addCurves(found, stretch, cutter.body);
    } else {
      addFaces(found, stretch, cutter.body.body().topology);
    }
    std::sort(found.begin(), found.end());
    const auto same = [&](double a, double b) { return distance(stretch.at(a), stretch.at(b)) < sameEnd; };
    found.erase(std::unique(found.begin(), found.end(), same), found.end());
    return found;
  });
}

}  // namespace kervo
