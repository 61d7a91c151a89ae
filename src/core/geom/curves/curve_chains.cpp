#include "geom/curves/curve_chains.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GeomAPI_ExtremaCurveCurve.hxx>
#include <GeomAPI_IntCS.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomConvert.hxx>
#include <GeomConvert_BSplineCurveToBezierCurve.hxx>
#include <Geom_BezierCurve.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <IntCurvesFace_Intersector.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <array>
#include <map>

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
  return distance(stretches.front().start(), stretches.back().end()) < touching;
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

namespace {

std::vector<CurveStretch> stretchesOf(const TopoDS_Shape& shape) {
  std::vector<CurveStretch> stretches;
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(shape, TopAbs_EDGE, edges);
  for (int i = 1; i <= edges.Extent(); ++i) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges(i));
    if (BRep_Tool::Degenerated(edge)) continue;
    TopLoc_Location place;
    CurveStretch stretch;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, place, stretch.from, stretch.to);
    if (curve.IsNull()) continue;
    stretch.curve = Handle(Geom_Curve)::DownCast(curve->Transformed(place.Transformation()));
    if (const auto trimmed = Handle(Geom_TrimmedCurve)::DownCast(stretch.curve); !trimmed.IsNull())
      stretch.curve = trimmed->BasisCurve();
    stretches.push_back(edge.Orientation() == TopAbs_REVERSED ? stretch.reversed() : stretch);
  }
  return stretches;
}

/// Which ends of stretches lie at one place: each end gets its place's number.
class EndPlaces {
 public:
  explicit EndPlaces(const std::vector<CurveStretch>& stretches) {
    for (const CurveStretch& stretch : stretches) ends_.push_back({numberOf(stretch.start()), numberOf(stretch.end())});
    counts_.resize(places_.size());
    for (const auto& [start, end] : ends_) {
      ++counts_[start];
      ++counts_[end];
    }
  }
  std::size_t of(std::size_t stretch, bool last) const { return last ? ends_[stretch].second : ends_[stretch].first; }
  /// Whether exactly two ends meet there: a chain goes on.
  bool goesOn(std::size_t place) const { return counts_[place] == 2; }

 private:
  std::size_t numberOf(Point at) {
    const auto cell = [](double x) { return static_cast<long long>(std::floor(x / touching)); };
    for (long long i = cell(at.x) - 1; i <= cell(at.x) + 1; ++i)
      for (long long j = cell(at.y) - 1; j <= cell(at.y) + 1; ++j)
        for (long long k = cell(at.z) - 1; k <= cell(at.z) + 1; ++k)
          if (const auto found = cells_.find({i, j, k}); found != cells_.end())
            for (const std::size_t place : found->second)
              if (distance(places_[place], at) < touching) return place;
    places_.push_back(at);
    cells_[{cell(at.x), cell(at.y), cell(at.z)}].push_back(places_.size() - 1);
    return places_.size() - 1;
  }

  std::vector<Point> places_;
  std::map<std::array<long long, 3>, std::vector<std::size_t>> cells_;
  std::vector<std::pair<std::size_t, std::size_t>> ends_;
  std::vector<int> counts_;
};

}  // namespace

std::vector<CurveChain> chainsOf(const TopoDS_Shape& shape) {
  return kernelCall("following curves", [&] {
    const std::vector<CurveStretch> stretches = stretchesOf(shape);
    const EndPlaces places(stretches);
    std::vector<bool> used(stretches.size(), false);
    std::vector<CurveChain> chains;
    // From a stretch on, as long as exactly one other begins where the last one ends.
    const auto follow = [&](std::size_t first, bool backwards) {
      CurveChain& chain = chains.emplace_back();
      for (std::size_t now = first;;) {
        used[now] = true;
        chain.stretches.push_back(backwards ? stretches[now].reversed() : stretches[now]);
        const std::size_t end = places.of(now, !backwards);
        if (!places.goesOn(end)) return;
        std::optional<std::size_t> next;
        for (std::size_t i = 0; i < stretches.size() && !next; ++i)
          if (!used[i] && (places.of(i, false) == end || places.of(i, true) == end)) next = i;
        if (!next) return;
        backwards = places.of(*next, false) != end;
        now = *next;
      }
    };
    // Open ones begin where nothing goes on, then what is left goes round.
    for (std::size_t i = 0; i < stretches.size(); ++i)
      if (!used[i] && !places.goesOn(places.of(i, false))) follow(i, false);
    for (std::size_t i = 0; i < stretches.size(); ++i)
      if (!used[i] && !places.goesOn(places.of(i, true))) follow(i, true);
    for (std::size_t i = 0; i < stretches.size(); ++i)
      if (!used[i]) follow(i, false);
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
  // The kernel gives parameters of circles from 0 on, wherever the stretch lies.
  if (stretch.curve->IsPeriodic()) {
    const double period = stretch.curve->Period();
    while (parameter < stretch.from - tolerance::rounding) parameter += period;
    while (parameter > stretch.from + period) parameter -= period;
    if (parameter > stretch.to && distance(stretch.at(parameter), stretch.start()) < slack) parameter = stretch.from;
  }
  if (parameter < stretch.from && distance(stretch.at(parameter), stretch.start()) < slack) parameter = stretch.from;
  if (parameter > stretch.to && distance(stretch.at(parameter), stretch.end()) < slack) parameter = stretch.to;
  if (parameter >= stretch.from && parameter <= stretch.to) found.push_back(parameter);
}

/// Parts of it between the knots of a spline: the kernel samples each range, and misses what lies between samples.
std::vector<std::pair<double, double>> spansOf(const CurveStretch& stretch) {
  std::vector<std::pair<double, double>> spans;
  double from = stretch.from;
  if (const auto spline = Handle(Geom_BSplineCurve)::DownCast(stretch.curve); !spline.IsNull())
    for (int i = 1; i <= spline->NbKnots(); ++i)
      if (const double knot = spline->Knot(i);
          knot > from + tolerance::parallel && knot < stretch.to - tolerance::parallel)
        spans.emplace_back(std::exchange(from, knot), knot);
  spans.emplace_back(from, stretch.to);
  return spans;
}

void addFaces(std::vector<double>& found, const CurveStretch& stretch, const TopoDS_Shape& shape) {
  const Handle(GeomAdaptor_Curve) adaptor = new GeomAdaptor_Curve(stretch.curve);
  for (TopExp_Explorer it(shape, TopAbs_FACE); it.More(); it.Next()) {
    IntCurvesFace_Intersector meeting(TopoDS::Face(it.Current()), tolerance::point);
    for (const auto& [from, to] : spansOf(stretch)) {
      meeting.Perform(adaptor, from, to);
      for (int i = 1; meeting.IsDone() && i <= meeting.NbPnt(); ++i) addOn(found, stretch, meeting.WParameter(i));
    }
  }
}

/// Roots of a polynomial by its Bézier coefficients, between 0 and 1: parts whose coefficients have one sign have none,
/// and others are halved.
void addRoots(std::vector<double>& roots, const std::vector<double>& coefficients, double from, double to) {
  const auto [low, high] = std::minmax_element(coefficients.begin(), coefficients.end());
  if (*low > 0 || *high < 0) return;
  if (to - from < tolerance::rounding) return roots.push_back((from + to) / 2);
  std::vector<double> left, right = coefficients;
  left.push_back(right.front());
  for (std::size_t k = 1; k < coefficients.size(); ++k) {
    for (std::size_t i = 0; i + k < coefficients.size(); ++i) right[i] = (right[i] + right[i + 1]) / 2;
    left.push_back(right.front());
  }
  const double middle = (from + to) / 2;
  addRoots(roots, left, from, middle);
  addRoots(roots, right, middle, to);
}

void addPlaneOfSpline(std::vector<double>& found, const CurveStretch& stretch, const Plane& plane) {
  const Handle(Geom_BSplineCurve) spline = splineOf(stretch);
  GeomConvert_BSplineCurveToBezierCurve spans(spline);
  TColStd_Array1OfReal knots(1, spans.NbArcs() + 1);
  spans.Knots(knots);
  for (int arc = 1; arc <= spans.NbArcs(); ++arc) {
    const Handle(Geom_BezierCurve) span = spans.Arc(arc);
    std::vector<double> above, roots;
    for (int i = 1; i <= span->NbPoles(); ++i)
      above.push_back(plane.signedDistance(fromPnt(span->Pole(i))) * span->Weight(i));
    // One that lies in the plane crosses it nowhere.
    if (std::all_of(above.begin(), above.end(), [](double each) { return std::abs(each) < sameEnd; })) continue;
    addRoots(roots, above, 0, 1);
    for (const double root : roots) addOn(found, stretch, knots(arc) + root * (knots(arc + 1) - knots(arc)));
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
    const bool isSpline = !Handle(Geom_BSplineCurve)::DownCast(stretch.curve).IsNull();
    if (cutter.plane && isSpline) {
      addPlaneOfSpline(found, stretch, *cutter.plane);
    } else if (cutter.plane) {
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
