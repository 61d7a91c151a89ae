// Curves in a plane moved, divided, and at a distance beside themselves.
#include <algorithm>
#include <numbers>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "drawing/plane_curve.h"

namespace kervo {

namespace {

constexpr double turnAround = 2 * std::numbers::pi;
/// Curves beside others are approximated to this, mm.
constexpr double offsetError = 1e-6;
constexpr int mostPoints = 2000;

PlanePoint leftOf(PlanePoint way) {
  return {-way.v, way.u};
}

double angleOf(PlanePoint way) {
  return std::atan2(way.v, way.u);
}

PlanePoint unitAt(double angle) {
  return {std::cos(angle), std::sin(angle)};
}

/// To the left of a curve, through as many points as it takes.
std::shared_ptr<const PlaneCurve> approximatelyBeside(const PlaneCurve& curve, double left) {
  const auto wanted = [&](double t) { return curve.at(t) + leftOf(curve.tangentAt(t)) * left; };
  double off = 0;
  for (int count = 17; count <= mostPoints; count = 2 * count - 1) {
    std::vector<PlanePoint> points;
    const int last = curve.closed() ? count - 2 : count - 1;
    for (int i = 0; i <= last; ++i) points.push_back(wanted(static_cast<double>(i) / (count - 1)));
    bool folds = false;
    for (std::size_t i = 1; i < points.size(); ++i) {
      const double before = static_cast<double>(i - 1) / (count - 1);
      folds = folds || dot(points[i] - points[i - 1], curve.tangentAt(before)) <= 0;
    }
    if (folds)
      throw Error(say("a curve bends more sharply than the distance %1 mm beside it", formatNumber(std::abs(left))), "",
                  say("Choose a smaller distance, or take the curve out"));
    SplineCurve beside(Spline::through(points, curve.closed()));
    off = 0;
    for (int i = 0; i + 1 < count; ++i) {
      const PlanePoint at = wanted((i + 0.5) / (count - 1));
      off = std::max(off, distance(beside.spline().at(beside.spline().nearest(at)), at));
    }
    if (off < offsetError) return std::make_shared<const SplineCurve>(std::move(beside));
  }
  throw Error(say("a curve cannot be followed closely enough beside it: %1 mm off", formatNumber(off)), "",
              say("Choose another distance"));
}

}  // namespace

PlaneMotion PlaneMotion::turn(PlanePoint about, double angle) {
  PlaneMotion motion{unitAt(angle), leftOf(unitAt(angle)), {}};
  motion.by = about - motion.turned(about);
  return motion;
}

PlaneMotion PlaneMotion::mirror(PlanePoint from, PlanePoint to) {
  const PlanePoint way = (to - from) * (1 / distance(from, to));
  const double cosine = way.u * way.u - way.v * way.v, sine = 2 * way.u * way.v;
  PlaneMotion motion{{cosine, sine}, {sine, -cosine}, {}};
  motion.by = from - motion.turned(from);
  return motion;
}

std::shared_ptr<const PlaneCurve> LineCurve::moved(const PlaneMotion& motion) const {
  return std::make_shared<const LineCurve>(motion(from_), motion(to_));
}

std::shared_ptr<const PlaneCurve> LineCurve::part(double from, double to) const {
  return std::make_shared<const LineCurve>(at(from), at(to));
}

std::shared_ptr<const PlaneCurve> LineCurve::beside(double left) const {
  const PlanePoint way = leftOf(tangentAt(0)) * left;
  return std::make_shared<const LineCurve>(from_ + way, to_ + way);
}

std::shared_ptr<const PlaneCurve> ArcCurve::moved(const PlaneMotion& motion) const {
  // Arcs run counter-clockwise; a mirrored one begins where it ended.
  const double from = angleOf(motion.turned(unitAt(motion.flips() ? toAngle_ : fromAngle_)));
  return std::make_shared<const ArcCurve>(motion(centre_), radius_, from, from + (toAngle_ - fromAngle_));
}

std::shared_ptr<const PlaneCurve> ArcCurve::part(double from, double to) const {
  const double sweep = toAngle_ - fromAngle_;
  return std::make_shared<const ArcCurve>(centre_, radius_, fromAngle_ + sweep * from,
                                          to == 1 ? toAngle_ : fromAngle_ + sweep * to);
}

std::shared_ptr<const PlaneCurve> ArcCurve::beside(double left) const {
  if (radius_ - left < tolerance::smallestSize) return nullptr;
  return std::make_shared<const ArcCurve>(centre_, radius_ - left, fromAngle_, toAngle_);
}

std::shared_ptr<const PlaneCurve> CircleCurve::moved(const PlaneMotion& motion) const {
  return std::make_shared<const CircleCurve>(motion(centre_), radius_);
}

std::shared_ptr<const PlaneCurve> CircleCurve::beside(double left) const {
  if (radius_ - left < tolerance::smallestSize) return nullptr;
  return std::make_shared<const CircleCurve>(centre_, radius_ - left);
}

std::shared_ptr<const PlaneCurve> EllipseCurve::moved(const PlaneMotion& motion) const {
  const bool flips = motion.flips() && !closed();
  return std::make_shared<const EllipseCurve>(motion(centre_), motion(end()), other_, flips ? -to_ : from_,
                                              flips ? -from_ : to_);
}

std::shared_ptr<const PlaneCurve> EllipseCurve::part(double from, double to) const {
  const double sweep = to_ - from_;
  return std::make_shared<const EllipseCurve>(centre_, end(), other_, from_ + sweep * from,
                                              to == 1 ? to_ : from_ + sweep * to);
}

std::shared_ptr<const PlaneCurve> EllipseCurve::beside(double left) const {
  return approximatelyBeside(*this, left);
}

std::shared_ptr<const PlaneCurve> SplineCurve::moved(const PlaneMotion& motion) const {
  std::vector<PlanePoint> poles;
  for (const PlanePoint& pole : spline_.poles()) poles.push_back(motion(pole));
  return std::make_shared<const SplineCurve>(
      Spline::of(spline_.degree(), spline_.knots(), std::move(poles), spline_.weights(), spline_.closed()));
}

std::shared_ptr<const PlaneCurve> SplineCurve::part(double from, double to) const {
  return std::make_shared<const SplineCurve>(spline_.part(from, to));
}

std::shared_ptr<const PlaneCurve> SplineCurve::beside(double left) const {
  return approximatelyBeside(*this, left);
}

std::shared_ptr<const PlaneCurve> planeCurveOf(const SpaceCurve& curve, const Plane& plane) {
  const auto flat = [&](Point point) {
    const Vector at = plane.coordinates(point);
    return PlanePoint{at.x, at.y};
  };
  const auto along = [&](Vector way) { return PlanePoint{dot(way, plane.x), dot(way, plane.y)}; };
  if (const auto* line = std::get_if<Segment>(&curve.form()))
    return std::make_shared<const LineCurve>(flat(line->from), flat(line->to));
  if (const auto* arc = std::get_if<CircularArc>(&curve.form())) {
    if (curve.closed()) return std::make_shared<const CircleCurve>(flat(arc->axes.origin), arc->radius);
    const double shift = angleOf(along(arc->axes.x));
    return std::make_shared<const ArcCurve>(flat(arc->axes.origin), arc->radius, arc->fromAngle + shift,
                                            arc->toAngle + shift);
  }
  if (const auto* arc = std::get_if<EllipticalArc>(&curve.form())) {
    const PlanePoint centre = flat(arc->axes.origin);
    return std::make_shared<const EllipseCurve>(centre, centre + along(arc->axes.x) * arc->large, arc->small,
                                                arc->fromAngle,
                                                curve.closed() ? arc->fromAngle + turnAround : arc->toAngle);
  }
  const auto& arc = std::get<SplineArc>(curve.form());
  std::vector<PlanePoint> poles;
  for (const PlanePoint& pole : arc.spline.poles()) poles.push_back(flat(arc.plane.at(pole.u, pole.v)));
  return std::make_shared<const SplineCurve>(
      Spline::of(arc.spline.degree(), arc.spline.knots(), std::move(poles), arc.spline.weights(), arc.spline.closed()));
}

}  // namespace kervo
