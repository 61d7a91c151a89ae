// How a drawing that is edited looks.
#include <QPainterPath>
#include <QPolygonF>
#include <cmath>
#include <set>

#include "base/error.h"
#include "drawing/constraint_kind.h"
#include "view/tools/drawing_tool.h"

namespace kervo {

namespace {

constexpr double freeWidth = 1.2, settledWidth = 2.2, constructionWidth = 1.2, selectedWidth = 3.2, pointRadius = 3.5;
constexpr double leastGrid = 5;  // pixels between lines of the grid: finer ones are left out

QPolygonF zigzag(const QPolygonF& line) {
  constexpr double step = 5, high = 3;
  QPolygonF result;
  int count = 0;
  for (qsizetype i = 1; i < line.size(); ++i) {
    const QLineF piece(line[i - 1], line[i]);
    const double size = piece.length();
    if (size <= 0) continue;
    const QPointF way = (piece.p2() - piece.p1()) / size, side(-way.y(), way.x());
    const int teeth = static_cast<int>(size / step);
    for (int tooth = 0; tooth <= teeth; ++tooth)
      result << piece.p1() + way * (tooth * step) + side * (count++ % 2 ? high : -high);
  }
  if (!line.isEmpty()) result << line.back();
  return result;
}

/// A curve that was not drawn, and how it is shown.
struct Given {
  bool there = false, construction = false, taken = false;
};

Given givenAs(const EditedDrawing& edited, const std::string& part) {
  for (const TakenCurve& each : edited.values.taken)
    if (each.curve.id == part) return {true, each.construction, true};
  for (const DrawnCopies& copies : edited.drawing.copies)
    if (copies.id == part) return {true, copies.construction, false};
  return {};
}

}  // namespace

void DrawingTool::paintGrid(QPainter& painter) const {
  if (!grid_) return;
  double step = *grid_;
  while (step / pixelSize() < leastGrid) step *= 10;
  const QSizeF size = space_.room();
  double low[2] = {1e300, 1e300}, high[2] = {-1e300, -1e300};
  for (const QPointF corner :
       {QPointF(0, 0), QPointF(size.width(), 0), QPointF(0, size.height()), QPointF(size.width(), size.height())}) {
    const auto at = seenOn(drawn().plane, space_, corner);
    if (!at) return;
    low[0] = std::min(low[0], at->u), high[0] = std::max(high[0], at->u);
    low[1] = std::min(low[1], at->v), high[1] = std::max(high[1], at->v);
  }
  constexpr double most = 400;  // lines either way; seen from far aside there would be many more
  if ((high[0] - low[0]) / step > most || (high[1] - low[1]) / step > most) return;
  QColor thin = space_.colors().text, strong = thin;
  thin.setAlphaF(0.07F);
  strong.setAlphaF(0.16F);
  const auto seen = [&](double u, double v) { return space_.toWidget(drawn().plane.at(u, v)); };
  painter.setRenderHint(QPainter::Antialiasing, false);
  constexpr double farthest = 1e9;  // lines from the origin: beyond it nothing is numbered any more
  if (std::abs(low[0]) / step > farthest || std::abs(low[1]) / step > farthest) return;
  const auto first = [&](double from) { return static_cast<int>(std::ceil(from / step)); };
  for (int i = first(low[0]); i * step <= high[0]; ++i) {
    painter.setPen(i % 10 == 0 ? strong : thin);
    painter.drawLine(seen(i * step, low[1]), seen(i * step, high[1]));
  }
  for (int i = first(low[1]); i * step <= high[1]; ++i) {
    painter.setPen(i % 10 == 0 ? strong : thin);
    painter.drawLine(seen(low[0], i * step), seen(high[0], i * step));
  }
  painter.setRenderHint(QPainter::Antialiasing);
  // The axes of the plane.
  for (int axis = 0; axis < 2; ++axis) {
    const std::string id = axis == 0 ? uAxisId : vAxisId;
    const bool meant = hot_ == id || isSelected(id);
    QPen pen(meant ? space_.colors().teal : space_.colors().axes[static_cast<std::size_t>(axis)], meant ? 2.4 : 1);
    pen.setStyle(Qt::DashDotLine);
    painter.setPen(pen);
    axis == 0 ? painter.drawLine(seen(low[0], 0), seen(high[0], 0))
              : painter.drawLine(seen(0, low[1]), seen(0, high[1]));
  }
  if (hot_ != originId && !isSelected(originId)) return;
  painter.setPen(QPen(space_.colors().teal, 2.4));
  painter.drawEllipse(seen(0, 0), pointRadius + 2, pointRadius + 2);
}

void DrawingTool::paintCurves(QPainter& painter) const {
  const ViewLook& look = space_.colors();
  const Drawing& drawing = drawn().drawing;
  const Solution& solution = shown();
  // What a selected or marked constraint is on, and what cannot hold.
  std::set<std::string> meant, bad;
  for (const DrawnConstraint& constraint : drawing.constraints)
    if (constraint.id == hot_ || isSelected(constraint.id)) meant.insert(constraint.on.begin(), constraint.on.end());
  for (const Conflict& conflict : solution.conflicts)
    for (const DrawnConstraint& constraint : drawing.constraints)
      if (constraint.id == conflict.constraint) bad.insert(constraint.on.begin(), constraint.on.end());
  try {
    const DrawingIds ids(drawing);
    for (const PlanarCurve& curve : curvesOf(drawing, drawn().values, solution, true)) {
      const std::string id = partOf(drawn(), curve.id);
      const auto index = ids.curve(id);
      const Given given = index ? Given() : givenAs(drawn(), id);
      if (!index && !given.there) continue;
      const bool helps = index ? drawing.curves[*index].construction : given.construction;
      const bool chosen = isSelected(id) || meant.contains(id);
      const bool settled = !index || (*index < solution.settled.size() && solution.settled[*index]);
      QPen pen(chosen || hot_ == id ? look.teal : look.text, helps     ? constructionWidth
                                                             : settled ? settledWidth
                                                                       : freeWidth);
      if (chosen) pen.setWidthF(selectedWidth);
      if (helps) pen.setStyle(Qt::DashDotLine);
      QPolygonF shape = outlineOf(curve, drawn().plane, space_);
      if (bad.contains(id)) {
        shape = zigzag(shape);
        pen.setColor(look.vermilion);
      }
      // Seen on bodies and on the ground, light or dark.
      QColor halo = look.textBack;
      halo.setAlphaF(0.55F);
      painter.setPen(QPen(halo, pen.widthF() + 2.4));
      painter.drawPolyline(shape);
      if (given.taken) pen.setWidthF(pen.widthF() + 1.2);
      painter.setPen(pen);
      painter.drawPolyline(shape);
      if (given.taken && !helps) {
        // A double line: it belongs to a body.
        painter.setPen(QPen(look.textBack, 1));
        painter.drawPolyline(shape);
      }
    }
  } catch (const Error&) {
    // A curve that has become none while it is dragged: the points alone show where it is.
  }
}

void DrawingTool::paintRegions(QPainter& painter) const {
  if (dragged_) return;
  const ViewLook& look = space_.colors();
  for (const RegionShape& region : drawn().regions) {
    const bool hot = region.name == hotRegion_;
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    for (const auto& outline : region.outlines) {
      QPolygonF line;
      for (const PlanePoint at : outline) line << space_.toWidget(drawn().plane.at(at.u, at.v));
      path.addPolygon(line);
    }
    QColor tint = region.taken ? look.violet : hot ? look.teal : look.text;
    tint.setAlphaF(region.taken ? (hot ? 0.34F : 0.24F) : hot ? 0.16F : 0.045F);
    painter.fillPath(path, tint);
    if (!region.taken) continue;
    // Never by colour alone.
    tint.setAlphaF(0.5F);
    painter.fillPath(path, QBrush(tint, Qt::BDiagPattern));
  }
}

void DrawingTool::paintPoints(QPainter& painter) const {
  const ViewLook& look = space_.colors();
  const Drawing& drawing = drawn().drawing;
  const Solution& solution = shown();
  for (std::size_t i = 0; i < drawing.points.size(); ++i) {
    const PlanePoint place = solution.points.at(i);
    const QPointF at = space_.toWidget(drawn().plane.at(place.u, place.v));
    const auto& ways = solution.directions.at(i);
    const bool marked =
        hot_ == drawing.points[i].id || held_ == drawing.points[i].id || isSelected(drawing.points[i].id);
    if (ways.size() == 1) {
      // The only way it can still move.
      const PlanePoint ahead = place + ways.front();
      const QPointF way = space_.toWidget(drawn().plane.at(ahead.u, ahead.v)) - at;
      const double size = std::hypot(way.x(), way.y());
      if (size > 0) {
        painter.setPen(QPen(look.text, 1.2));
        painter.drawLine(at - way / size * 9, at + way / size * 9);
      }
    }
    painter.setPen(QPen(marked ? look.teal : look.text, marked ? 2.6 : 1.4));
    // Filled where nothing can move it, a ring where it is free.
    painter.setBrush(ways.empty() ? look.text : look.textBack);
    painter.drawEllipse(at, pointRadius, pointRadius);
  }
  painter.setBrush(Qt::NoBrush);
}

void DrawingTool::paint(QPainter& painter) const {
  if (!edited_) return;
  // Bodies step back while one draws.
  QColor veil = space_.colors().backgroundTop;
  veil.setAlphaF(0.5F);
  painter.fillRect(QRectF(QPointF(), space_.room()), veil);
  painter.setRenderHint(QPainter::Antialiasing);
  paintGrid(painter);
  paintRegions(painter);
  paintCurves(painter);
  kervo::paint(painter, marks(), drawn(), hot_, space_.colors());
  paintPoints(painter);
}

}  // namespace kervo
