#include "drawing/plane_map.h"

#include <cmath>
#include <numbers>

#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double wholeTurn = 2 * std::numbers::pi;

}  // namespace

PlaneMap PlaneMap::turn(double angle) {
  const double c = std::cos(angle), s = std::sin(angle);
  return {{c, s}, {-s, c}, {}};
}

std::shared_ptr<const PlaneCurve> lineCurve(PlanePoint from, PlanePoint to) {
  if (distance(from, to) < tolerance::smallestSize) return nullptr;
  return std::make_shared<const LineCurve>(from, to);
}

std::shared_ptr<const PlaneCurve> roundCurve(PlanePoint centre, PlanePoint a, PlanePoint b, double from, double to) {
  if (to < from) std::swap(from, to);
  // The other way round, so that it runs counter-clockwise.
  if (cross(a, b) < 0) {
    b = b * -1;
    from = -std::exchange(to, -from);
  }
  // The two half axes: where a point is farthest from and nearest to the centre (Rytz).
  const double shift = std::atan2(2 * dot(a, b), dot(a, a) - dot(b, b)) / 2;
  const PlanePoint large = a * std::cos(shift) + b * std::sin(shift);
  const PlanePoint small = b * std::cos(shift) - a * std::sin(shift);
  const double radius = length(large), other = length(small);
  if (other < tolerance::smallestSize) return nullptr;
  const bool closed = to - from > wholeTurn - tolerance::parallel;
  if (radius - other < tolerance::sameDirection * radius) {
    if (closed) return std::make_shared<const CircleCurve>(centre, radius);
    const double start = std::atan2(a.v, a.u);
    return std::make_shared<const ArcCurve>(centre, radius, start + from, start + to);
  }
  if (closed) return std::make_shared<const EllipseCurve>(centre, centre + large, other, 0, wholeTurn);
  return std::make_shared<const EllipseCurve>(centre, centre + large, other, from - shift, to - shift);
}

std::shared_ptr<const PlaneCurve> mapped(const PlaneCurve& curve, const PlaneMap& map) {
  if (const auto* ellipse = dynamic_cast<const EllipseCurve*>(&curve)) {
    const PlanePoint axis = ellipse->end() - ellipse->centre();
    const PlanePoint across = PlanePoint{-axis.v, axis.u} * (ellipse->other() / length(axis));
    return roundCurve(map(ellipse->centre()), map.turned(axis), map.turned(across), ellipse->from(), ellipse->to());
  }
  if (const auto* spline = dynamic_cast<const SplineCurve*>(&curve)) {
    const Spline& given = spline->spline();
    std::vector<PlanePoint> poles;
    for (const PlanePoint& pole : given.poles()) poles.push_back(map(pole));
    return std::make_shared<const SplineCurve>(
        Spline::of(given.degree(), given.knots(), std::move(poles), given.weights(), given.closed()));
  }
  if (const auto* arc = dynamic_cast<const ArcCurve*>(&curve)) {
    const Carrier round = curve.carrier().value_or(Carrier{});
    const double radius = round.radius;
    return roundCurve(map(round.centre), map.turned({radius, 0}), map.turned({0, radius}), arc->fromAngle(),
                      arc->toAngle());
  }
  return lineCurve(map(curve.at(0)), map(curve.at(1)));
}

}  // namespace kervo
