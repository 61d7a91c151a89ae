#include "view/tools/section_tool.h"

#include <algorithm>
#include <cmath>

#include "geom/planes.h"

namespace kervo {

namespace {

constexpr double width = 22, margin = 8, markSize = 13;

/// 1, 2 or 5 times a power of ten, not less.
double roundUp(double value) {
  const double power = std::pow(10, std::floor(std::log10(value)));
  for (const double factor : {1.0, 2.0, 5.0})
    if (value <= factor * power) return factor * power;
  return 10 * power;
}

}  // namespace

void SectionTool::set(std::optional<RulerMark> mark) {
  // What is dragged stays in the hand.
  if (held_ && mark && mark_ && mark->section == mark_->section) return;
  mark_ = std::move(mark);
  held_ = held_ && mark_;
}

QRectF SectionTool::bar() const {
  const QSizeF room = space_.room();
  return {room.width() - width - margin, 14, width, std::max(60.0, room.height() - 28)};
}

std::pair<double, double> SectionTool::range() const {
  if (!mark_) return {0, 1};
  Box box;
  for (const SceneBody& body : space_.shown().bodies)
    if (!body.isGuide()) box.add(body.picture->mesh.box);
  Span span;
  span.add(mark_->gauge.value);
  if (!box.empty()) span = spanAlong(box, mark_->gauge.from, mark_->gauge.along);
  constexpr double least = 1;
  const double beyond = std::max(least, 0.04 * (span.high - span.low));
  return {std::min(span.low - beyond, mark_->gauge.value), std::max(span.high + beyond, mark_->gauge.value)};
}

double SectionTool::step() const {
  const auto [low, high] = range();
  constexpr double steps = 100;
  return mark_ ? roundUp((high - low) / mark_->unit / steps) * mark_->unit : 1;
}

double SectionTool::heightOf(double value) const {
  const auto [low, high] = range();
  const QRectF bar = this->bar();
  return bar.bottom() - (value - low) / (high - low) * bar.height();
}

QPointF SectionTool::tip() const {
  return {bar().left(), mark_ ? heightOf(mark_->gauge.value) : 0};
}

void SectionTool::moveTo(double height, bool finely, bool done) {
  if (!mark_) return;
  const auto [low, high] = range();
  const QRectF bar = this->bar();
  double value = low + (bar.bottom() - height) / bar.height() * (high - low);
  const double grid = finely ? step() / 10 : step();
  value = std::clamp(std::round(value / grid) * grid, low, high);
  const bool same = value == mark_->gauge.value;
  mark_->gauge.value = value;
  if (moved && (done || !same)) moved(mark_->section, value, done);
  space_.redraw();
}

void SectionTool::stepBy(double steps) {
  if (!mark_) return;
  const auto [low, high] = range();
  const double grid = step() * std::abs(steps), value = mark_->gauge.value;
  mark_->gauge.value = std::clamp(std::round(value / grid + (steps > 0 ? 1 : -1)) * grid, low, high);
  if (moved) moved(mark_->section, mark_->gauge.value, true);
  space_.redraw();
}

bool SectionTool::press(const Pointer& pointer) {
  if (!mark_ || pointer.button != Qt::LeftButton) return false;
  const QRectF bar = this->bar().adjusted(-markSize - 2, 0, margin, 0);
  if (!bar.contains(pointer.now)) return false;
  held_ = true;
  moveTo(pointer.now.y(), pointer.holds(Qt::ShiftModifier), false);
  return true;
}

void SectionTool::drag(const Pointer& pointer) {
  if (held_) moveTo(pointer.now.y(), pointer.holds(Qt::ShiftModifier), false);
}

void SectionTool::release(const Pointer& pointer) {
  if (!held_) return;
  held_ = false;
  moveTo(pointer.now.y(), pointer.holds(Qt::ShiftModifier), true);
}

bool SectionTool::point(const Pointer& pointer, bool taken) {
  const bool hot = mark_ && bar().adjusted(-markSize - 2, 0, margin, 0).contains(pointer.now);
  if (hot != hot_) space_.redraw();
  hot_ = hot;
  return taken || hot;
}

bool SectionTool::key(int key, Qt::KeyboardModifiers modifiers) {
  if (!mark_ || (key != Qt::Key_PageUp && key != Qt::Key_PageDown)) return false;
  const double steps = modifiers.testFlag(Qt::ShiftModifier) ? 0.1 : 1;
  stepBy(key == Qt::Key_PageUp ? steps : -steps);
  return true;
}

void SectionTool::paint(QPainter& painter) const {
  if (!mark_) return;
  const ViewLook& look = space_.colors();
  const QRectF bar = this->bar();
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  QColor line = look.text;
  line.setAlphaF(0.35f);
  painter.setPen(QPen(line, 1));
  painter.setBrush(look.textBack);
  painter.drawRoundedRect(bar, 3, 3);
  // Some twenty lines, each fifth of them long.
  const auto [low, high] = range();
  constexpr double lines = 22;
  const double apart = roundUp((high - low) / mark_->unit / lines) * mark_->unit;
  line.setAlphaF(0.7f);
  painter.setPen(QPen(line, 1));
  for (double number = std::ceil(low / apart); number * apart <= high; ++number) {
    const double y = heightOf(number * apart);
    const bool isLong = std::fmod(std::abs(number), 5) < 0.5;
    if (y > bar.top() + 3 && y < bar.bottom() - 3)
      painter.drawLine(QPointF(bar.right() - (isLong ? 15 : 9), y), QPointF(bar.right() - 1, y));
  }
  const QPointF at = tip();
  QPolygonF mark;
  mark << at << at + QPointF(-markSize, -markSize * 0.62) << at + QPointF(-markSize, markSize * 0.62);
  painter.setPen(QPen(look.ochre, 1.4));
  painter.drawLine(at, QPointF(bar.right(), at.y()));
  painter.setBrush(hot_ || held_ ? look.ochre.lighter(115) : look.ochre);
  painter.drawPolygon(mark);
  painter.restore();
}

}  // namespace kervo
