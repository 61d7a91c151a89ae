#include "geom/measure/body_check.h"

#include <BRepGProp.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/measure/soundness.h"
#include "geom/topology.h"

namespace kervo {

namespace {

TopTools_IndexedMapOfShape allOf(const TopoDS_Shape& shape, TopAbs_ShapeEnum kind) {
  TopTools_IndexedMapOfShape map;
  TopExp::MapShapes(shape, kind, map);
  return map;
}

Point middleOf(const TopoDS_Edge& edge) {
  const BRepAdaptor_Curve curve(edge);
  return fromPnt(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2));
}

class Checking {
 public:
  Checking(const Shape& shape, const CheckLimits& limits, Progress& progress)
      : shape_(shape), limits_(limits), progress_(progress) {}

  BodyCheck run() {
    count();
    for (const Flaw& flaw : flawsOf(shape_, progress_)) {
      // Open edges are found below, with their gaps.
      const bool open =
          std::any_of(open_.begin(), open_.end(), [&](const Point& each) { return distance(each, flaw.place) < 1e-9; });
      if (open && shape_.kind() == BodyKind::Solid) continue;
      add(BodyFinding::Kind::FaceNotValid, flaw.what, flaw.place, 0);
      result_.valid = false;
    }
    progress_.throwIfStopped();
    openEdges();
    if (const auto crossing = selfCrossingOf(shape_, progress_)) {
      add(BodyFinding::Kind::SelfCrossing, crossing->what, crossing->place, 0);
      result_.valid = false;
    }
    return std::move(result_);
  }

 private:
  void add(BodyFinding::Kind kind, std::string text, Point place, double size) {
    result_.findings.push_back({kind, std::move(text), place, size});
  }

  void count() {
    const TopoDS_Shape& topology = shape_.body().topology;
    result_.solids = allOf(topology, TopAbs_SOLID).Extent();
    result_.shells = allOf(topology, TopAbs_SHELL).Extent();
    result_.loops = allOf(topology, TopAbs_WIRE).Extent();
    const TopTools_IndexedMapOfShape faces = allOf(topology, TopAbs_FACE), edges = allOf(topology, TopAbs_EDGE),
                                     points = allOf(topology, TopAbs_VERTEX);
    result_.faces = faces.Extent();
    result_.points = points.Extent();
    if (shape_.kind() != BodyKind::Curve) open_ = kervo::openEdges(topology);
    for (int i = 1; i <= edges.Extent(); ++i) {
      progress_.throwIfStopped();
      const TopoDS_Edge& edge = TopoDS::Edge(edges(i));
      if (BRep_Tool::Degenerated(edge)) continue;
      ++result_.edges;
      const double length = GCPnts_AbscissaPoint::Length(BRepAdaptor_Curve(edge), 1e-6);
      if (length < limits_.edge)
        add(BodyFinding::Kind::SmallEdge, say("an edge is %1 mm long", formatNumber(length, 3)), middleOf(edge),
            length);
      loose(BRep_Tool::Tolerance(edge), middleOf(edge), say("an edge"));
    }
    for (int i = 1; i <= points.Extent(); ++i) {
      const TopoDS_Vertex& vertex = TopoDS::Vertex(points(i));
      loose(BRep_Tool::Tolerance(vertex), fromPnt(BRep_Tool::Pnt(vertex)), say("a corner"));
    }
    for (const Face& face : facesOf(shape_)) {
      if (face.area() >= limits_.face) continue;
      add(BodyFinding::Kind::SmallFace,
          say("the face \"%1\" has %2 mm²", face.origins().front(), formatNumber(face.area(), 3)), face.samplePoint(),
          face.area());
    }
  }
  void loose(double tolerance, Point place, const std::string& what) {
    result_.largestTolerance = std::max(result_.largestTolerance, tolerance);
    if (tolerance > limits_.tolerance)
      add(BodyFinding::Kind::Loose, say("%1 is exact to %2 mm only", what, formatNumber(tolerance, 3)), place,
          tolerance);
  }

  /// Of a surface, its border is open too.
  void openEdges() {
    for (const Point& place : open_) {
      double gap = -1;
      for (const Point& other : open_)
        if (const double way = distance(place, other); way > 1e-12 && (gap < 0 || way < gap)) gap = way;
      result_.closed = false;
      add(BodyFinding::Kind::OpenEdge,
          gap < 0 ? say("an edge joins no two faces")
                  : say("an edge joins no two faces; the next such edge is %1 mm away", formatNumber(gap, 3)),
          place, std::max(gap, 0.0));
    }
  }

  const Shape& shape_;
  const CheckLimits& limits_;
  Progress& progress_;
  std::vector<Point> open_;
  BodyCheck result_;
};

}  // namespace

BodyCheck checkBody(const Shape& shape, const CheckLimits& limits, Progress& progress) {
  if (shape.empty()) return {};
  return kernelCall("checking a body", [&] { return Checking(shape, limits, progress).run(); });
}

}  // namespace kervo
