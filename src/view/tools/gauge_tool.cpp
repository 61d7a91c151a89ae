#include "view/tools/gauge_tool.h"

namespace kervo {

void GaugeTool::set(std::vector<Gauge> gauges) {
  gauges_ = std::move(gauges);
  if (hot_ && *hot_ >= gauges_.size()) hot_.reset();
}

std::optional<std::size_t> GaugeTool::at(QPointF position) const {
  constexpr double reach = 11;  // pixels round a bead
  for (std::size_t i = 0; i < gauges_.size(); ++i)
    if (takes(shapeOf(gauges_[i], space_.eye()), space_.pixels(position), reach * space_.pixelRatio())) return i;
  return std::nullopt;
}

bool GaugeTool::press(const Pointer& pointer) {
  if (pointer.button != Qt::LeftButton) return false;
  hot_ = at(pointer.now);
  return hot_.has_value();
}

void GaugeTool::drag(const Pointer& pointer) {
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
  return taken || hot_;
}

void GaugeTool::mark(Overlay& overlay, bool) const {
  overlay.gauges = gauges_;
  overlay.hotGauge = hot_;
}

}  // namespace kervo
