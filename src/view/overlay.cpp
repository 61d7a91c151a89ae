#include "view/overlay.h"

#include <QCoreApplication>
#include <QLineF>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace kervo {

namespace {

QPointF onWidget(QPointF pixel, qreal ratio) {
  return pixel / ratio;
}

void paintBadge(QPainter& painter, const Badge& badge, const Overlay& overlay) {
  const QRectF disc = badgeRect(badge, overlay.camera, overlay.pixelRatio, QFontMetricsF(painter.font()));
  QColor fill = ViewLook::pieceBadge(badge.tint);
  if (badge.role == Role::Waste) fill = overlay.look.ochre;
  if (badge.role == Role::Cutter) fill = overlay.look.violet;
  painter.setPen(QPen(badge.lit ? overlay.look.ink : QColor(255, 255, 255, 200), badge.lit ? 2.5 : 1.2));
  painter.setBrush(fill);
  painter.drawRoundedRect(disc, disc.height() / 2, disc.height() / 2);
  painter.setPen(Qt::white);
  QFont bold = painter.font();
  bold.setBold(true);
  painter.setFont(bold);
  painter.drawText(disc, Qt::AlignCenter, QString::fromStdString(badge.text));
}

void paintGauge(QPainter& painter, const Gauge& gauge, bool hot, const Overlay& overlay) {
  const GaugeShape shape = shapeOf(gauge, overlay.camera);
  const QPointF first = onWidget(shape.first, overlay.pixelRatio), second = onWidget(shape.second, overlay.pixelRatio);
  const QPointF bead = onWidget(shape.bead, overlay.pixelRatio);
  const QPointF across(-shape.along.y(), shape.along.x());
  painter.setBrush(Qt::NoBrush);
  if (gauge.kind == Gauge::Kind::Angle) {
    QPolygonF arc = arcOf(gauge, overlay.camera);
    for (QPointF& point : arc) point = onWidget(point, overlay.pixelRatio);
    for (const auto& [color, width] :
         {std::pair(QColor(255, 255, 255, 190), 5.0), std::pair(overlay.look.violet, 2.2)}) {
      painter.setPen(QPen(color, width, Qt::SolidLine, Qt::RoundCap));
      painter.drawPolyline(arc);
    }
    painter.setPen(QPen(overlay.look.violet, 2));
    painter.setBrush(hot ? overlay.look.violet : QColor(Qt::white));
    painter.drawEllipse(bead, hot ? 7 : 6, hot ? 7 : 6);
    return;
  }
  // A light halo keeps it legible over dark and light bodies.
  for (const auto& [color, width] : {std::pair(QColor(255, 255, 255, 190), 5.0), std::pair(overlay.look.violet, 2.2)}) {
    painter.setPen(QPen(color, width, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(first, second);
    painter.drawLine(first - across * 8, first + across * 8);
    painter.drawLine(second - across * 8, second + across * 8);
  }
  painter.setPen(QPen(overlay.look.violet, 2));
  painter.setBrush(hot ? overlay.look.violet : QColor(Qt::white));
  painter.drawEllipse(bead, hot ? 7 : 6, hot ? 7 : 6);
}

/// A disc with arrows four ways: it can be dragged anywhere in its plane.
void paintGrip(QPainter& painter, Point place, const Overlay& overlay) {
  const QPointF at = onWidget(overlay.camera.project(place), overlay.pixelRatio);
  constexpr double radius = 12, arm = 7.5, head = 2.8;
  painter.setPen(QPen(overlay.look.violet, 2));
  painter.setBrush(overlay.hotGrip ? overlay.look.violet : QColor(Qt::white));
  painter.drawEllipse(at, radius, radius);
  painter.setPen(QPen(overlay.hotGrip ? QColor(Qt::white) : overlay.look.violet, 1.6, Qt::SolidLine, Qt::RoundCap));
  for (const QPointF& way : {QPointF(1, 0), QPointF(0, 1), QPointF(-1, 0), QPointF(0, -1)}) {
    const QPointF across(-way.y(), way.x()), tip = at + way * arm;
    painter.drawLine(at, tip);
    painter.drawLine(tip, tip - (way + across) * head);
    painter.drawLine(tip, tip - (way - across) * head);
  }
}

void paintMeasured(QPainter& painter, const MeasureMark& mark, const Overlay& overlay) {
  const QPointF from = onWidget(overlay.camera.project(mark.from), overlay.pixelRatio),
                to = onWidget(overlay.camera.project(mark.to), overlay.pixelRatio);
  const QLineF line(from, to);
  const QPointF across =
      line.length() > 1 ? QPointF(line.normalVector().dx(), line.normalVector().dy()) / line.length() : QPointF(0, 1);
  for (const auto& [color, width] : {std::pair(overlay.look.textBack, 4.5), std::pair(overlay.look.teal, 2.0)}) {
    painter.setPen(QPen(color, width, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(line);
    for (const QPointF& end : {from, to}) painter.drawLine(end - across * 6, end + across * 6);
  }
  const QFontMetricsF metrics(painter.font());
  QRectF box(0, 0, metrics.horizontalAdvance(mark.text) + 12, metrics.height() + 4);
  // Beside the line, and within the view.
  box.moveCenter(line.center() + across * (box.height() / 2 + 8 + std::abs(across.x()) * box.width() / 2));
  box.moveLeft(std::clamp(box.left(), 4.0, std::max(4.0, overlay.size.width() - box.width() - 4)));
  box.moveTop(std::clamp(box.top(), 4.0, std::max(4.0, overlay.size.height() - box.height() - 4)));
  painter.setPen(QPen(overlay.look.teal, 1));
  painter.setBrush(overlay.look.textBack);
  painter.drawRoundedRect(box, 4, 4);
  painter.setPen(overlay.look.text);
  painter.drawText(box, Qt::AlignCenter, mark.text);
}

void paintAxes(QPainter& painter, const Overlay& overlay) {
  const QPointF origin(52, overlay.size.height() - 40);
  const Vector right = overlay.camera.right(), up = overlay.camera.up(), back = overlay.camera.towardsEye();
  const std::array<Vector, 3> axes{Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}};
  std::array<std::size_t, 3> order{0, 1, 2};
  std::sort(order.begin(), order.end(), [&](auto a, auto b) { return dot(axes[a], back) < dot(axes[b], back); });
  for (const std::size_t i : order) {
    const QPointF direction(dot(axes[i], right), -dot(axes[i], up));
    painter.setPen(QPen(overlay.look.axes[i], 2, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(origin, origin + direction * 26);
    painter.setPen(overlay.look.text);
    const QPointF at = origin + direction * 35;
    painter.drawText(QRectF(at.x() - 10, at.y() - 10, 20, 20), Qt::AlignCenter, QString(QChar('x' + int(i))));
  }
}

void paintLabel(QPainter& painter, const Overlay& overlay) {
  const QFontMetricsF metrics(painter.font());
  const QSizeF text = metrics.size(0, overlay.label);
  QRectF frame(overlay.labelAt + QPointF(16, 14), text + QSizeF(14, 8));
  // Kept inside the view.
  if (frame.right() > overlay.size.width() - 4) frame.moveRight(overlay.labelAt.x() - 10);
  if (frame.left() < 4) frame.moveLeft(4);
  if (frame.bottom() > overlay.size.height() - 4) frame.moveBottom(overlay.labelAt.y() - 10);
  QColor back = overlay.look.textBack;
  back.setAlphaF(0.94f);
  painter.setPen(QPen(overlay.look.ink, 1));
  painter.setBrush(back);
  painter.drawRoundedRect(frame, 4, 4);
  painter.setPen(overlay.look.text);
  painter.drawText(frame, Qt::AlignCenter, overlay.label);
}

void paintBox(QPainter& painter, const Overlay& overlay) {
  if (!overlay.box) return;
  // Solid: what lies inside; dashed: what it touches.
  const QColor color = overlay.boxTouches ? overlay.look.violet : overlay.look.teal;
  QColor fill = color;
  fill.setAlphaF(0.08f);
  painter.setPen(QPen(color, 1.5, overlay.boxTouches ? Qt::DashLine : Qt::SolidLine));
  painter.setBrush(fill);
  painter.drawRect(overlay.box->normalized());
  const QString word = overlay.boxTouches ? QStringLiteral("touching") : QStringLiteral("inside");
  painter.setPen(color);
  painter.drawText(overlay.box->normalized().bottomLeft() + QPointF(4, -5), word);
}

void paintBadgesNote(QPainter& painter, const Overlay& overlay, std::size_t shown) {
  const QString note = badgesNote(overlay, shown);
  if (note.isEmpty()) return;
  QColor back = overlay.look.textBack;
  back.setAlphaF(0.94f);
  painter.setPen(QPen(overlay.look.ink, 1));
  painter.setBrush(back);
  const QRectF frame = badgesNoteRect(overlay, note, QFontMetricsF(painter.font()));
  painter.drawRoundedRect(frame, 4, 4);
  painter.setPen(overlay.look.text);
  painter.drawText(frame, Qt::AlignCenter, note);
}

double weightOf(const Badge& badge) {
  double most = 0;
  for (const Badge::Place& place : badge.places) most = std::max(most, place.weight);
  return most;
}

constexpr double legendMargin = 14, swatchWidth = 22;

/// The bands from above to below, with the values between them.
void paintLegend(QPainter& painter, const Overlay& overlay) {
  const SurfacePaint& paint = overlay.paint;
  const QFontMetricsF font(painter.font());
  const double line = font.height() + 4;
  const int bands = static_cast<int>(paint.borders.size()) + 1;
  double width = font.horizontalAdvance(QString::fromStdString(paint.title));
  for (const std::string& border : paint.borders)
    width = std::max(width, swatchWidth + 10 + font.horizontalAdvance(QString::fromStdString(border)));
  const QRectF all(legendMargin, legendMargin, width + 20, legendHeight(overlay, font));
  QColor back = overlay.look.textBack;
  back.setAlphaF(0.9F);
  painter.setPen(Qt::NoPen);
  painter.setBrush(back);
  painter.drawRoundedRect(all, 5, 5);
  painter.setPen(overlay.look.text);
  painter.drawText(QPointF(all.left() + 10, all.top() + 6 + font.ascent()), QString::fromStdString(paint.title));
  const double top = all.top() + line + 10;
  for (int i = 0; i < bands; ++i) {
    const QRectF swatch(all.left() + 10, top + (bands - 1 - i) * line, swatchWidth, line);
    painter.fillRect(swatch, ViewLook::band(i, bands));
    if (i + 1 == bands) continue;
    // A border is between two bands.
    painter.drawLine(swatch.topLeft(), swatch.topRight() + QPointF(5, 0));
    painter.drawText(QPointF(swatch.right() + 9, swatch.top() + font.ascent() / 2 - 1),
                     QString::fromStdString(paint.borders[static_cast<std::size_t>(i)]));
  }
}

}  // namespace

double legendHeight(const Overlay& overlay, const QFontMetricsF& font) {
  if (overlay.paint.kind != SurfacePaint::Kind::Bands || overlay.paint.borders.empty()) return 0;
  return (font.height() + 4) * static_cast<double>(overlay.paint.borders.size() + 2) + 18;
}

Point placeOf(const Badge& badge, const Camera& camera) {
  Point best;
  double most = -1;
  for (const Badge::Place& place : badge.places) {
    const double seen = place.weight * std::max(0.02, dot(place.outwards, camera.towardsEye()));
    if (seen <= most) continue;
    most = seen;
    best = place.point;
  }
  return best;
}

QRectF badgeRect(const Badge& badge, const Camera& camera, qreal pixelRatio, const QFontMetricsF& font) {
  const QPointF middle = onWidget(camera.project(placeOf(badge, camera)), pixelRatio);
  const double height = font.height() + 7;
  const double width = std::max(height, font.horizontalAdvance(QString::fromStdString(badge.text)) + 12);
  return {middle.x() - width / 2, middle.y() - height / 2, width, height};
}

std::vector<std::size_t> shownBadges(const Overlay& overlay, const QFontMetricsF& font) {
  constexpr std::size_t few = 12, most = 24;
  std::vector<std::size_t> order(overlay.badges.size());
  std::iota(order.begin(), order.end(), std::size_t(0));
  if (overlay.allBadges || order.size() <= few) return order;
  std::vector<QPointF> places;
  QRectF all;
  for (const Badge& badge : overlay.badges) {
    const QRectF where = badgeRect(badge, overlay.camera, overlay.pixelRatio, font);
    places.push_back(where.center());
    all |= where & QRectF(QPointF(), overlay.size);
  }
  // As far apart as so many would be that share the room evenly.
  const double apart = std::max(1.6 * (font.height() + 7), std::sqrt(all.width() * all.height() / most));
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    const Badge &first = overlay.badges[a], &second = overlay.badges[b];
    return std::pair(first.lit, weightOf(first)) > std::pair(second.lit, weightOf(second));
  });
  std::vector<std::size_t> shown;
  for (const std::size_t i : order) {
    const auto near = [&](std::size_t other) { return QLineF(places[i], places[other]).length() < apart; };
    if (overlay.badges[i].lit || std::none_of(shown.begin(), shown.end(), near)) shown.push_back(i);
  }
  return shown;
}

QString badgesNote(const Overlay& overlay, std::size_t shown) {
  if (shown == overlay.badges.size()) return {};
  return QCoreApplication::translate("Overlay", "%1 of %2 badges · click for all")
      .arg(shown)
      .arg(overlay.badges.size());
}

QRectF badgesNoteRect(const Overlay& overlay, const QString& note, const QFontMetricsF& font) {
  const QSizeF size = font.size(0, note) + QSizeF(16, 8);
  return {QPointF((overlay.size.width() - size.width()) / 2, overlay.size.height() - size.height() - 10), size};
}

void paint(QPainter& painter, const Overlay& overlay) {
  painter.setRenderHint(QPainter::Antialiasing);
  paintAxes(painter, overlay);
  if (overlay.paint.kind == SurfacePaint::Kind::Bands && !overlay.paint.borders.empty()) paintLegend(painter, overlay);
  for (const Point& corner : overlay.markedCorners) {
    painter.setPen(QPen(Qt::white, 1.5));
    painter.setBrush(overlay.look.teal);
    painter.drawEllipse(onWidget(overlay.camera.project(corner), overlay.pixelRatio), 5, 5);
  }
  for (const MeasureMark& mark : overlay.measured) paintMeasured(painter, mark, overlay);
  const QFont font = painter.font();
  const std::vector<std::size_t> shown = shownBadges(overlay, QFontMetricsF(font));
  for (auto i = shown.rbegin(); i != shown.rend(); ++i) {
    paintBadge(painter, overlay.badges[*i], overlay);
    painter.setFont(font);
  }
  paintBadgesNote(painter, overlay, shown.size());
  for (std::size_t i = 0; i < overlay.gauges.size(); ++i)
    paintGauge(painter, overlay.gauges[i], overlay.hotGauge == i, overlay);
  const auto gripped = std::find_if(overlay.gauges.begin(), overlay.gauges.end(),
                                    [](const Gauge& gauge) { return gauge.grip.has_value(); });
  if (gripped != overlay.gauges.end()) paintGrip(painter, gripped->grip.value_or(Point()), overlay);
  if (overlay.box) paintBox(painter, overlay);
  if (!overlay.label.isEmpty()) paintLabel(painter, overlay);
}

}  // namespace kervo
