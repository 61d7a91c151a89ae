#include "view/tools/draw_tool.h"

#include <QCoreApplication>
#include <QPolygonF>
#include <algorithm>
#include <cmath>

#include "view/tools/drawing_tool.h"

namespace kervo {

void DrawTool::set(std::optional<Plane> plane, const CurveKind* kind) {
  plane_ = kind && kind->drawn() ? plane : std::nullopt;
  kind_ = kind;
  if (!plane_) drawing_ = false;
}

std::optional<PlanePoint> DrawTool::onPlane(QPointF position) const {
  if (!plane_) return std::nullopt;
  if (const auto point = near ? near(position) : std::nullopt) return point;
  const auto seen = seenOn(*plane_, space_, position);
  if (!seen) return std::nullopt;
  return PlanePoint{snapped(seen->u, space_.eye()), snapped(seen->v, space_.eye())};
}

std::optional<Stroke> DrawTool::stroke() const {
  const auto from = onPlane(from_), to = onPlane(to_);
  const auto beside = plane_ ? seenOn(*plane_, space_, from_ + QPointF(DrawingTool::reach, 0)) : std::nullopt;
  const auto here = plane_ ? seenOn(*plane_, space_, from_) : std::nullopt;
  if (!from || !to || !beside || !here) return std::nullopt;
  const auto rounded = [this](double length) { return snapped(length, space_.eye()); };
  // Ends that lie on points are those points exactly; nothing else is to be taken for one.
  return Stroke{*from, near && near(to_) ? *to : kind_->aimed(*from, *to, rounded), distance(*beside, *here) / 100,
                true};
}

std::optional<std::vector<double>> DrawTool::numbers() const {
  const auto drawn = stroke();
  if (!drawn) return std::nullopt;
  return kind_->drawn(drawn->from, drawn->to, [](double length) { return length; });
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
  auto made = stroke();
  if (!made || pointer.still()) return;
  made->infer = !pointer.holds(Qt::AltModifier);
  drawn(*made);
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
