// What is painted over the bodies in pixels: badges, gauges, axes, the pointer's label, the selection box.
#pragma once

#include <QFontMetricsF>
#include <QPainter>
#include <QString>
#include <optional>
#include <vector>

#include "view/gauge.h"
#include "view/look.h"
#include "view/scene.h"

namespace kervo {

/// Everything in it is in widget coordinates (scaled pixels) but the camera, which knows the screen's own.
/// A distance between two places, with its words.
struct MeasureMark {
  Point from, to;
  QString text;
};

struct Overlay {
  const Camera& camera;
  ViewLook look;
  qreal pixelRatio = 1;
  QSizeF size;
  std::vector<Badge> badges = {};
  bool allBadges = false;  ///< also where they hide the bodies
  std::vector<Gauge> gauges = {};
  std::optional<std::size_t> hotGauge = {};  ///< under the pointer or dragged
  QString label = {};                        ///< beside the pointer
  QPointF labelAt = {};
  std::optional<QRectF> box = {};
  bool boxTouches = false;  ///< drawn right to left
  std::vector<Point> markedCorners = {};
  std::vector<MeasureMark> measured = {};
  SurfacePaint paint = {};  ///< whose bands are explained
  bool hotGrip = false;     ///< that of the gauges is under the pointer or dragged
};

/// How high the explanation of the bands is; 0 without any.
double legendHeight(const Overlay& overlay, const QFontMetricsF& font);

void paint(QPainter& painter, const Overlay& overlay);

/// Which badges are painted: few enough for the bodies to be seen, those of the largest pieces first, and the lit one.
/// Indices into overlay.badges, in that order.
std::vector<std::size_t> shownBadges(const Overlay& overlay, const QFontMetricsF& font);
/// The words that say how many are left out, and take a click that shows all; empty if none is.
QString badgesNote(const Overlay& overlay, std::size_t shown);
QRectF badgesNoteRect(const Overlay& overlay, const QString& note, const QFontMetricsF& font);

/// The place of a badge that is seen best.
Point placeOf(const Badge& badge, const Camera& camera);
/// Where a badge is drawn and can be clicked.
QRectF badgeRect(const Badge& badge, const Camera& camera, qreal pixelRatio, const QFontMetricsF& font);

}  // namespace kervo
