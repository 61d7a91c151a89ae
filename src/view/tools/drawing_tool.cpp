#include "view/tools/drawing_tool.h"

#include <QPolygonF>
#include <cmath>

#include "base/error.h"
#include "drawing/constraint_kind.h"

namespace kervo {

namespace {

constexpr double freeWidth = 1.2, settledWidth = 2.2, constructionWidth = 1.2, pointRadius = 3.5;

}  // namespace

std::optional<PlanePoint> seenOn(const Plane& plane, ToolSpace& space, QPointF position) {
  const auto [from, direction] = space.eye().sight(space.pixels(position));
  const double across = dot(direction, plane.normal);
  if (std::abs(across) < 1e-3) return std::nullopt;
  const Vector local = plane.coordinates(from - direction * (plane.signedDistance(from) / across));
  return PlanePoint{local.x, local.y};
}

void DrawingTool::set(std::optional<EditedDrawing> edited) {
  // The trial of what was just dragged comes later: until then it is shown as it was let go.
  if (held_) return;
  edited_ = std::move(edited);
  dragged_.reset();
  hot_.reset();
}

PlanePoint DrawingTool::at(std::size_t point) const {
  return edited_ ? shownOf(*edited_).points[point] : PlanePoint();
}

QPointF DrawingTool::placeOf(std::size_t point) const {
  if (!edited_) return {};
  const PlanePoint place = at(point);
  return space_.toWidget(edited_->plane.at(place.u, place.v));
}

std::optional<std::size_t> DrawingTool::pointAt(QPointF position) const {
  if (!edited_) return std::nullopt;
  std::optional<std::size_t> nearest;
  double least = reach;
  for (std::size_t i = 0; i < edited_->drawing.points.size(); ++i)
    if (const double apart = QLineF(placeOf(i), position).length(); apart < least) {
      least = apart;
      nearest = i;
    }
  return nearest;
}

bool DrawingTool::press(const Pointer& pointer) {
  if (pointer.button != Qt::LeftButton) return false;
  held_ = pointAt(pointer.now);
  from_ = pointer.now;
  return held_.has_value();
}

void DrawingTool::drag(const Pointer& pointer) {
  if (!edited_ || !held_) return;
  const auto from = seenOn(edited_->plane, space_, from_), to = seenOn(edited_->plane, space_, pointer.now);
  if (!from || !to) return;
  dragged_ = dragged(edited_->drawing, edited_->values, {{*held_}, *to - *from});
  dragged_->directions = edited_->solution.directions;
  dragged_->settled = edited_->solution.settled;
  space_.redraw();
}

void DrawingTool::release(const Pointer& pointer) {
  held_.reset();
  if (!edited_ || !dragged_ || pointer.still()) {
    dragged_.reset();
    return;
  }
  edited_->drawing = kervo::moved(edited_->drawing, *dragged_);
  edited_->solution = *dragged_;
  dragged_.reset();
  moved(edited_->drawing);
}

bool DrawingTool::point(const Pointer& pointer, bool taken) {
  const auto before = hot_;
  hot_ = taken ? std::nullopt : pointAt(pointer.now);
  if (hot_ != before) space_.redraw();
  return taken || hot_;
}

void DrawingTool::paint(QPainter& painter) const {
  if (!edited_) return;
  const ViewLook& look = space_.colors();
  const Drawing& drawing = edited_->drawing;
  const Solution& solution = shownOf(*edited_);
  painter.setRenderHint(QPainter::Antialiasing);
  try {
    const DrawingIds ids(drawing);
    for (const PlanarCurve& curve : curvesOf(drawing, edited_->values, solution, true)) {
      const auto index = ids.curve(curve.id.substr(0, curve.id.find('.')));
      if (!index) continue;
      const bool helps = drawing.curves[*index].construction;
      QPen pen(look.text, helps ? constructionWidth : solution.settled.at(*index) ? settledWidth : freeWidth);
      if (helps) pen.setStyle(Qt::DashDotLine);
      QPolygonF shape;
      for (const Point& point : curve.geometry->on(edited_->plane).outline()) shape << space_.toWidget(point);
      // Seen on bodies and on the ground, light or dark.
      QColor halo = look.textBack;
      halo.setAlphaF(0.55F);
      painter.setPen(QPen(halo, pen.widthF() + 2.4));
      painter.drawPolyline(shape);
      painter.setPen(pen);
      painter.drawPolyline(shape);
    }
  } catch (const Error&) {
    // A curve that has become none while it is dragged: the points alone show where it is.
  }
  for (std::size_t i = 0; i < drawing.points.size(); ++i) {
    const bool settled = solution.directions.at(i).empty();
    painter.setPen(QPen(hot_ == i || held_ == i ? look.teal : look.text, hot_ == i || held_ == i ? 2.4 : 1.4));
    // Filled where nothing can move it, a ring where it is free.
    painter.setBrush(settled ? look.text : look.textBack);
    painter.drawEllipse(placeOf(i), pointRadius, pointRadius);
  }
  painter.setBrush(Qt::NoBrush);
}

}  // namespace kervo
