#include "view/tools/gauge_tool.h"

#include <cmath>

#include "geom/planes.h"

namespace kervo {

void GaugeTool::set(std::vector<Gauge> gauges) {
  gauges_ = std::move(gauges);
  if (hot_ && *hot_ >= gauges_.size()) hot_.reset();
  if (grip_ && *grip_ >= gauges_.size()) grip_.reset();
}

std::optional<std::size_t> GaugeTool::at(QPointF position) const {
  constexpr double reach = 11;  // pixels round a bead
  for (std::size_t i = 0; i < gauges_.size(); ++i)
    if (takes(shapeOf(gauges_[i], space_.eye()), space_.pixels(position), reach * space_.pixelRatio())) return i;
  return std::nullopt;
}

std::optional<std::size_t> GaugeTool::gripAt(QPointF position) const {
  constexpr double reach = 13;  // pixels round its middle
  const QPointF pixel = space_.pixels(position);
  for (std::size_t i = 0; i < gauges_.size(); ++i) {
    const std::optional<Point>& grip = gauges_[i].grip;
    if (!grip) continue;
    const QPointF way = space_.eye().project(*grip) - pixel;
    if (std::hypot(way.x(), way.y()) <= reach * space_.pixelRatio()) return i;
  }
  return std::nullopt;
}

bool GaugeTool::press(const Pointer& pointer) {
  if (pointer.button != Qt::LeftButton) return false;
  hot_ = at(pointer.now);
  grip_ = hot_ ? std::nullopt : gripAt(pointer.now);
  pressed_ = gauges_;
  return hot_ || grip_;
}

void GaugeTool::dragGrip(std::size_t number, const Pointer& pointer) {
  const Gauge& first = pressed_[number];
  const Point start = first.grip.value_or(Point());
  Plane plane = Plane::through(start, space_.eye().towardsEye());
  for (const Gauge& other : pressed_)
    if (&other != &first && other.grip && length(cross(first.along, other.along)) > 0.5)
      plane = Plane::through(start, normalized(cross(first.along, other.along)));
  const auto [eye, sight] = space_.eye().sight(space_.pixels(pointer.now));
  const double across = dot(sight, plane.normal);
  constexpr double flat = 0.05;  // seen from the side, it cannot be told where in the plane the pointer is
  if (std::abs(across) < flat) return;
  const Vector way = eye + sight * (dot(start - eye, plane.normal) / across) - start;
  for (std::size_t i = 0; i < gauges_.size() && i < pressed_.size(); ++i) {
    if (!pressed_[i].grip) continue;
    const double value = pressed_[i].value + dot(way, pressed_[i].along);
    gauges_[i].value = pointer.holds(Qt::ShiftModifier) ? value : snapped(value, space_.eye());
    moved(gauges_[i].field, gauges_[i].value);
  }
}

void GaugeTool::drag(const Pointer& pointer) {
  if (grip_) return dragGrip(*grip_, pointer);
  if (!hot_) return;
  Gauge& gauge = gauges_[*hot_];
  const auto value = dragged(gauge, space_.pixels(pointer.now), space_.eye());
  if (!value) return;
  const bool fine = pointer.holds(Qt::ShiftModifier);
  gauge.value = fine ? *value : gauge.kind == Gauge::Kind::Angle ? snappedAngle(*value) : snapped(*value, space_.eye());
  moved(gauge.field, gauge.value);
}

void GaugeTool::release(const Pointer& pointer) {
  if (pointer.still() && hot_) typed(gauges_[*hot_].field);
}

bool GaugeTool::point(const Pointer& pointer, bool taken) {
  hot_ = at(pointer.now);
  grip_ = hot_ ? std::nullopt : gripAt(pointer.now);
  return taken || hot_ || grip_;
}

void GaugeTool::mark(Overlay& overlay, bool) const {
  overlay.gauges = gauges_;
  overlay.hotGauge = hot_;
  overlay.hotGrip = grip_.has_value();
}

}  // namespace kervo
