#include "view/gauge.h"

#include <cmath>

namespace kervo {

GaugeShape shapeOf(const Gauge& gauge, const Camera& camera) {
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

std::optional<double> dragged(const Gauge& gauge, QPointF pixel, const Camera& camera) {
  const auto [eye, sight] = camera.sight(pixel);
  // The point of the gauge's line nearest to the line of sight.
  const double cosine = dot(gauge.along, sight), sine2 = 1 - cosine * cosine;
  if (sine2 < 1e-3) return std::nullopt;
  const Vector between = gauge.from - eye;
  const double place = (cosine * dot(sight, between) - dot(gauge.along, between)) / sine2;
  return gauge.centred ? 2 * std::abs(place) : place;
}

double snapped(double value, const Camera& camera) {
  const double wanted = 4 * camera.pixelSize();
  const double power = std::pow(10, std::floor(std::log10(wanted)));
  const double step = wanted <= power       ? power
                      : wanted <= 2 * power ? 2 * power
                      : wanted <= 5 * power ? 5 * power
                                            : 10 * power;
  return std::round(value / step) * step;
}

}  // namespace kervo
