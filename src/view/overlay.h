// What is painted over the bodies in pixels: badges, gauges, axes, the pointer's label, the selection box.
#pragma once

#include <QPainter>
#include <QString>
#include <optional>
#include <vector>

#include "view/gauge.h"
#include "view/look.h"
#include "view/scene.h"

namespace kervo {

/// Everything in it is in widget coordinates (scaled pixels) but the camera, which knows the screen's own.
struct Overlay {
  const Camera& camera;
  ViewLook look;
  qreal pixelRatio = 1;
  QSizeF size;
  std::vector<Badge> badges;
  std::vector<Gauge> gauges;
  std::optional<std::size_t> hotGauge;  ///< under the pointer or dragged
  QString label;                        ///< beside the pointer
  QPointF labelAt;
  std::optional<QRectF> box;
  bool boxTouches = false;  ///< drawn right to left
  std::vector<Point> markedCorners;
};

void paint(QPainter& painter, const Overlay& overlay);

/// The place of a badge that is seen best.
Point placeOf(const Badge& badge, const Camera& camera);
/// Where a badge is drawn and can be clicked.
QRectF badgeRect(const Badge& badge, const Camera& camera, qreal pixelRatio, const QFontMetricsF& font);

}  // namespace kervo
