#include "exchange/loose_edges.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_TEdge.hxx>
#include <BRep_TVertex.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <algorithm>

#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Measured at points along the edge, so not quite the largest.
constexpr int samples = 32;
constexpr double safety = 1.5;

/// How far the edge's curve on a face runs from the edge itself, in mm.
double deviation(const TopoDS_Edge& edge, const TopoDS_Face& face) {
  double first, last;
  TopLoc_Location place;
  const Handle(Geom_Curve)& curve = BRep_Tool::Curve(edge, place, first, last);
  if (curve.IsNull()) return 0;
  double farthest = 0;
  // A seam has a curve for either direction.
  for (const TopAbs_Orientation way : {TopAbs_FORWARD, TopAbs_REVERSED}) {
    double from, to;
    const TopoDS_Edge directed = TopoDS::Edge(edge.Oriented(way));
    const Handle(Geom2d_Curve) onFace = BRep_Tool::CurveOnSurface(directed, face, from, to);
    if (onFace.IsNull()) continue;
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
    for (int i = 0; i <= samples; ++i) {
      const double t = first + (last - first) * i / samples, s = from + (to - from) * i / samples;
      const gp_Pnt2d uv = onFace->Value(s);
      const gp_Pnt on = curve->Value(t).Transformed(place.Transformation());
      farthest = std::max(farthest, on.Distance(surface->Value(uv.X(), uv.Y())));
    }
  }
  return farthest;
}

void tightenEdge(const TopoDS_Edge& edge, const TopTools_ListOfShape& faces) {
  if (BRep_Tool::Degenerated(edge) || BRep_Tool::Tolerance(edge) <= tolerance::looseEdge) return;
  double farthest = 0;
  for (const TopoDS_Shape& face : faces) farthest = std::max(farthest, deviation(edge, TopoDS::Face(face)));
  const double needed = std::max(tolerance::point, safety * farthest);
  if (needed < BRep_Tool::Tolerance(edge)) Handle(BRep_TEdge)::DownCast(edge.TShape())->Tolerance(needed);
}

/// A corner has to hold the ends of its edges, and be no tighter than they are.
void tightenCorner(const TopoDS_Vertex& corner, const TopTools_ListOfShape& edges) {
  if (BRep_Tool::Tolerance(corner) <= tolerance::looseEdge) return;
  const gp_Pnt point = BRep_Tool::Pnt(corner);
  double needed = tolerance::point;
  for (const TopoDS_Shape& each : edges) {
    const TopoDS_Edge& edge = TopoDS::Edge(each);
    if (BRep_Tool::Degenerated(edge)) return;
    const BRepAdaptor_Curve curve(edge);
    const double toFirst = point.Distance(curve.Value(curve.FirstParameter()));
    const double toLast = point.Distance(curve.Value(curve.LastParameter()));
    needed = std::max({needed, BRep_Tool::Tolerance(edge), safety * std::min(toFirst, toLast)});
  }
  if (needed < BRep_Tool::Tolerance(corner)) Handle(BRep_TVertex)::DownCast(corner.TShape())->Tolerance(needed);
}

}  // namespace

void tightenLooseEdges(const TopoDS_Shape& shape) {
  TopTools_IndexedDataMapOfShapeListOfShape faces, edges;
  TopExp::MapShapesAndAncestors(shape, TopAbs_EDGE, TopAbs_FACE, faces);
  TopExp::MapShapesAndAncestors(shape, TopAbs_VERTEX, TopAbs_EDGE, edges);
  for (int i = 1; i <= faces.Extent(); ++i) tightenEdge(TopoDS::Edge(faces.FindKey(i)), faces(i));
  for (int i = 1; i <= edges.Extent(); ++i) tightenCorner(TopoDS::Vertex(edges.FindKey(i)), edges(i));
}

}  // namespace kervo
