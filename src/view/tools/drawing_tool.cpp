#include "view/tools/drawing_tool.h"

#include <QPolygonF>
#include <algorithm>
#include <cmath>
#include <set>
#include <stdexcept>

#include "base/error.h"
#include "drawing/constraint_kind.h"

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

std::string curveId(const PlanarCurve& curve) {
  return curve.id.substr(0, curve.id.find('.'));
}

}  // namespace

std::optional<PlanePoint> seenOn(const Plane& plane, ToolSpace& space, QPointF position) {
  const auto [from, direction] = space.eye().sight(space.pixels(position));
  const double across = dot(direction, plane.normal);
  if (std::abs(across) < 1e-3) return std::nullopt;
  const Vector local = plane.coordinates(from - direction * (plane.signedDistance(from) / across));
  return PlanePoint{local.x, local.y};
}

QPolygonF outlineOf(const PlanarCurve& curve, const Plane& plane, ToolSpace& space) {
  QPolygonF shape;
  for (const Point& point : curve.geometry->on(plane).outline()) shape << space.toWidget(point);
  return shape;
}

const EditedDrawing& DrawingTool::drawn() const {
  if (!edited_) throw std::logic_error("no drawing is edited");  // for the machine
  return *edited_;
}

void DrawingTool::set(std::optional<EditedDrawing> edited) {
  // What is dragged stays in the hand: what was found meanwhile is of before.
  if (dragged_) return;
  edited_ = std::move(edited);
  snapper_.reset();
  if (edited_) snapper_.emplace(edited_->drawing, edited_->values, edited_->solution);
  if (!edited_) hot_.clear();
}

void DrawingTool::setGrid(std::optional<double> grid) {
  grid_ = grid;
}

double DrawingTool::pixelSize() const {
  return space_.eye().pixelSize() * space_.pixelRatio();
}

std::optional<Snap> DrawingTool::snapAt(QPointF position, std::optional<PlanePoint> from, bool infer) const {
  if (!edited_) return std::nullopt;
  const auto at = seenOn(drawn().plane, space_, position);
  if (!at) return std::nullopt;
  // The grid, unless it is finer than the hand.
  const double finest = roundStep(space_.eye());
  const double step = grid_ && *grid_ >= 3 * pixelSize() ? *grid_ : grid_ ? std::max(*grid_, finest) : finest;
  if (infer && snapper_) return snapper_->at(*at, {reach * pixelSize(), from, step, {}});
  return Snap{{std::round(at->u / step) * step, std::round(at->v / step) * step}, SnapTo::Grid};
}

std::vector<DrawingMark> DrawingTool::marks() const {
  return edited_ ? marksOf(drawn(), shown(), space_) : std::vector<DrawingMark>();
}

std::string DrawingTool::partAt(QPointF position) const {
  if (!edited_) return {};
  std::string nearest;
  double least = reach;
  for (std::size_t i = 0; i < drawn().drawing.points.size(); ++i) {
    const PlanePoint at = shown().points.at(i);
    const double apart = QLineF(space_.toWidget(drawn().plane.at(at.u, at.v)), position).length();
    if (apart < least) {
      least = apart;
      nearest = drawn().drawing.points[i].id;
    }
  }
  if (!nearest.empty()) return nearest;
  const auto all = marks();
  for (auto mark = all.rbegin(); mark != all.rend(); ++mark)
    if (mark->rect.contains(position)) return mark->constraint;
  const auto at = seenOn(drawn().plane, space_, position);
  if (!at || !snapper_) return {};
  const auto curve = snapper_->curveAt(*at, reach * pixelSize());
  return curve ? curve->substr(0, curve->find('.')) : std::string();
}

bool DrawingTool::isSelected(const std::string& id) const {
  return edited_ && std::find(drawn().selected.begin(), drawn().selected.end(), id) != drawn().selected.end();
}

/// What goes along when a part is dragged: the point, or all points of the curve.
std::vector<std::size_t> DrawingTool::heldPoints(const std::string& part) const {
  const Drawing& drawing = drawn().drawing;
  if (const auto point = drawing.point(part)) return {*point};
  std::vector<std::size_t> result;
  if (const auto curve = drawing.curve(part))
    for (const std::string& id : drawing.curves[*curve].points) result.push_back(drawing.pointAt(id));
  return result;
}

bool DrawingTool::press(const Pointer& pointer) {
  if (pointer.button != Qt::LeftButton || !edited_ || !takes_) return false;
  held_ = partAt(pointer.now);
  moving_ = heldPoints(held_);
  from_ = pointer.now;
  onto_.reset();
  box_.reset();
  return true;
}

void DrawingTool::drag(const Pointer& pointer) {
  if (!edited_) return;
  at_ = pointer.now;
  if (held_.empty()) {
    if (!pointer.still()) box_ = QRectF(pointer.pressed, pointer.now);
    return;
  }
  if (moving_.empty() || (!dragged_ && pointer.still())) return;
  const auto from = seenOn(drawn().plane, space_, from_), to = seenOn(drawn().plane, space_, pointer.now);
  if (!from || !to) return;
  PlanePoint goal = *to;
  onto_.reset();
  if (moving_.size() == 1 && snapper_ && !pointer.holds(Qt::AltModifier)) {
    // A point goes on others that are there; not on itself, nor on curves that follow it.
    SnapWanted wanted{reach * pixelSize(), {}, {}, {held_}};
    for (const DrawnCurve& curve : drawn().drawing.curves)
      if (std::find(curve.points.begin(), curve.points.end(), held_) != curve.points.end())
        wanted.without.push_back(curve.id);
    const Snap snap = snapper_->at(*to, wanted);
    if (snap.to == SnapTo::Point) {
      onto_ = snap;
      goal = snap.at;
    }
  }
  PlanePoint by = goal - *from;
  if (moving_.size() == 1) by = goal - drawn().solution.points.at(moving_.front());
  Solution now = dragged(drawn().drawing, drawn().values, {moving_, by});
  now.directions = drawn().solution.directions;
  now.settled = drawn().solution.settled;
  now.measured = drawn().solution.measured;
  dragged_ = std::move(now);
  space_.redraw();
}

void DrawingTool::release(const Pointer& pointer) {
  if (!edited_) return;
  const bool add = pointer.holds(Qt::ControlModifier) || pointer.holds(Qt::ShiftModifier);
  if (box_) {
    const QRectF box = *box_;
    box_.reset();
    return boxed(box.normalized(), pointer.now.x() < pointer.pressed.x(), add);
  }
  if (!dragged_ || pointer.still()) {
    dragged_.reset();
    if (selected) selected(held_.empty() ? std::vector<std::string>() : std::vector{held_}, add);
    return;
  }
  edited_->drawing = kervo::moved(edited_->drawing, *dragged_);
  edited_->solution = *dragged_;
  dragged_.reset();
  std::vector<std::string> together;
  if (onto_ && onto_->to == SnapTo::Point &&
      distance(shown().points.at(moving_.front()), onto_->at) < reach * pixelSize())
    together = {held_, onto_->on.front()};
  moved(drawn().drawing, together);
}

bool DrawingTool::doublePress(const Pointer& pointer) {
  if (pointer.button != Qt::LeftButton || !edited_ || !takes_) return false;
  const std::string part = partAt(pointer.now);
  for (const DrawnConstraint& constraint : drawn().drawing.constraints)
    if (constraint.id == part && constraint.value && typed) {
      typed(part);
      return true;
    }
  return false;
}

void DrawingTool::boxed(const QRectF& box, bool touches, bool add) {
  std::vector<std::string> inside;
  std::set<std::string> seenCurves;
  for (const PlanarCurve& curve : snapper_ ? snapper_->curves() : std::vector<PlanarCurve>()) {
    const QPolygonF shape = outlineOf(curve, drawn().plane, space_);
    const bool all = std::all_of(shape.begin(), shape.end(), [&](QPointF at) { return box.contains(at); });
    bool some = all;
    for (qsizetype i = 1; i < shape.size() && touches && !some; ++i) {
      const QLineF piece(shape[i - 1], shape[i]);
      some = box.contains(piece.p1());
      const QPointF corners[] = {box.topLeft(), box.topRight(), box.bottomRight(), box.bottomLeft()};
      for (int side = 0; side < 4 && !some; ++side)
        some = piece.intersects(QLineF(corners[side], corners[(side + 1) % 4])) == QLineF::BoundedIntersection;
    }
    if (some && seenCurves.insert(curveId(curve)).second) inside.push_back(curveId(curve));
  }
  if (selected) selected(inside, add);
}

bool DrawingTool::point(const Pointer& pointer, bool taken) {
  if (!edited_ || !takes_) return taken;
  at_ = pointer.now;
  const std::string before = hot_;
  hot_ = taken ? std::string() : partAt(pointer.now);
  if (hot_ != before || !hot_.empty()) space_.redraw();
  // While a drawing is edited nothing else is pointed at.
  return true;
}

void DrawingTool::step(int direction) {
  std::vector<std::string> all;
  for (const DrawnPoint& point : drawn().drawing.points) all.push_back(point.id);
  for (const DrawnCurve& curve : drawn().drawing.curves) all.push_back(curve.id);
  for (const DrawnConstraint& constraint : drawn().drawing.constraints) all.push_back(constraint.id);
  if (all.empty()) return;
  const auto now = std::find(all.begin(), all.end(), hot_);
  const auto count = static_cast<std::ptrdiff_t>(all.size());
  std::ptrdiff_t next =
      now == all.end() ? (direction > 0 ? 0 : count - 1) : (now - all.begin() + direction + count) % count;
  hot_ = all[static_cast<std::size_t>(next)];
  // Its words stand where it is.
  if (const auto point = drawn().drawing.point(hot_)) {
    const PlanePoint at = shown().points.at(*point);
    at_ = space_.toWidget(drawn().plane.at(at.u, at.v));
  }
  for (const PlanarCurve& curve : snapper_ ? snapper_->curves() : std::vector<PlanarCurve>())
    if (curveId(curve) == hot_) {
      const PlanePoint at = curve.geometry->at(0.5);
      at_ = space_.toWidget(drawn().plane.at(at.u, at.v));
    }
  for (const DrawingMark& mark : marks())
    if (mark.constraint == hot_) at_ = mark.rect.center();
  space_.redraw();
}

bool DrawingTool::key(int key, Qt::KeyboardModifiers modifiers) {
  if (!edited_ || !takes_) return false;
  switch (key) {
    case Qt::Key_N:
      step(1);
      return true;
    case Qt::Key_P:
      step(-1);
      return true;
    case Qt::Key_Space:
      if (!hot_.empty() && selected)
        selected({hot_}, modifiers.testFlag(Qt::ControlModifier) || modifiers.testFlag(Qt::ShiftModifier));
      return true;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
      if (removed) removed();
      return true;
    case Qt::Key_F2:
      for (const DrawnConstraint& constraint : drawn().drawing.constraints)
        if (constraint.value && typed && (constraint.id == hot_ || isSelected(constraint.id))) {
          typed(constraint.id);
          return true;
        }
      return false;
    default:
      return false;
  }
}

void DrawingTool::mark(Overlay& overlay, bool dragging) const {
  if (!edited_) return;
  if (!hot_.empty() && describe && !dragging) {
    overlay.label = describe(hot_);
    overlay.labelAt = at_;
  }
  if (box_) {
    overlay.box = box_;
    overlay.boxTouches = box_->width() < 0;
  }
}

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
    QPen pen(space_.colors().axes[static_cast<std::size_t>(axis)], 1);
    pen.setStyle(Qt::DashDotLine);
    painter.setPen(pen);
    axis == 0 ? painter.drawLine(seen(low[0], 0), seen(high[0], 0))
              : painter.drawLine(seen(0, low[1]), seen(0, high[1]));
  }
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
      const std::string id = curveId(curve);
      const auto index = ids.curve(id);
      if (!index) continue;
      const bool helps = drawing.curves[*index].construction, chosen = isSelected(id) || meant.contains(id);
      const bool settled = *index < solution.settled.size() && solution.settled[*index];
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
      painter.setPen(pen);
      painter.drawPolyline(shape);
    }
  } catch (const Error&) {
    // A curve that has become none while it is dragged: the points alone show where it is.
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
  paintCurves(painter);
  kervo::paint(painter, marks(), drawn(), hot_, space_.colors());
  paintPoints(painter);
}

}  // namespace kervo
