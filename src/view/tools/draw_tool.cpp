#include "view/tools/draw_tool.h"

#include <QCoreApplication>
#include <QPolygonF>
#include <cmath>

#include "geom/outline.h"

namespace kervo {

void DrawTool::set(std::optional<Plane> plane, std::string curve) {
  plane_ = plane;
  curve_ = std::move(curve);
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

std::optional<std::pair<PlanePoint, PlanePoint>> DrawTool::ends() const {
  const auto from = onPlane(from_);
  auto to = onPlane(to_);
  if (!from || !to) return std::nullopt;
  // Of a circle the radius is to be round, not the point that it goes through.
  if (curve_ == "circle")
    to = PlanePoint{from->u + snapped(std::hypot(to->u - from->u, to->v - from->v), space_.eye()), from->v};
  return std::pair(*from, *to);
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
  if (const auto points = ends(); points && !pointer.still()) drawn(points->first, points->second);
}

void DrawTool::paint(QPainter& painter) const {
  const auto points = drawing_ ? ends() : std::nullopt;
  if (!points || !plane_) return;
  const auto& [from, to] = *points;
  Polyline line;
  if (curve_ == "circle") {
    line = outlineOf({"", CircleCurve{from, std::hypot(to.u - from.u, to.v - from.v)}}, *plane_);
  } else if (curve_ == "rectangle") {
    for (const auto& [u, v] : {std::pair(from.u, from.v), std::pair(to.u, from.v), std::pair(to.u, to.v),
                               std::pair(from.u, to.v), std::pair(from.u, from.v)})
      line.push_back(plane_->at(u, v));
  } else {
    line = {plane_->at(from.u, from.v), plane_->at(to.u, to.v)};
  }
  QPolygonF shape;
  for (const Point& point : line) shape << space_.toWidget(point);
  painter.setPen(QPen(space_.colors().axes[2], 2));
  painter.drawPolyline(shape);
  painter.setPen(space_.colors().text);
  const QString size =
      curve_ == "rectangle"
          ? QCoreApplication::translate("DrawTool", "%1 × %2 mm")
                .arg(std::abs(to.u - from.u))
                .arg(std::abs(to.v - from.v))
          : QCoreApplication::translate("DrawTool", "%1 mm").arg(std::hypot(to.u - from.u, to.v - from.v), 0, 'g', 5);
  painter.drawText(to_ + QPointF(14, -8), size);
}

}  // namespace kervo
