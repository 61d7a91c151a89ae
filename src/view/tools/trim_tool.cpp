#include "view/tools/trim_tool.h"

#include <QPolygonF>
#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "drawing/crossings.h"

namespace kervo {

void TrimTool::set(TrimMode mode) {
  if (mode == mode_) return;
  mode_ = mode;
  hot_.reset();
  taken_.clear();
  space_.redraw();
}

void TrimTool::list(std::vector<CurvePiece> pieces, std::optional<std::size_t> lit) {
  listed_ = std::move(pieces);
  lit_ = lit;
  space_.redraw();
}

std::optional<TrimTool::Stretch> TrimTool::stretchAt(QPointF position) const {
  const auto& edited = drawing_.edited();
  const auto place = edited ? seenOn(edited->plane, space_, position) : std::nullopt;
  if (!place) return std::nullopt;
  const auto curve = drawing_.curveAt(*place);
  if (!curve) return std::nullopt;
  try {
    const auto shapes = curvesOf(edited->drawing, edited->values, edited->solution, true);
    const auto shape =
        std::find_if(shapes.begin(), shapes.end(), [&](const PlanarCurve& each) { return each.id == *curve; });
    if (shape == shapes.end()) return std::nullopt;
    const double at = nearestOn(*shape->geometry, *place);
    if (mode_ == TrimMode::Lengthen) return Stretch{{*curve, at < 0.5 ? 0.0 : 0.75, at < 0.5 ? 0.25 : 1.0}, *place};
    for (const CurvePiece& piece : piecesOf(edited->drawing, edited->values, edited->solution, *curve))
      if ((at >= piece.from && at <= piece.to) || at + 1 <= piece.to) return Stretch{piece, *place};
  } catch (const Error&) {
    // One that cannot be cut: what is said then is said when it is clicked.
    return Stretch{{*curve, 0, 1}, *place};
  }
  return std::nullopt;
}

void TrimTool::take(const std::optional<Stretch>& stretch) {
  if (!stretch) return;
  const auto same = [&](const Stretch& each) {
    return each.piece.curve == stretch->piece.curve && each.piece.from == stretch->piece.from;
  };
  if (std::none_of(taken_.begin(), taken_.end(), same)) taken_.push_back(*stretch);
}

bool TrimTool::press(const Pointer& pointer) {
  if (mode_ == TrimMode::None || pointer.button != Qt::LeftButton || !drawing_.edited()) return false;
  taken_.clear();
  take(stretchAt(pointer.now));
  return true;
}

void TrimTool::drag(const Pointer& pointer) {
  if (mode_ != TrimMode::Sweep) return;
  // Every place on the way from the event before: a quick hand leaves nothing out.
  const QLineF way(pointer.last, pointer.now);
  constexpr double step = 4;
  const int steps = std::max(1, static_cast<int>(way.length() / step));
  for (int i = 1; i <= steps; ++i) take(stretchAt(way.pointAt(static_cast<double>(i) / steps)));
}

void TrimTool::release(const Pointer&) {
  std::vector<std::pair<std::string, PlanePoint>> places;
  for (const Stretch& stretch : taken_) places.emplace_back(stretch.piece.curve, stretch.place);
  taken_.clear();
  hot_.reset();
  if (!places.empty() && swept) swept(places);
}

bool TrimTool::point(const Pointer& pointer, bool taken) {
  if (mode_ == TrimMode::None) return taken;
  hot_ = stretchAt(pointer.now);
  space_.redraw();
  return true;
}

QPolygonF TrimTool::outline(const CurvePiece& piece) const {
  const auto& edited = drawing_.edited();
  QPolygonF shape;
  if (!edited) return shape;
  for (const PlanarCurve& curve : curvesOf(edited->drawing, edited->values, edited->solution, true)) {
    if (curve.id != piece.curve) continue;
    constexpr int steps = 64;
    for (int i = 0; i <= steps; ++i) {
      const double t = piece.from + (piece.to - piece.from) * i / steps;
      const PlanePoint at = curve.geometry->at(t > 1 ? t - 1 : t);
      shape << space_.toWidget(edited->plane.at(at.u, at.v));
    }
  }
  return shape;
}

void TrimTool::paintListed(QPainter& painter) const {
  const ViewLook& look = space_.colors();
  for (std::size_t i = 0; i < listed_.size(); ++i) {
    const QPolygonF shape = outline(listed_[i]);
    if (shape.size() < 2) continue;
    const bool lit = lit_ == i;
    if (lit) {
      QPen pen(look.vermilion, 4);
      pen.setDashPattern({2, 1.2});
      painter.setPen(pen);
      painter.drawPolyline(shape);
    }
    if (!lit && mode_ != TrimMode::Sweep) continue;
    // The number stands beside the middle of its stretch.
    const QPointF middle = shape[shape.size() / 2];
    const QRectF disc(middle.x() - 8, middle.y() - 8, 16, 16);
    painter.setPen(QPen(look.vermilion, 1.2));
    painter.setBrush(look.textBack);
    painter.drawEllipse(disc);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(look.text);
    painter.drawText(disc, Qt::AlignCenter, QString::number(i + 1));
  }
}

void TrimTool::paint(QPainter& painter) const {
  if (!drawing_.edited()) return;
  try {
    paintListed(painter);
  } catch (const Error&) {
    // A curve that is none at present.
  }
  if (mode_ == TrimMode::None) return;
  const ViewLook& look = space_.colors();
  // What goes is struck through with dashes; an end that goes on is drawn thick.
  QPen pen(mode_ == TrimMode::Sweep ? look.vermilion : look.teal, 4);
  if (mode_ == TrimMode::Sweep) pen.setDashPattern({2, 1.2});
  painter.setPen(pen);
  try {
    for (const Stretch& stretch : taken_) painter.drawPolyline(outline(stretch.piece));
    if (hot_) painter.drawPolyline(outline(hot_->piece));
  } catch (const Error&) {
    // A curve that is none at present.
  }
}

}  // namespace kervo
