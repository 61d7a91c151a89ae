#include "geom/kernel/flatten.h"

#include <BRepLib.hxx>
#include <BRep_Tool.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Ellipse.hxx>
#include <Geom_Line.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <numbers>
#include <tuple>

#include "base/say.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/planes.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
/// Seen shorter than this, a curve is seen as a point, and one as wide as this as a line.
constexpr double thin = 10 * tolerance::point;

PlanePoint seen(const Plane& plane, const gp_Pnt& point) {
  const Vector at = plane.coordinates(fromPnt(point));
  return {at.x, at.y};
}

PlanePoint seenAlong(const Plane& plane, const gp_XYZ& way) {
  const Vector along{way.X(), way.Y(), way.Z()};
  return {dot(along, plane.x), dot(along, plane.y)};
}

Point onPlane(const Plane& plane, PlanePoint at) {
  return plane.at(at.u, at.v);
}

std::optional<SpaceCurve> lineBetween(const Plane& plane, PlanePoint from, PlanePoint to) {
  if (distance(from, to) < thin) return std::nullopt;
  return SpaceCurve(Segment{onPlane(plane, from), onPlane(plane, to)});
}

/// centre + a·cos(t) + b·sin(t), from one t to another.
struct Turning {
  PlanePoint centre, a, b;
  double from = 0, to = turn;

  PlanePoint at(double t) const { return centre + a * std::cos(t) + b * std::sin(t); }
};

/// All of one that is seen as a line along a direction.
std::optional<SpaceCurve> seenFromItsEdge(const Turning& turning, PlanePoint along, const Plane& plane) {
  Span span;
  const auto add = [&](double t) { span.add(dot(turning.at(t) - turning.centre, along)); };
  add(turning.from);
  add(turning.to);
  const double furthest = std::atan2(dot(turning.b, along), dot(turning.a, along));
  // A turn has two such places; an arc is at most one turn long.
  const double first = furthest + std::ceil((turning.from - furthest) / (turn / 2)) * (turn / 2);
  for (const double t : {first, first + turn / 2, first + turn})
    if (t < turning.to) add(t);
  return lineBetween(plane, turning.centre + along * span.low, turning.centre + along * span.high);
}

/// The main axes of an ellipse are found from any two of its conjugate half diameters.
std::optional<SpaceCurve> seenTurning(Turning turning, const Plane& plane) {
  const double shift =
      std::atan2(2 * dot(turning.a, turning.b), dot(turning.a, turning.a) - dot(turning.b, turning.b)) / 2;
  PlanePoint large = turning.at(shift) - turning.centre, small = turning.at(shift + turn / 4) - turning.centre;
  double from = turning.from - shift, to = turning.to - shift;
  if (length(large) < thin) return std::nullopt;
  if (length(small) < thin) return seenFromItsEdge(turning, large * (1 / length(large)), plane);
  const bool whole = to - from >= turn - tolerance::rounding;
  if (cross(large, small) < 0) {
    small = small * -1;
    std::tie(from, to) = std::pair(-to, -from);
  }
  if (whole) std::tie(from, to) = std::pair(0.0, turn);
  Plane axes = plane;
  axes.origin = onPlane(plane, turning.centre);
  const PlanePoint x = large * (1 / length(large));
  const bool round = std::abs(length(large) - length(small)) < tolerance::point;
  if (round) {
    // A circle has the plane's own axes.
    const double angle = std::atan2(x.v, x.u);
    if (!whole) std::tie(from, to) = std::pair(from + angle, to + angle);
    return SpaceCurve(CircularArc{axes, (length(large) + length(small)) / 2, from, to});
  }
  axes.x = plane.x * x.u + plane.y * x.v;
  axes.y = cross(axes.normal, axes.x);
  return SpaceCurve(EllipticalArc{axes, length(large), length(small), from, to});
}

/// The widest extent of a flat spline along a direction: its ends, and where it turns back.
Span spanOf(const Spline& spline, PlanePoint from, PlanePoint along) {
  Span span;
  const auto slope = [&](double t) { return dot(spline.frame(t).first, along); };
  const int steps = 64 * static_cast<int>(spline.poles().size());
  for (int i = 0; i <= steps; ++i) {
    double low = static_cast<double>(i) / steps;
    span.add(dot(spline.at(low) - from, along));
    if (i == steps) break;
    double high = static_cast<double>(i + 1) / steps;
    if (slope(low) * slope(high) >= 0) continue;
    const bool rises = slope(low) > 0;
    for (int k = 0; k < 60; ++k) {
      const double middle = (low + high) / 2;
      ((slope(middle) > 0) == rises ? low : high) = middle;
    }
    span.add(dot(spline.at(low) - from, along));
  }
  return span;
}

std::optional<SpaceCurve> seenSpline(const Handle(Geom_Curve) & curve, double from, double to, const Plane& plane) {
  Handle(Geom_BSplineCurve) spline =
      GeomConvert::CurveToBSplineCurve(new Geom_TrimmedCurve(curve, from, to), Convert_RationalC1);
  if (spline->IsPeriodic()) spline->SetNotPeriodic();
  std::vector<PlanePoint> poles;
  std::vector<double> weights, knots;
  for (int i = 1; i <= spline->NbPoles(); ++i) {
    poles.push_back(seen(plane, spline->Pole(i)));
    weights.push_back(spline->Weight(i));
  }
  for (int i = 1; i <= spline->NbKnots(); ++i)
    for (int k = 0; k < spline->Multiplicity(i); ++k) knots.push_back(spline->Knot(i));
  // All poles on one line: so is the curve.
  const auto far = std::max_element(poles.begin(), poles.end(), [&](PlanePoint a, PlanePoint b) {
    return distance(poles.front(), a) < distance(poles.front(), b);
  });
  if (distance(poles.front(), *far) < thin) return std::nullopt;
  const PlanePoint along = (*far - poles.front()) * (1 / distance(poles.front(), *far));
  const bool straight = std::all_of(
      poles.begin(), poles.end(), [&](PlanePoint pole) { return std::abs(cross(along, pole - poles.front())) < thin; });
  const bool closed = distance(poles.front(), poles.back()) < thin;
  Spline flat = Spline::of(spline->Degree(), std::move(knots), std::move(poles), std::move(weights), closed);
  if (!straight) return SpaceCurve(SplineArc{plane, std::move(flat)});
  const PlanePoint start = flat.at(0);
  const Span span = spanOf(flat, start, along);
  return lineBetween(plane, start + along * span.low, start + along * span.high);
}

}  // namespace

std::optional<SpaceCurve> flatCurveOf(const TopoDS_Edge& edge, const Plane& plane) {
  double from = 0, to = 0;
  TopLoc_Location location;
  Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, location, from, to);
  if (curve.IsNull()) {
    BRepLib::BuildCurve3d(edge);
    curve = BRep_Tool::Curve(edge, location, from, to);
  }
  if (curve.IsNull()) throw Error(say("an edge has no curve in space"), "", say("Repair the body"));
  if (!location.IsIdentity()) curve = Handle(Geom_Curve)::DownCast(curve->Transformed(location.Transformation()));
  while (const auto trimmed = Handle(Geom_TrimmedCurve)::DownCast(curve)) curve = trimmed->BasisCurve();
  if (curve->IsKind(STANDARD_TYPE(Geom_Line))) {
    // Neighbours end in the same vertices.
    TopoDS_Vertex first, last;
    TopExp::Vertices(edge, first, last);
    const auto end = [&](const TopoDS_Vertex& vertex, double t) {
      return seen(plane, vertex.IsNull() ? curve->Value(t) : BRep_Tool::Pnt(vertex));
    };
    return lineBetween(plane, end(first, from), end(last, to));
  }
  const auto turning = [&](const gp_Ax2& axes, double large, double small) {
    return seenTurning({seen(plane, axes.Location()), seenAlong(plane, axes.XDirection().XYZ()) * large,
                        seenAlong(plane, axes.YDirection().XYZ()) * small, from, to},
                       plane);
  };
  if (const auto circle = Handle(Geom_Circle)::DownCast(curve))
    return turning(circle->Position(), circle->Radius(), circle->Radius());
  if (const auto ellipse = Handle(Geom_Ellipse)::DownCast(curve))
    return turning(ellipse->Position(), ellipse->MajorRadius(), ellipse->MinorRadius());
  return seenSpline(curve, from, to, plane);
}

double looseness(const TopoDS_Shape& shape) {
  constexpr double mostLoose = 0.02;  // corners of bodies are hardly ever looser
  double most = 0;
  for (TopExp_Explorer it(shape, TopAbs_VERTEX); it.More(); it.Next())
    most = std::max(most, BRep_Tool::Tolerance(TopoDS::Vertex(it.Current())));
  return std::clamp(3 * most, tolerance::samePlace, mostLoose);
}

}  // namespace kervo
