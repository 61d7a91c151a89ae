#include "view/tools/draw_tool.h"

#include <QCoreApplication>
#include <QPolygonF>
#include <algorithm>
#include <cmath>

#include "view/tools/drawing_tool.h"

namespace kervo {

void DrawTool::set(std::optional<Plane> plane, const StrokeKind* kind) {
  plane_ = kind ? plane : std::nullopt;
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
  PlanePoint end = *to;
  if (const double size = distance(*from, end); kind_->about && size > 0 && !(near && near(to_)))
    end = *from + (end - *from) * (snapped(size, space_.eye()) / size);
  // Ends that lie on points are those points exactly; nothing else is to be taken for one.
  return Stroke{*from, end, distance(*beside, *here) / 100, true};
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
  const auto drawn = drawing_ ? stroke() : std::nullopt;
  if (!drawn || !plane_) return;
  // By itself, where its points are: what it meets is found when it is let go.
  const Drawing preview = withStroke({}, {}, kind_->name, *drawn);
  Solution there;
  for (const DrawnPoint& point : preview.points) there.points.push_back(point.last);
  for (const DrawnCurve& curve : preview.curves) there.sizes.push_back(curve.sizes);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(space_.colors().axes[2], 2));
  for (const PlanarCurve& part : curvesOf(preview, {}, there, true)) {
    QPolygonF shape;
    for (const Point& point : part.geometry->on(*plane_).outline()) shape << space_.toWidget(point);
    painter.drawPolyline(shape);
  }
  QStringList texts;
  for (const double size : sizesOf(kind_->name, *drawn)) texts << QString::number(size, 'g', 5);
  painter.setPen(space_.colors().text);
  painter.drawText(to_ + QPointF(14, -8),
                   QCoreApplication::translate("DrawTool", "%1 mm").arg(texts.join(QStringLiteral(" × "))));
}

}  // namespace kervo
