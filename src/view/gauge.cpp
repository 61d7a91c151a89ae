#include "view/gauge.h"

#include <cmath>

namespace kervo {

GaugeShape shapeOf(const Gauge& gauge, const Camera& camera) {
  if (gauge.kind == Gauge::Kind::Angle) {
    const QPointF middle = camera.project(gauge.from), arm = camera.project(gauge.armAt(gauge.value));
    const double size = std::hypot(arm.x() - middle.x(), arm.y() - middle.y());
    return {camera.project(gauge.armAt(0)), arm, arm, size > 1e-6 ? (arm - middle) / size : QPointF(0, -1)};
  }
  const double low = gauge.centred ? -gauge.value / 2 : 0, high = gauge.centred ? gauge.value / 2 : gauge.value;
  GaugeShape shape;
  shape.first = camera.project(gauge.from + gauge.along * low);
  shape.second = camera.project(gauge.from + gauge.along * high);
  const QPointF step =
      camera.project(gauge.from + gauge.along * (30 * camera.pixelSize())) - camera.project(gauge.from);
  const double size = std::hypot(step.x(), step.y());
  shape.along = size > 1e-6 ? step / size : QPointF(0, -1);
  shape.bead = gauge.centred ? (shape.first + shape.second) / 2 : shape.second;
  return shape;
}

bool takes(const GaugeShape& shape, QPointF pixel, double reach) {
  const auto near = [&](QPointF p) { return std::hypot(p.x() - pixel.x(), p.y() - pixel.y()) <= reach; };
  return near(shape.bead) || near(shape.second);
}

QPolygonF arcOf(const Gauge& gauge, const Camera& camera) {
  QPolygonF arc;
  if (gauge.kind != Gauge::Kind::Angle) return arc;
  constexpr int steps = 24;
  // Some of the arc shows although the angle is zero, so that one sees where it goes.
  constexpr double least = 0.5;
  const double low = std::min(0.0, gauge.value) - (std::abs(gauge.value) < least ? least / 2 : 0);
  const double high = std::max(0.0, gauge.value) + (std::abs(gauge.value) < least ? least / 2 : 0);
  for (int i = 0; i <= steps; ++i) arc << camera.project(gauge.armAt(low + (high - low) * i / steps));
  return arc;
}

double snappedAngle(double radians) {
  constexpr double degree = 3.14159265358979323846 / 180;
  const double degrees = radians / degree, five = 5 * std::round(degrees / 5);
  return (std::abs(degrees - five) < 1.5 ? five : std::round(degrees)) * degree;
}

std::optional<double> dragged(const Gauge& gauge, QPointF pixel, const Camera& camera) {
  const auto [eye, sight] = camera.sight(pixel);
  if (gauge.kind == Gauge::Kind::Angle) {
    // Where the line of sight meets the plane in which the arm turns.
    const double across = dot(sight, gauge.along);
    if (std::abs(across) < 0.05) return std::nullopt;
    const Vector arm = eye + sight * (dot(gauge.from - eye, gauge.along) / across) - gauge.from;
    return std::atan2(dot(arm, cross(gauge.along, gauge.zero)), dot(arm, gauge.zero));
  }
  // The point of the gauge's line nearest to the line of sight.
  const double cosine = dot(gauge.along, sight), sine2 = 1 - cosine * cosine;
  if (sine2 < 1e-3) return std::nullopt;
  const Vector between = gauge.from - eye;
  const double place = (cosine * dot(sight, between) - dot(gauge.along, between)) / sine2;
  return gauge.centred ? 2 * std::abs(place) : place;
}

double roundStep(const Camera& camera) {
  const double wanted = 4 * camera.pixelSize();
  const double power = std::pow(10, std::floor(std::log10(wanted)));
  return wanted <= power ? power : wanted <= 2 * power ? 2 * power : wanted <= 5 * power ? 5 * power : 10 * power;
}

double snapped(double value, const Camera& camera) {
  const double step = roundStep(camera);
  return std::round(value / step) * step;
}

}  // namespace kervo
