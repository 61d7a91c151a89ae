#include <algorithm>
#include <numbers>

#include "geom/flat/flat_curves.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// The arc through three points, in the sense of one that is nearly there already.
SpaceCurve arcThrough(const CircularArc& arc, Point from, Point to) {
  const SpaceCurve before(arc);
  const Point middle = before.at(0.5);
  const auto flat = [&](Point point) {
    const Vector at = arc.axes.coordinates(point);
    return PlanePoint{at.x, at.y};
  };
  const PlanePoint a = flat(from), b = flat(middle), c = flat(to);
  const PlanePoint ab = b - a, ac = c - a;
  const double twice = 2 * cross(ab, ac);
  if (std::abs(twice) < tolerance::direction) return Segment{from, to};
  const PlanePoint centre =
      a + PlanePoint{ac.v * dot(ab, ab) - ab.v * dot(ac, ac), ab.u * dot(ac, ac) - ac.u * dot(ab, ab)} * (1 / twice);
  CircularArc result = arc;
  result.axes.origin = arc.axes.at(centre.u, centre.v);
  result.radius = distance(a, centre);
  const auto angle = [&](PlanePoint at) { return std::atan2(at.v - centre.v, at.u - centre.u); };
  result.fromAngle = angle(a);
  result.toAngle = angle(c);
  while (result.toAngle <= result.fromAngle) result.toAngle += 2 * std::numbers::pi;
  return result;
}

/// A curve that is nearly there already, from one point to another.
SpaceCurve between(const SpaceCurve& curve, Point from, Point to) {
  if (std::holds_alternative<Segment>(curve.form())) return Segment{from, to};
  if (const auto* arc = std::get_if<CircularArc>(&curve.form())) return arcThrough(*arc, from, to);
  if (const auto* arc = std::get_if<SplineArc>(&curve.form())) {
    const auto flat = [&](Point point) {
      const Vector at = arc->plane.coordinates(point);
      return PlanePoint{at.x, at.y};
    };
    std::vector<PlanePoint> poles = arc->spline.poles();
    poles.front() = flat(from);
    poles.back() = flat(to);
    return SplineArc{arc->plane, Spline::of(arc->spline.degree(), arc->spline.knots(), std::move(poles),
                                            arc->spline.weights(), false)};
  }
  // An ellipse has no other one through those points with the same axes.
  constexpr int count = 65;
  std::vector<PlanePoint> points;
  Plane plane = std::get<EllipticalArc>(curve.form()).axes;
  for (int i = 0; i < count; ++i) {
    const Vector at = plane.coordinates(i == 0           ? from
                                        : i + 1 == count ? to
                                                         : curve.at(static_cast<double>(i) / (count - 1)));
    points.push_back({at.x, at.y});
  }
  return SplineArc{plane, Spline::through(points, false)};
}

}  // namespace

std::vector<NamedCurve> withMetEnds(std::vector<NamedCurve> curves, double gap) {
  std::vector<Point> places;
  const auto placeOf = [&](Point end) {
    for (const Point& place : places)
      if (distance(place, end) < gap) return place;
    places.push_back(end);
    return end;
  };
  std::vector<NamedCurve> result;
  for (NamedCurve& each : curves) {
    if (each.curve.closed()) {
      result.push_back(std::move(each));
      continue;
    }
    const Point before = each.curve.at(0), last = each.curve.at(1);
    const Point from = placeOf(before), to = placeOf(last);
    // Shorter than the gap: its ends are one.
    if (distance(from, to) < std::max(gap, tolerance::smallestSize) && each.curve.length() < 4 * gap) continue;
    if (distance(from, before) > tolerance::direction || distance(to, last) > tolerance::direction)
      each.curve = between(each.curve, from, to);
    result.push_back(std::move(each));
  }
  return result;
}

}  // namespace kervo
