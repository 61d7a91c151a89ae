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

/// Whether an outline goes round a place.
bool isInside(const std::vector<PlanePoint>& outline, PlanePoint at) {
  bool inside = false;
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const PlanePoint a = outline[i], b = outline[(i + 1) % outline.size()];
    if ((a.v > at.v) != (b.v > at.v) && at.u < a.u + (b.u - a.u) * (at.v - a.v) / (b.v - a.v)) inside = !inside;
  }
  return inside;
}

bool isInside(const RegionShape& region, PlanePoint at) {
  bool inside = false;
  for (const auto& outline : region.outlines) inside = inside != isInside(outline, at);
  return inside;
}

}  // namespace

std::string partOf(const EditedDrawing& edited, const std::string& curve) {
  for (const TakenCurve& each : edited.values.taken)
    if (each.curve.id == curve) return curve;
  return curve.substr(0, curve.find_first_of(".:"));
}

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
  if (!edited_) {
    hot_.clear();
    hotRegion_.clear();
  }
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
  if (infer && snapper_) {
    const Snap drawn = snapper_->at(*at, {reach * pixelSize(), from, step, {}});
    const bool weak = drawn.to == SnapTo::Free || drawn.to == SnapTo::Grid || drawn.to == SnapTo::Level ||
                      drawn.to == SnapTo::Upright || drawn.extends;
    const auto body = weak && bodies ? bodies(*at, reach * pixelSize()) : std::nullopt;
    return body ? *body : drawn;
  }
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
  const double near = reach * pixelSize();
  if (length(*at) < near) return originId;
  if (const auto curve = snapper_->curveAt(*at, near)) return partOf(drawn(), *curve);
  // The axes of the plane, where there is nothing else.
  if (std::abs(at->v) < near / 2) return uAxisId;
  if (std::abs(at->u) < near / 2) return vAxisId;
  return {};
}

const RegionShape* DrawingTool::regionAt(QPointF position) const {
  if (!edited_ || dragged_) return nullptr;
  const auto at = seenOn(drawn().plane, space_, position);
  if (!at) return nullptr;
  for (const RegionShape& region : drawn().regions)
    if (isInside(region, *at)) return &region;
  return nullptr;
}

std::vector<std::string> DrawingTool::withInside(const RegionShape& region) const {
  std::vector<std::string> names{region.name};
  for (const RegionShape& other : drawn().regions)
    if (other.name != region.name && !region.outlines.empty() && !other.outlines.empty() &&
        !other.outlines.front().empty() && isInside(region.outlines.front(), other.outlines.front().front()))
      names.push_back(other.name);
  return names;
}

bool DrawingTool::isSelected(const std::string& id) const {
  return edited_ && std::find(drawn().selected.begin(), drawn().selected.end(), id) != drawn().selected.end();
}

/// What goes along when a part is dragged: the point, or all points of the curve; of all that is selected if it is.
std::vector<std::size_t> DrawingTool::heldPoints(const std::string& part) const {
  const Drawing& drawing = drawn().drawing;
  std::set<std::size_t> result;
  const auto hold = [&](const std::string& id) {
    if (const auto point = drawing.point(id)) result.insert(*point);
    if (const auto curve = drawing.curve(id))
      for (const std::string& each : drawing.curves[*curve].points) result.insert(drawing.pointAt(each));
  };
  hold(part);
  if (!result.empty() && isSelected(part))
    for (const std::string& id : drawn().selected) hold(id);
  return {result.begin(), result.end()};
}

Solution DrawingTool::draggedBy(const std::vector<std::size_t>& points, PlanePoint by) const {
  Solution now = dragged(drawn().drawing, drawn().values, {points, by});
  now.directions = drawn().solution.directions;
  now.settled = drawn().solution.settled;
  now.measured = drawn().solution.measured;
  return now;
}

bool DrawingTool::nudge(int key, bool finely) {
  if (!edited_) return false;
  const std::vector<std::string>& selected = drawn().selected;
  const auto first =
      std::find_if(selected.begin(), selected.end(), [&](const std::string& id) { return !heldPoints(id).empty(); });
  if (first == selected.end()) return false;
  const double step = grid_.value_or(roundStep(space_.eye())) * (finely ? 0.1 : 1);
  PlanePoint by;
  if (key == Qt::Key_Left) by.u = -step;
  if (key == Qt::Key_Right) by.u = step;
  if (key == Qt::Key_Up) by.v = step;
  if (key == Qt::Key_Down) by.v = -step;
  const Solution now = draggedBy(heldPoints(*first), by);
  edited_->drawing = kervo::moved(edited_->drawing, now);
  edited_->solution = now;
  moved(drawn().drawing, {});
  return true;
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
  dragged_ = draggedBy(moving_, by);
  space_.redraw();
}

void DrawingTool::release(const Pointer& pointer) {
  if (!edited_) return;
  const bool add = pointer.holds(Qt::ControlModifier) || pointer.holds(Qt::ShiftModifier);
  if (box_) {
    const QRectF box = *box_;
    box_.reset();
    if (pointer.holds(Qt::ShiftModifier)) {
      // A box with Shift takes regions.
      std::vector<std::string> names;
      for (const RegionShape& region : drawn().regions) {
        const auto isIn = [&](PlanePoint at) {
          return box.normalized().contains(space_.toWidget(drawn().plane.at(at.u, at.v)));
        };
        if (!region.outlines.empty() && std::all_of(region.outlines[0].begin(), region.outlines[0].end(), isIn))
          names.push_back(region.name);
      }
      if (!names.empty() && regionsPicked) regionsPicked(names);
      return;
    }
    return boxed(box.normalized(), pointer.now.x() < pointer.pressed.x(), add);
  }
  if (!dragged_ || pointer.still()) {
    dragged_.reset();
    if (const RegionShape* region = held_.empty() ? regionAt(pointer.now) : nullptr; region && regionsPicked) {
      // What is selected changes the drawing that the region is of.
      const auto names = pointer.holds(Qt::ShiftModifier) ? withInside(*region) : std::vector{region->name};
      if (selected) selected({}, false);
      return regionsPicked(names);
    }
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
    const std::string part = partOf(drawn(), curve.id);
    if (some && seenCurves.insert(part).second) inside.push_back(part);
  }
  if (selected) selected(inside, add);
}

bool DrawingTool::point(const Pointer& pointer, bool taken) {
  if (!edited_ || !takes_) return taken;
  at_ = pointer.now;
  const std::string before = hot_ + hotRegion_;
  hot_ = taken ? std::string() : partAt(pointer.now);
  const RegionShape* region = taken || !hot_.empty() ? nullptr : regionAt(pointer.now);
  hotRegion_ = region ? region->name : std::string();
  if (hot_ + hotRegion_ != before || !hot_.empty() || region) space_.redraw();
  // While a drawing is edited nothing else is pointed at.
  return true;
}

void DrawingTool::step(int direction) {
  std::vector<std::string> all;
  for (const DrawnPoint& point : drawn().drawing.points) all.push_back(point.id);
  for (const DrawnCurve& curve : drawn().drawing.curves) all.push_back(curve.id);
  for (const TakenCurve& each : drawn().values.taken) all.push_back(each.curve.id);
  for (const DrawnCopies& copies : drawn().drawing.copies) all.push_back(copies.id);
  for (const DrawnConstraint& constraint : drawn().drawing.constraints) all.push_back(constraint.id);
  for (const char* id : {originId, uAxisId, vAxisId}) all.emplace_back(id);
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
    if (partOf(drawn(), curve.id) == hot_) {
      const PlanePoint at = curve.geometry->at(0.5);
      at_ = space_.toWidget(drawn().plane.at(at.u, at.v));
    }
  for (const DrawingMark& mark : marks())
    if (mark.constraint == hot_) at_ = mark.rect.center();
  if (hot_ == originId || hot_ == uAxisId || hot_ == vAxisId) at_ = space_.toWidget(drawn().plane.at(0, 0));
  space_.redraw();
}

bool DrawingTool::key(int key, Qt::KeyboardModifiers modifiers) {
  const bool trims = key == Qt::Key_S || key == Qt::Key_T || key == Qt::Key_L || key == Qt::Key_J;
  if (edited_ && trims && trimKeyed && !modifiers) {
    trimKeyed(key);
    return true;
  }
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
    case Qt::Key_Left:
    case Qt::Key_Right:
    case Qt::Key_Up:
    case Qt::Key_Down:
      if (modifiers & (Qt::ControlModifier | Qt::AltModifier)) return false;
      return nudge(key, modifiers.testFlag(Qt::ShiftModifier));
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
  } else if (!hotRegion_.empty() && describeRegion && !dragging) {
    overlay.label = describeRegion(hotRegion_);
    overlay.labelAt = at_;
  }
  if (box_) {
    overlay.box = box_;
    overlay.boxTouches = box_->width() < 0;
  }
}

}  // namespace kervo
