#include "app/shop/flat_view.h"

#include <QPainter>

#include "app/look.h"

namespace kervo::app {

namespace {

QColor colorOf(Color color) {
  return QColor::fromRgbF(static_cast<float>(color.red), static_cast<float>(color.green),
                          static_cast<float>(color.blue));
}

}  // namespace

QPainterPath pathOf(const FlatChain& chain, double height) {
  const auto at = [&](PlanePoint p) { return QPointF(p.u, height - p.v); };
  QPainterPath path;
  const std::vector<Cubic> cubics = cubicsOf(chain);
  if (cubics.empty()) return path;
  path.moveTo(at(cubics.front().from));
  for (const Cubic& c : cubics) {
    if (c.straight)
      path.lineTo(at(c.to));
    else
      path.cubicTo(at(c.first), at(c.second), at(c.to));
  }
  if (runOf(chain).closed) path.closeSubpath();
  return path;
}

FlatView::FlatView(QWidget* parent) : QWidget(parent) {
  setMinimumSize(240, 180);
}

void FlatView::setPicture(FlatPicture picture) {
  picture_ = std::move(picture);
  hint_.clear();
  update();
}

void FlatView::setHint(const QString& hint) {
  picture_ = {};
  hint_ = hint;
  update();
}

double FlatView::pixelsPerMillimetre() const {
  constexpr double margin = 12;
  if (picture_.width <= 0 || picture_.height <= 0) return 1;
  return std::max(1e-6, std::min((width() - 2 * margin) / picture_.width, (height() - 2 * margin) / picture_.height));
}

void FlatView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(rect(), look().panel);
  if (picture_.width <= 0) {
    painter.setPen(look().dim);
    painter.drawText(rect().adjusted(16, 16, -16, -16), Qt::AlignCenter | Qt::TextWordWrap, hint_);
    return;
  }
  const double scale = pixelsPerMillimetre();
  painter.translate((width() - picture_.width * scale) / 2, (height() - picture_.height * scale) / 2);
  painter.scale(scale, scale);
  // Paper is white in both looks: it shows what comes out.
  painter.fillRect(QRectF(0, 0, picture_.width, picture_.height), Qt::white);
  const auto pen = [&](const QColor& color, double millimetres) {
    return QPen(color, std::max(millimetres, 1 / scale), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
  };
  for (const FlatLayer& layer : picture_.layers) {
    for (const FlatFill& fill : layer.fills) {
      QPainterPath area;
      for (const FlatChain& loop : fill.loops) area.addPath(pathOf(loop, picture_.height));
      area.setFillRule(Qt::OddEvenFill);
      painter.fillPath(area, colorOf(fill.color));
      if (fill.hatch.empty()) continue;
      painter.save();
      painter.setClipPath(area, Qt::IntersectClip);
      const PlaneBox box = boxOf(fill.loops);
      painter.setPen(pen(colorOf(layer.ink), 0.13));
      for (const HatchLines& lines : fill.hatch)
        for (const auto& [from, to] : hatchAcross(lines, box))
          painter.drawLine(QPointF(from.u, picture_.height - from.v), QPointF(to.u, picture_.height - to.v));
      painter.restore();
    }
    if (!paintsLines()) continue;
    QPen line = pen(colorOf(layer.ink), layer.width);
    // Qt takes dashes in widths of the line.
    if (layer.dash > 0) line.setDashPattern({layer.dash / line.widthF(), layer.gap / line.widthF()});
    painter.setPen(line);
    painter.setBrush(Qt::NoBrush);
    for (const FlatChain& chain : layer.chains) painter.drawPath(pathOf(chain, picture_.height));
  }
  paintOver(painter);
}

}  // namespace kervo::app
