#include "view/tools/draw_tool.h"

#include <QCoreApplication>
#include <QPolygonF>
#include <algorithm>
#include <cmath>

namespace kervo {

void DrawTool::set(std::optional<Plane> plane, const CurveKind* kind) {
  plane_ = kind && kind->drawn() ? plane : std::nullopt;
  kind_ = kind;
  if (!plane_) drawing_ = false;
}

std::optional<PlanePoint> DrawTool::onPlane(QPointF position) const {
  if (!plane_) return std::nullopt;
  const auto [from, direction] = space_.eye().sight(space_.pixels(position));
  const double across = dot(direction, plane_->normal);
  if (std::abs(across) < 1e-3) return std::nullopt;
  const Point at = from - direction * (plane_->signedDistance(from) / across);
  const Vector local = plane_->coordinates(at);
  return PlanePoint{snapped(local.x, space_.eye()), snapped(local.y, space_.eye())};
}

std::optional<std::vector<double>> DrawTool::numbers() const {
  const auto from = onPlane(from_), to = onPlane(to_);
  if (!from || !to) return std::nullopt;
  return kind_->drawn(*from, *to, [this](double length) { return snapped(length, space_.eye()); });
}

bool DrawTool::press(const Pointer& pointer) {
  if (!plane_ || pointer.button != Qt::LeftButton) return false;
  drawing_ = true;
  from_ = to_ = pointer.now;
  return true;
}

void DrawTool::release(const Pointer& pointer) {
  drawing_ = false;
  to_ = pointer.now;
  if (const auto curve = numbers(); curve && !pointer.still()) drawn(*curve);
}

void DrawTool::paint(QPainter& painter) const {
  const auto curve = drawing_ ? numbers() : std::nullopt;
  if (!curve || !plane_) return;
  const std::vector<double> sizes = kind_->sizes(*curve);
  if (std::any_of(sizes.begin(), sizes.end(), [](double size) { return size <= 0; })) return;
  painter.setPen(QPen(space_.colors().axes[2], 2));
  for (const PlanarCurve& part : kind_->curves("", *curve)) {
    QPolygonF shape;
    for (const Point& point : part.geometry->on(*plane_).outline()) shape << space_.toWidget(point);
    painter.drawPolyline(shape);
  }
  QStringList texts;
  for (const double size : sizes) texts << QString::number(size, 'g', 5);
  painter.setPen(space_.colors().text);
  painter.drawText(to_ + QPointF(14, -8),
                   QCoreApplication::translate("DrawTool", "%1 mm").arg(texts.join(QStringLiteral(" × "))));
}

}  // namespace kervo
