// Badges, gauges, the pointer's label and the selection box, painted on an image.
#include "view/overlay.h"

#include <gtest/gtest.h>

#include <QImage>

namespace kervo {
namespace {

Camera cameraFor(const Box& box, StandardView view) {
  Camera camera;
  camera.setViewport({400, 300});
  camera.look(view, box);
  return camera;
}

const Box box{{0, 0, 0}, {40, 30, 20}};

class OverlayTest : public testing::Test {
 protected:
  Overlay overlay(const Camera& camera) {
    return {camera, ViewLook::light(), 1, {400, 300}, {}, false, {}, {}, {}, {}, {}, false, {}};
  }
  static QImage painted(const Overlay& what) {
    QImage image(400, 300, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::white);
    QPainter painter(&image);
    paint(painter, what);
    return image;
  }
  static int inked(const QImage& image, QRect where) {
    int count = 0;
    for (int y = where.top(); y <= where.bottom(); ++y)
      for (int x = where.left(); x <= where.right(); ++x)
        if (image.rect().contains(x, y) && image.pixelColor(x, y).lightnessF() < 0.9) ++count;
    return count;
  }
  static Badge badge() {
    Badge result;
    result.text = "1";
    result.places = {{{20, 15, 20}, {0, 0, 1}, 1200}, {{20, 0, 10}, {0, -1, 0}, 800}};
    return result;
  }
};

TEST_F(OverlayTest, AxesStandInTheCorner) {
  const Camera camera = cameraFor(box, StandardView::Home);
  EXPECT_GT(inked(painted(overlay(camera)), {10, 200, 90, 95}), 40);
}

TEST_F(OverlayTest, BadgeStandsOnTheFaceThatIsSeen) {
  const Camera top = cameraFor(box, StandardView::Top), front = cameraFor(box, StandardView::Front);
  EXPECT_EQ(placeOf(badge(), top), (Point{20, 15, 20}));
  EXPECT_EQ(placeOf(badge(), front), (Point{20, 0, 10}));
  Overlay what = overlay(front);
  what.badges = {badge()};
  const QImage image = painted(what);
  const QRectF where = badgeRect(what.badges[0], front, 1, QFontMetricsF(QFont()));
  EXPECT_TRUE(where.contains(front.project({20, 0, 10})));
  EXPECT_GT(inked(image, where.toRect()), 100);
}

TEST_F(OverlayTest, WasteBadgeIsOchre) {
  const Camera camera = cameraFor(box, StandardView::Top);
  Overlay what = overlay(camera);
  Badge waste = badge();
  waste.role = Role::Waste;
  waste.text = " ";
  what.badges = {waste};
  const QColor color = painted(what).pixelColor(camera.project({20, 15, 20}).toPoint());
  EXPECT_LT(std::abs(color.hueF() - ViewLook::light().ochre.hueF()), 0.03);
}

TEST_F(OverlayTest, GaugeHasJawsAndABead) {
  const Camera camera = cameraFor(box, StandardView::Front);
  Overlay what = overlay(camera);
  what.gauges = {{"height", {20, 0, 0}, {0, 0, 1}, 20}};
  const QImage image = painted(what);
  const GaugeShape shape = shapeOf(what.gauges[0], camera);
  EXPECT_GT(inked(image, QRectF(shape.first - QPointF(9, 3), QSizeF(18, 6)).toRect()), 15);
  EXPECT_GT(inked(image, QRectF(shape.bead - QPointF(8, 8), QSizeF(16, 16)).toRect()), 20);
  // The bead is open until the pointer takes it.
  EXPECT_GT(image.pixelColor(shape.bead.toPoint()).lightnessF(), 0.9);
  what.hotGauge = 0;
  EXPECT_LT(painted(what).pixelColor(shape.bead.toPoint()).lightnessF(), 0.7);
}

TEST_F(OverlayTest, LabelStaysInsideTheView) {
  const Camera camera = cameraFor(box, StandardView::Front);
  Overlay what = overlay(camera);
  what.label = "top of Block · plane · 12.00 cm²";
  what.labelAt = {395, 295};
  const QImage image = painted(what);
  EXPECT_GT(inked(image, {100, 240, 295, 58}), 100);
  EXPECT_EQ(inked(image, {398, 200, 2, 99}), 0);
}

TEST_F(OverlayTest, SelectionBoxSaysWhatItTakes) {
  const Camera camera = cameraFor(box, StandardView::Front);
  Overlay what = overlay(camera);
  what.box = QRectF(50, 40, 200, 100);
  const auto along = [&](const QImage& image) { return inked(image, {60, 40, 180, 0 + 1}); };
  const int solid = along(painted(what));
  what.boxTouches = true;
  const int dashed = along(painted(what));
  EXPECT_GT(solid, 150);
  EXPECT_LT(dashed, solid);
  EXPECT_GT(dashed, 40);
}

TEST_F(OverlayTest, OfManyBadgesThoseOfTheLargestPiecesAreShown) {
  const Camera camera = cameraFor(box, StandardView::Top);
  const QFontMetricsF font{QFont()};
  Overlay what = overlay(camera);
  for (int i = 0; i < 160; ++i) {
    Badge each = badge();
    each.text = std::to_string(i + 1);
    each.places = {{{2.5 * (i % 16), 3.0 * (i / 16), 20}, {0, 0, 1}, i == 77 ? 100.0 : 10.0}};
    what.badges.push_back(each);
  }
  const std::vector<std::size_t> shown = shownBadges(what, font);
  EXPECT_EQ(shown.front(), 77u) << "the largest";
  EXPECT_GT(shown.size(), 8u);
  EXPECT_LT(shown.size(), 40u);
  // None hides another.
  for (std::size_t i = 0; i < shown.size(); ++i)
    for (std::size_t j = 0; j < i; ++j)
      EXPECT_FALSE(badgeRect(what.badges[shown[i]], camera, 1, font)
                       .intersects(badgeRect(what.badges[shown[j]], camera, 1, font)));
  EXPECT_TRUE(badgesNote(what, shown.size()).contains("of 160 badges"));
  // The lit one is always among them.
  what.badges[3].lit = true;
  EXPECT_EQ(shownBadges(what, font).front(), 3u);
  what.allBadges = true;
  EXPECT_EQ(shownBadges(what, font).size(), 160u);
  EXPECT_TRUE(badgesNote(what, 160).isEmpty());
  // A few are all shown, however near they are.
  what.allBadges = false;
  what.badges.assign(12, badge());
  EXPECT_EQ(shownBadges(what, font).size(), 12u);
}

TEST_F(OverlayTest, AngleGaugeShowsItsArc) {
  const Camera camera = cameraFor(box, StandardView::Top);
  Overlay what = overlay(camera);
  what.gauges = {Gauge::angle("tilt", {20, 15, 20}, {0, 0, 1}, {1, 0, 0}, 12, 1.2)};
  const QImage image = painted(what);
  for (const double angle : {0.0, 0.6, 1.2}) {
    const QPoint at = camera.project(what.gauges[0].armAt(angle)).toPoint();
    EXPECT_GT(inked(image, QRect(at - QPoint(8, 8), QSize(17, 17))), 6) << angle;
  }
}

}  // namespace
}  // namespace kervo
