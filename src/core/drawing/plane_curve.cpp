#include "drawing/plane_curve.h"

#include <algorithm>
#include <numbers>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "geom/primitives.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double near = tolerance::point;
constexpr double turn = 2 * std::numbers::pi;

PlanePoint onCircle(PlanePoint centre, double radius, double angle) {
  return {centre.u + radius * std::cos(angle), centre.v + radius * std::sin(angle)};
}

void requireFinite(std::initializer_list<double> numbers, const std::string& place) {
  for (const double number : numbers)
    if (!std::isfinite(number) || std::abs(number) > tolerance::largestSize)
      throw Error(say("a coordinate is not finite or beyond %1 mm", formatNumber(tolerance::largestSize)), place,
                  say("Type a smaller number"));
}

}  // namespace

PlanePoint LineCurve::at(double t) const {
  if (t == 0) return from_;
  if (t == 1) return to_;
  return {from_.u + (to_.u - from_.u) * t, from_.v + (to_.v - from_.v) * t};
}

PlanePoint LineCurve::tangentAt(double) const {
  const double length = distance(from_, to_);
  return {(to_.u - from_.u) / length, (to_.v - from_.v) / length};
}

PlaneBox LineCurve::box() const {
  return {{std::min(from_.u, to_.u), std::min(from_.v, to_.v)}, {std::max(from_.u, to_.u), std::max(from_.v, to_.v)}};
}

bool LineCurve::holds(PlanePoint point) const {
  const double length = distance(from_, to_);
  const double t = ((point.u - from_.u) * (to_.u - from_.u) + (point.v - from_.v) * (to_.v - from_.v)) / length;
  return t > -near && t < length + near;
}

SpaceCurve LineCurve::on(const Plane& plane) const {
  return Segment{plane.at(from_.u, from_.v), plane.at(to_.u, to_.v)};
}

void LineCurve::require(const std::string& place) const {
  requireFinite({from_.u, from_.v, to_.u, to_.v}, place);
  if (distance(from_, to_) < tolerance::smallestSize)
    throw Error(say("the line has no length"), place, say("Move one of its ends"));
}

PlanePoint ArcCurve::at(double t) const {
  // The end angle itself, so that neighbours which are given it meet.
  const double angle = t == 1 ? toAngle_ : fromAngle_ + (toAngle_ - fromAngle_) * t;
  return onCircle(centre_, radius_, angle);
}

PlanePoint ArcCurve::tangentAt(double t) const {
  const double angle = fromAngle_ + (toAngle_ - fromAngle_) * t;
  return {-std::sin(angle), std::cos(angle)};
}

PlaneBox ArcCurve::box() const {
  return {{centre_.u - radius_, centre_.v - radius_}, {centre_.u + radius_, centre_.v + radius_}};
}

bool ArcCurve::holds(PlanePoint point) const {
  double angle = std::atan2(point.v - centre_.v, point.u - centre_.u) - fromAngle_;
  const double slack = near / radius_;
  while (angle < -slack) angle += turn;
  while (angle > turn - slack) angle -= turn;
  return angle < toAngle_ - fromAngle_ + slack;
}

SpaceCurve ArcCurve::on(const Plane& plane) const {
  Plane axes = plane;
  axes.origin = plane.at(centre_.u, centre_.v);
  return CircularArc{axes, radius_, fromAngle_, toAngle_};
}

void ArcCurve::require(const std::string& place) const {
  const double sweep = toAngle_ - fromAngle_;
  if (!closed() && (!(sweep > tolerance::parallel) || sweep > turn - tolerance::parallel))
    throw Error(say("the arc spans no angle, or all of it"), place,
                say("Give it two different angles, or draw a circle"));
  requireFinite({centre_.u, centre_.v, radius_, fromAngle_, sweep}, place);
  try {
    requireSize("radius", radius_);
  } catch (const Error& error) {
    throw error.within(place);
  }
}

CircleCurve::CircleCurve(PlanePoint centre, double radius) : ArcCurve(centre, radius, 0, turn) {}

PlanePoint EllipseCurve::across() const {
  const double size = length(axis_);
  return PlanePoint{-axis_.v, axis_.u} * (other_ / size);
}

bool EllipseCurve::closed() const {
  return to_ - from_ > turn - tolerance::parallel;
}

PlanePoint EllipseCurve::at(double t) const {
  const double angle = t == 1 ? to_ : from_ + (to_ - from_) * t;
  return centre_ + axis_ * std::cos(angle) + across() * std::sin(angle);
}

PlanePoint EllipseCurve::tangentAt(double t) const {
  const double angle = from_ + (to_ - from_) * t;
  const PlanePoint way = across() * std::cos(angle) - axis_ * std::sin(angle);
  return way * (1 / length(way));
}

PlaneBox EllipseCurve::box() const {
  const PlanePoint other = across();
  const PlanePoint half{std::hypot(axis_.u, other.u), std::hypot(axis_.v, other.v)};
  return {centre_ - half, centre_ + half};
}

double EllipseCurve::angleAt(PlanePoint point) const {
  const PlanePoint way = point - centre_, other = across();
  return std::atan2(dot(way, other) / dot(other, other), dot(way, axis_) / dot(axis_, axis_));
}

bool EllipseCurve::holds(PlanePoint point) const {
  double angle = angleAt(point) - from_;
  const double slack = near / std::min(length(axis_), other_);
  while (angle < -slack) angle += turn;
  while (angle > turn - slack) angle -= turn;
  return angle < to_ - from_ + slack;
}

SpaceCurve EllipseCurve::on(const Plane& plane) const {
  const double size = length(axis_);
  // The kernel's ellipses begin at the end of their long axis.
  const bool isLong = size >= other_;
  const double shift = isLong ? 0 : -turn / 4;
  const PlanePoint x = (isLong ? axis_ * (1 / size) : across() * (1 / other_));
  EllipticalArc arc;
  arc.axes = plane;
  arc.axes.origin = plane.at(centre_.u, centre_.v);
  arc.axes.x = plane.x * x.u + plane.y * x.v;
  arc.axes.y = plane.y * x.u - plane.x * x.v;
  arc.large = std::max(size, other_);
  arc.small = std::min(size, other_);
  arc.fromAngle = from_ + shift;
  arc.toAngle = to_ + shift;
  return arc;
}

void EllipseCurve::require(const std::string& place) const {
  const double sweep = to_ - from_;
  if (!closed() && (!(sweep > tolerance::parallel) || sweep > turn - tolerance::parallel))
    throw Error(say("the arc spans no angle, or all of it"), place,
                say("Give it two different ends, or draw an ellipse"));
  requireFinite({centre_.u, centre_.v, axis_.u, axis_.v, other_, sweep}, place);
  try {
    requireSize("half axis", std::hypot(axis_.u, axis_.v));
    requireSize("half axis", other_);
  } catch (const Error& error) {
    throw error.within(place);
  }
}

PlaneBox SplineCurve::box() const {
  PlaneBox box{spline_.poles().front(), spline_.poles().front()};
  for (const PlanePoint& pole : spline_.poles()) {
    box.low = {std::min(box.low.u, pole.u), std::min(box.low.v, pole.v)};
    box.high = {std::max(box.high.u, pole.u), std::max(box.high.v, pole.v)};
  }
  return box;
}

bool SplineCurve::holds(PlanePoint point) const {
  return distance(spline_.at(spline_.nearest(point)), point) < near;
}

SpaceCurve SplineCurve::on(const Plane& plane) const {
  return SplineArc{plane, spline_};
}

void SplineCurve::require(const std::string& place) const {
  double length = 0;
  for (std::size_t i = 0; i < spline_.poles().size(); ++i) {
    requireFinite({spline_.poles()[i].u, spline_.poles()[i].v}, place);
    if (i > 0) length += distance(spline_.poles()[i - 1], spline_.poles()[i]);
  }
  if (length < tolerance::smallestSize)
    throw Error(say("the spline has no length"), place, say("Move its points apart"));
}

Meetings meetings(const Carrier& a, const Carrier& b) {
  if (a.radius == 0 && b.radius == 0) {
    const PlanePoint alongA = a.to - a.from, alongB = b.to - b.from, between = b.from - a.from;
    const double determinant = cross(alongA, alongB);
    if (std::abs(determinant) < tolerance::parallel * length(alongA) * length(alongB))
      return {{}, std::abs(cross(alongA, between)) / length(alongA) < 2 * near};
    return {{a.from + alongA * (cross(between, alongB) / determinant)}};
  }
  if (b.radius == 0) return meetings(b, a);
  const auto ends = [](const Chord& chord) {
    const PlanePoint half = chord.along * std::sqrt(std::max(0.0, chord.square));
    return std::vector<PlanePoint>{chord.middle + half, chord.middle - half};
  };
  if (a.radius == 0) {
    const Chord chord = chordOfLine(a.from, a.to, b.centre, b.radius);
    const double height = distance(chord.middle, b.centre);
    if (height > b.radius + near) return {};
    if (std::abs(height - b.radius) <= std::max(near, tolerance::relative * b.radius)) return {{chord.middle}};
    return {ends(chord)};
  }
  const double apart = distance(a.centre, b.centre);
  const double slack = std::max(near, tolerance::relative * (a.radius + b.radius));
  if (apart > a.radius + b.radius + near || apart < std::abs(a.radius - b.radius) - near) return {};
  if (apart < slack) return {{}, true};
  const Chord chord = chordOfCircles(a.centre, a.radius, b.centre, b.radius);
  if (std::abs(distance(chord.middle, a.centre) - a.radius) < slack) return {{chord.middle}};
  return {ends(chord)};
}

}  // namespace kervo
