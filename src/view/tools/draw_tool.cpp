#include "view/tools/draw_tool.h"

#include <QCoreApplication>
#include <QPolygonF>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

#include "base/error.h"
#include "base/say.h"
#include "view/tools/drawing_tool.h"

namespace kervo {

namespace {

QString tr(const char* text) {
  return QCoreApplication::translate("DrawTool", text);
}

/// A size as it stands beside the pointer, in mm or degrees.
QString sizeText(double value, Dimensionality dimension) {
  if (dimension == angleDimension) return QString::number(value * 180 / std::numbers::pi, 'f', 1) + QStringLiteral("°");
  return QCoreApplication::translate("DrawTool", "%1 mm").arg(QString::number(value, 'g', 5));
}

}  // namespace

QString signFor(const Snap& snap) {
  switch (snap.to) {
    case SnapTo::Point:
      return QStringLiteral("□");
    case SnapTo::Middle:
      return QStringLiteral("½");
    case SnapTo::Quadrant:
      return QStringLiteral("◇");
    case SnapTo::Crossing:
      return QStringLiteral("×");
    case SnapTo::Tangent:
      return QStringLiteral("T");
    case SnapTo::Square:
      return QStringLiteral("⊥");
    case SnapTo::Curve:
      return snap.extends ? QStringLiteral("···") : QStringLiteral("on");
    case SnapTo::Level:
      return QStringLiteral("—");
    case SnapTo::Upright:
      return QStringLiteral("|");
    case SnapTo::BodyCorner:
      return QStringLiteral("⌟");
    case SnapTo::BodyMiddle:
      return QStringLiteral("½");
    case SnapTo::BodyCentre:
      return QStringLiteral("⊙");
    case SnapTo::BodyEdge:
      return QStringLiteral("/");
    case SnapTo::Free:
    case SnapTo::Grid:
      break;
  }
  return {};
}

QString wordFor(const Snap& snap) {
  switch (snap.to) {
    case SnapTo::Point:
      return tr(snap.on.front() == originId ? QT_TRANSLATE_NOOP("DrawTool", "origin")
                                            : QT_TRANSLATE_NOOP("DrawTool", "point"));
    case SnapTo::Middle:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "middle"));
    case SnapTo::Quadrant:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "quadrant"));
    case SnapTo::Crossing:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "crossing"));
    case SnapTo::Tangent:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "tangent"));
    case SnapTo::Square:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "right angle"));
    case SnapTo::Curve:
      return tr(snap.extends ? QT_TRANSLATE_NOOP("DrawTool", "in line with it")
                             : QT_TRANSLATE_NOOP("DrawTool", "on the curve"));
    case SnapTo::Level:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "level"));
    case SnapTo::Upright:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "upright"));
    case SnapTo::BodyCorner:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "corner of %1")).arg(QString::fromStdString(snap.on.front()));
    case SnapTo::BodyMiddle:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "middle of an edge of %1")).arg(QString::fromStdString(snap.on.front()));
    case SnapTo::BodyCentre:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "centre in %1")).arg(QString::fromStdString(snap.on.front()));
    case SnapTo::BodyEdge:
      return tr(QT_TRANSLATE_NOOP("DrawTool", "edge of %1")).arg(QString::fromStdString(snap.on.front()));
    case SnapTo::Free:
    case SnapTo::Grid:
      break;
  }
  return {};
}

void DrawTool::set(std::optional<Plane> plane, const StrokeKind* kind, int sides) {
  const bool other = kind != kind_;
  plane_ = kind ? plane : std::nullopt;
  kind_ = kind;
  sides_ = sides;
  if (!plane_ || other) drop();
}

void DrawTool::drop() {
  places_.clear();
  sizes_.clear();
  first_.reset();
  pressed_ = false;
  if (changed) changed();
  space_.redraw();
}

void DrawTool::look(QPointF at, bool infer) {
  at_ = at;
  infer_ = infer;
  const auto from = places_.empty() ? std::nullopt : std::optional(places_.back().at);
  next_ = snap ? snap(at, from, infer) : std::nullopt;
  // Outwards from its middle, a round size is meant, not a round place.
  if (next_ && kind_ && kind_->about && from && (next_->to == SnapTo::Grid || next_->to == SnapTo::Free))
    if (const auto seen = plane_ ? seenOn(*plane_, space_, at) : std::nullopt)
      if (const double size = distance(*from, *seen); size > 0)
        next_ = Snap{*from + (*seen - *from) * (snapped(size, space_.eye()) / size)};
  if (changed) changed();
}

std::optional<Stroke> DrawTool::stroke() const {
  if (!kind_ || !next_ || places_.empty()) return std::nullopt;
  const double pixel = space_.eye().pixelSize() * space_.pixelRatio();
  Stroke stroke{places_, DrawingTool::reach * pixel / 100, infer_, sizes_, sides_};
  stroke.at.push_back(*next_);
  return stroke;
}

bool DrawTool::press(const Pointer& pointer) {
  if (!plane_ || pointer.button != Qt::LeftButton) return false;
  pressed_ = true;
  began_ = places_.empty();
  if (places_.empty()) {
    look(pointer.now, !pointer.holds(Qt::AltModifier));
    if (next_) places_ = {*next_};
  }
  return true;
}

void DrawTool::drag(const Pointer& pointer) {
  look(pointer.now, !pointer.holds(Qt::AltModifier));
}

bool DrawTool::point(const Pointer& pointer, bool taken) {
  if (!plane_) return taken;
  look(pointer.now, !pointer.holds(Qt::AltModifier));
  space_.redraw();
  return true;
}

void DrawTool::release(const Pointer& pointer) {
  pressed_ = false;
  look(pointer.now, !pointer.holds(Qt::AltModifier));
  if (!next_ || places_.empty() || !plane_) return;
  // A click that set the first place, which may have snapped away from the pointer; the next one comes.
  if (places_.size() == 1 && !first_ && pointer.still() && std::exchange(began_, false)) return;
  if (places_.size() == 1 && !first_ && pointer.still() &&
      QLineF(space_.toWidget(plane_->at(places_[0].at.u, places_[0].at.v)), pointer.now).length() <=
          DrawingTool::reach + Pointer::slack)
    return;
  if (pointer.holds(Qt::ControlModifier) && kind_->chain) {
    // The chain ends; another one begins here.
    const Snap here = *next_;
    drop();
    places_ = {here};
    return;
  }
  add(*next_, false);
}

bool DrawTool::doublePress(const Pointer&) {
  if (!plane_ || !kind_ || places_.empty()) return false;
  if (kind_->more || kind_->chain) finish();
  return true;
}

void DrawTool::add(const Snap& place, bool ends) {
  if (!places_.empty() && distance(places_.back().at, place.at) == 0 && places_.size() > 1) return;
  places_.push_back(place);
  const bool closes = kind_->more && places_.size() > 3 && place.at == places_.front().at;
  if (ends || closes || (!kind_->more && places_.size() == kind_->places)) finish();
  space_.redraw();
}

void DrawTool::finish() {
  const StrokeKind* kind = kind_;
  if (!kind || places_.size() < kind->places) return drop();
  const double pixel = space_.eye().pixelSize() * space_.pixelRatio();
  const Stroke stroke{std::move(places_), DrawingTool::reach * pixel / 100, infer_, std::move(sizes_), sides_};
  places_.clear();
  sizes_.clear();
  drawn(stroke);
  const auto last = kind == kind_ && kind->chain && lastLine ? lastLine() : std::nullopt;
  if (last) {
    if (!first_) first_ = last->first;
    // Where it began, the chain is closed.
    if (last->second.on == first_->on)
      first_.reset();
    else
      places_ = {last->second};
  }
  if (changed) changed();
  space_.redraw();
}

bool DrawTool::key(int key, Qt::KeyboardModifiers) {
  if (!plane_ || !kind_) return false;
  switch (key) {
    case Qt::Key_Escape:
      if (places_.empty()) return false;
      drop();
      return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
      if (places_.empty()) return false;
      if (kind_->more) {
        finish();
      } else if (kind_->chain && first_) {
        // Back to where it began.
        const Snap first = *first_;
        add(first, false);
      } else {
        drop();
      }
      return true;
    case Qt::Key_Backspace:
      return backOne();
    default:
      return false;
  }
}

/// Without the last corner.
bool DrawTool::backOne() {
  if (places_.size() > 1) {
    places_.pop_back();
    space_.redraw();
    return true;
  }
  const auto last = kind_->chain && first_ && lastLine && dropLast ? lastLine() : std::nullopt;
  if (!last) return false;
  dropLast();
  // Its points may have gone with it; the place is found again.
  if (last->first.on == first_->on) first_.reset();
  places_ = {Snap{last->first.at}};
  if (changed) changed();
  space_.redraw();
  return true;
}

bool DrawTool::text(const QString& text) {
  if (!plane_ || !kind_ || text.isEmpty() || !typing) return false;
  const QChar c = text[0];
  if (!c.isDigit() && c != '.' && c != '(' && c != '-') return false;
  typing(text);
  return true;
}

bool DrawTool::asksSizes() const {
  return kind_ && places_.size() == 1 && kind_->places == 2 && !kind_->sizes.empty();
}

std::vector<StrokeKind::Size> DrawTool::asked() const {
  if (!kind_) return {};
  if (asksSizes()) return kind_->sizes;
  return {{later("u"), lengthDimension}, {later("v"), lengthDimension}};
}

std::vector<double> DrawTool::askedNow() const {
  if (!kind_) return {};
  if (asksSizes()) {
    const auto now = stroke();
    return now ? sizesOf(kind_->name, *now) : std::vector<double>(kind_->sizes.size());
  }
  return next_ ? std::vector<double>{next_->at.u, next_->at.v} : std::vector<double>{0, 0};
}

void DrawTool::take(const std::vector<Typed>& typed) {
  if (!kind_ || !plane_) return;
  if (asksSizes()) {
    std::vector<std::optional<double>> values;
    sizes_.clear();
    for (const Typed& each : typed) {
      values.push_back(each.value);
      sizes_.push_back(each.value ? each.text : Expression(""));
    }
    const PlanePoint from = places_.front().at;
    // Without a pointer in the view it goes to the right.
    const PlanePoint to = next_ && distance(next_->at, from) > 0 ? next_->at : from + PlanePoint{1, 1};
    return add({placeWithSizes(kind_->name, from, to, values)}, false);
  }
  PlanePoint at = next_ ? next_->at : PlanePoint();
  if (!typed.empty()) at.u = typed[0].value.value_or(at.u);
  if (typed.size() > 1) at.v = typed[1].value.value_or(at.v);
  add({at}, false);
}

void DrawTool::mark(Overlay& overlay, bool) const {
  if (!plane_ || !next_) return;
  QStringList texts;
  if (const auto now = stroke(); now && now->at.size() >= 2) {
    const std::vector<double> sizes = sizesOf(kind_->name, *now);
    for (std::size_t i = 0; i < sizes.size(); ++i)
      texts << sizeText(sizes[i], i < kind_->sizes.size() ? kind_->sizes[i].dimension : lengthDimension);
  }
  const QString word = wordFor(*next_);
  overlay.label = texts.join(QStringLiteral(" × "));
  if (!word.isEmpty()) overlay.label += (overlay.label.isEmpty() ? QString() : QStringLiteral(" · ")) + word;
  overlay.labelAt = at_;
}

void DrawTool::paint(QPainter& painter) const {
  if (!plane_) return;
  painter.setRenderHint(QPainter::Antialiasing);
  const ViewLook& look = space_.colors();
  const auto seen = [&](PlanePoint at) { return space_.toWidget(plane_->at(at.u, at.v)); };
  if (const auto now = stroke()) {
    painter.setPen(QPen(look.axes[2], 2));
    // By itself, where its places are: what it meets is found when it is drawn. A place fewer than it takes: a line.
    Stroke alone = *now;
    alone.infer = false;
    alone.sizes.clear();
    for (Snap& place : alone.at) place = {place.at};
    const bool enough = alone.at.size() >= kind_->places;
    const Drawing preview = withStroke({}, {}, enough ? kind_->shownAs ? kind_->shownAs : kind_->name : "line", alone);
    Solution there;
    for (const DrawnPoint& point : preview.points) there.points.push_back(point.last);
    for (const DrawnCurve& curve : preview.curves) there.sizes.push_back(curve.sizes);
    try {
      for (const PlanarCurve& part : curvesOf(preview, {}, there, true))
        painter.drawPolyline(outlineOf(part, *plane_, space_));
    } catch (const Error&) {
      // No curve yet with the places there are.
    }
    for (const Snap& place : places_) painter.drawEllipse(seen(place.at), 3, 3);
  }
  if (!next_) return;
  // Where it snaps, with the sign of what it was taken for; level and upright with a line back to where it begins.
  const QPointF at = seen(next_->at);
  painter.setPen(QPen(look.teal, 1.6));
  painter.drawLine(at - QPointF(6, 0), at + QPointF(6, 0));
  painter.drawLine(at - QPointF(0, 6), at + QPointF(0, 6));
  const QString sign = signFor(*next_);
  if (sign.isEmpty()) return;
  painter.setPen(QPen(look.teal, 1.2));
  painter.setBrush(look.textBack);
  const QRectF badge(at + QPointF(-24, -26), QSizeF(std::max(17.0, space_.letters().horizontalAdvance(sign) + 8), 17));
  painter.drawRoundedRect(badge, 8, 8);
  painter.setPen(look.text);
  painter.drawText(badge, Qt::AlignCenter, sign);
  painter.setBrush(Qt::NoBrush);
}

}  // namespace kervo
