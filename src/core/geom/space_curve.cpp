#include "geom/space_curve.h"

#include <numbers>

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
constexpr double outlineStep = std::numbers::pi / 36;
/// A span of a spline in the picture of a curve.
constexpr int stepsOfSpan = 16;

template <class... Of>
struct Overloaded : Of... {
  using Of::operator()...;
};

template <class Arc>
double angleAt(const Arc& arc, double t) {
  return arc.fromAngle + (arc.toAngle - arc.fromAngle) * t;
}

Point on(const Plane& plane, PlanePoint at) {
  return plane.at(at.u, at.v);
}

Vector alongPlane(const Plane& plane, PlanePoint way) {
  return plane.x * way.u + plane.y * way.v;
}

/// The length of something that moves at `speed`, by Gauss's rule of five points on each step.
template <class Speed>
double lengthOf(Speed&& speed, int steps) {
  constexpr double places[] = {0.0, 0.5384693101056831, 0.9061798459386640};
  constexpr double weights[] = {0.5688888888888889, 0.4786286704993665, 0.2369268850561891};
  double sum = 0;
  for (int i = 0; i < steps; ++i) {
    const double middle = (i + 0.5) / steps, half = 0.5 / steps;
    sum += weights[0] * speed(middle) * half;
    for (const int k : {1, 2})
      sum += weights[k] * (speed(middle - places[k] * half) + speed(middle + places[k] * half)) * half;
  }
  return sum;
}

}  // namespace

bool SpaceCurve::closed() const {
  return std::visit(
      Overloaded{[](const Segment&) { return false; }, [](const SplineArc& arc) { return arc.spline.closed(); },
                 [](const auto& arc) { return arc.toAngle - arc.fromAngle >= turn; }},
      form_);
}

Point SpaceCurve::at(double t) const {
  return std::visit(
      Overloaded{[&](const Segment& line) { return line.from + (line.to - line.from) * t; },
                 [&](const CircularArc& arc) {
                   return arc.axes.at(arc.radius * std::cos(angleAt(arc, t)), arc.radius * std::sin(angleAt(arc, t)));
                 },
                 [&](const EllipticalArc& arc) {
                   return arc.axes.at(arc.large * std::cos(angleAt(arc, t)), arc.small * std::sin(angleAt(arc, t)));
                 },
                 [&](const SplineArc& arc) { return on(arc.plane, arc.spline.at(t)); }},
      form_);
}

Vector SpaceCurve::tangentAt(double t) const {
  return std::visit(
      Overloaded{[&](const Segment& line) { return normalized(line.to - line.from); },
                 [&](const CircularArc& arc) {
                   return arc.axes.y * std::cos(angleAt(arc, t)) - arc.axes.x * std::sin(angleAt(arc, t));
                 },
                 [&](const EllipticalArc& arc) {
                   return normalized(arc.axes.y * (arc.small * std::cos(angleAt(arc, t))) -
                                     arc.axes.x * (arc.large * std::sin(angleAt(arc, t))));
                 },
                 [&](const SplineArc& arc) { return alongPlane(arc.plane, arc.spline.frame(t).tangent()); }},
      form_);
}

double SpaceCurve::length() const {
  return std::visit(Overloaded{[](const Segment& line) { return distance(line.from, line.to); },
                               [](const CircularArc& arc) { return arc.radius * (arc.toAngle - arc.fromAngle); },
                               [](const EllipticalArc& arc) {
                                 const double sweep = arc.toAngle - arc.fromAngle;
                                 return lengthOf(
                                     [&](double t) {
                                       return sweep * std::hypot(arc.large * std::sin(angleAt(arc, t)),
                                                                 arc.small * std::cos(angleAt(arc, t)));
                                     },
                                     64);
                               },
                               [](const SplineArc& arc) {
                                 const auto spans = static_cast<int>(arc.spline.poles().size()) - arc.spline.degree();
                                 return lengthOf([&](double t) { return kervo::length(arc.spline.frame(t).first); },
                                                 8 * spans);
                               }},
                    form_);
}

SpaceCurve SpaceCurve::moved(Vector by) const {
  SpaceCurve result = *this;
  std::visit(Overloaded{[&](Segment& line) {
                          line.from = line.from + by;
                          line.to = line.to + by;
                        },
                        [&](SplineArc& arc) { arc.plane.origin = arc.plane.origin + by; },
                        [&](auto& arc) { arc.axes.origin = arc.axes.origin + by; }},
             result.form_);
  return result;
}

Polyline SpaceCurve::outline() const {
  const int steps = std::visit(
      Overloaded{[](const Segment&) { return 1; },
                 [](const SplineArc& arc) {
                   return (static_cast<int>(arc.spline.poles().size()) - arc.spline.degree()) * stepsOfSpan;
                 },
                 [](const auto& arc) {
                   return std::max(2, static_cast<int>(std::ceil((arc.toAngle - arc.fromAngle) / outlineStep)));
                 }},
      form_);
  Polyline points;
  for (int i = 0; i <= steps; ++i) points.push_back(at(static_cast<double>(i) / steps));
  return points;
}

}  // namespace kervo
