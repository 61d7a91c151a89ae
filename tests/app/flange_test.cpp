// A flange from nothing: drawn free-hand, tied down until nothing is free, changed, trimmed and cut. And whatever is
// edited in a drawing, undone it is what it was.
#include <gmock/gmock.h>

#include <numbers>
#include <random>

#include "app/drawing_driver.h"
#include "geom/planes.h"

namespace kervo::test {
namespace {

constexpr double pi = std::numbers::pi;

class FlangeTest : public DrawingTest {
 protected:
  const std::string& last() { return drawing().curves.back().id; }
  PlanePoint at(const std::string& point) { return solution().points[drawing().pointAt(point)]; }
  /// Where a circle or arc runs, in a direction from its centre.
  QPoint onRound(const std::string& curve, double degrees) {
    for (const PlanarCurve& each : curvesOf(drawing(), window->desk().drawing.values(), solution(), true))
      if (each.id == curve) {
        const auto carrier = each.geometry->carrier();
        const double angle = degrees * pi / 180;
        return seen(carrier->centre.u + carrier->radius * std::cos(angle),
                    carrier->centre.v + carrier->radius * std::sin(angle));
      }
    ADD_FAILURE() << "no curve " << curve;
    return {};
  }
  QPoint atPoint(const std::string& point) { return seen(at(point).u, at(point).v); }
  void select(QPoint one, std::optional<QPoint> two = {}) {
    clickAt(&window->view(), {12, 400});
    clickAt(&window->view(), one);
    if (two) clickAt(&window->view(), *two, Qt::ControlModifier);
  }
  void dimension(const QString& kind, const QString& value) {
    click(button(kind));
    ASSERT_EQ(QApplication::focusWidget(), named<QLineEdit>("Value of the dimension"));
    type(value);
    key(Qt::Key_Return);
  }
};

TEST_F(FlangeTest, IsDrawnTiedDownChangedTrimmedAndCut) {
  drawOnABlock();
  // Free-hand: a rim, a bore beside its middle, a bolt hole somewhere.
  chooseKind("circle");
  drag(&window->view(), seen(48, 31), seen(70, 31));
  const std::string rim = last();
  drag(&window->view(), seen(44, 27), seen(51, 27));
  const std::string bore = last();
  drag(&window->view(), seen(61, 36), seen(63, 36));
  const std::string hole = last();
  chooseKind("");
  ASSERT_EQ(drawing().curves.size(), 3u);
  EXPECT_EQ(solution().freedoms, 9);
  const auto centre = [&](const std::string& curve) { return drawing().curves[drawing().curveAt(curve)].points[0]; };
  // Tied down: what is one middle, how large, where.
  select(onRound(rim, 100), onRound(bore, 200));
  click(button("concentric"));
  EXPECT_NEAR(distance(at(centre(rim)), at(centre(bore))), 0, 1e-9);
  select(onRound(rim, 100));
  dimension("diameter", "44 mm");
  select(onRound(bore, 250));
  dimension("diameter", "16 mm");
  select(onRound(hole, 320));
  dimension("diameter", "5 mm");
  EXPECT_EQ(solution().freedoms, 4);
  // What is free is dragged; what is tied stays.
  drag(&window->view(), atPoint(centre(hole)), seen(at(centre(hole)).u + 2, at(centre(hole)).v + 3));
  EXPECT_EQ(solution().freedoms, 4);
  EXPECT_NEAR(onRound(hole, 0).x() - atPoint(centre(hole)).x(),
              onRound(bore, 0).x() * 0 + (seen(2.5, 0) - seen(0, 0)).x(), 1);
  select(atPoint(centre(hole)), atPoint(centre(rim)));
  dimension("distance", "15 mm");
  select(atPoint(centre(hole)), atPoint(centre(rim)));
  click(button("horizontal"));
  EXPECT_EQ(solution().freedoms, 2);
  select(atPoint(centre(rim)));
  click(button("fixed"));
  EXPECT_EQ(solution().freedoms, 0) << "nothing is free to move";
  EXPECT_TRUE(hasLine("nothing is free to move"));
  // A dimension is changed where it stands.
  for (QLineEdit* each : window->findChildren<QLineEdit*>())
    if (each->isVisible() && each->accessibleName().startsWith("distance:")) writeInto(each, "16.5 mm");
  settle();
  EXPECT_NEAR(distance(at(centre(hole)), at(centre(rim))), 16.5, 1e-9);
  // A flat side: a line across, and the stretch beyond it swept away.
  chooseKind("line");
  const PlanePoint middle = at(centre(rim));
  drag(&window->view(), seen(middle.u - 17, middle.v - 27), seen(middle.u - 17, middle.v + 27));
  chooseKind("");
  window->view().setFocus();
  key(Qt::Key_T);
  clickAt(&window->view(), onRound(rim, 180));
  clickAt(&window->view(), seen(middle.u - 17, middle.v - 25));
  clickAt(&window->view(), seen(middle.u - 17, middle.v + 25));
  key(Qt::Key_T);
  EXPECT_EQ(drawing().curves[drawing().curveAt(rim)].kind, "arc");
  settle();
  const double flat = 17, r = 22,
               area = pi * r * r - (r * r * std::acos(flat / r) - flat * std::sqrt(r * r - flat * flat));
  ASSERT_EQ(window->desk().drawing.regions().size(), 3u);
  double largest = 0;
  std::vector<std::string> holes;
  for (const RegionShape& region : window->desk().drawing.regions()) {
    largest = std::max(largest, region.area);
    if (region.area < 500) holes.push_back(region.name);
  }
  EXPECT_NEAR(largest, area - pi * (64 + 6.25), 0.2 * 40) << "the flat stands where it was let go";
  // Bore and hole are cut.
  window->desk().drawing.pickRegions(holes);
  const double before = volume("block1");
  click(button("Cut with them"));
  settle();
  key(Qt::Key_Return);
  settle();
  EXPECT_FALSE(model().failed());
  EXPECT_NEAR(before - volume("block1"), 40 * pi * (64 + 6.25), 1e-6);
}

TEST_F(FlangeTest, WhateverIsEditedIsTheSameAgainWhenUndone) {
  drawOnABlock();
  std::mt19937 random(14403);
  const auto pick = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(random); };
  const std::vector<QString> kinds{"line", "circle", "rectangle", "slot", "polygon", "ellipse"};
  std::vector<Drawing> before;
  app::DrawingDesk& desk = window->desk().drawing;
  for (int i = 0; i < 40; ++i) {
    const Drawing was = drawing();
    switch (i < 4 ? 0 : random() % 6) {
      case 0:
      case 1:
        chooseKind(kinds[random() % kinds.size()]);
        drag(&window->view(), seen(pick(5, 95), pick(5, 55)), seen(pick(5, 95), pick(5, 55)));
        chooseKind("");
        break;
      case 2: {
        // A point is dragged.
        const std::size_t point = random() % drawing().points.size();
        const PlanePoint place = solution().points[point];
        drag(&window->view(), seen(place.u, place.v), seen(place.u + pick(-6, 6), place.v + pick(-6, 6)));
        break;
      }
      case 3: {
        // Something that fits two parts.
        desk.select({drawing().curves[random() % drawing().curves.size()].id,
                     drawing().curves[random() % drawing().curves.size()].id});
        if (const auto fitting = desk.fitting(); !fitting.empty())
          desk.constrain(*fitting[random() % fitting.size()], desk.selected());
        if (desk.refused()) desk.leaveAsItWas();
        break;
      }
      case 4:
        desk.select({drawing().curves[random() % drawing().curves.size()].id});
        key(random() % 2 == 0 ? Qt::Key_Delete : Qt::Key_S);
        if (drawing().curves.empty()) desk.select({});
        break;
      default:
        desk.select({drawing().curves[random() % drawing().curves.size()].id});
        desk.switchConstruction();
    }
    settle();
    desk.select({});
    if (QLineEdit* typed = window->view().findChild<QLineEdit*>(); typed && typed->isVisible()) key(Qt::Key_Escape);
    window->message().close();
    window->view().setFocus();
    if (!(drawing() == was)) before.push_back(was);
    ASSERT_TRUE(desk.open());
  }
  ASSERT_GT(before.size(), 20u);
  for (auto was = before.rbegin(); was != before.rend(); ++was) {
    key(Qt::Key_Z, Qt::ControlModifier);
    ASSERT_EQ(drawing(), *was) << std::distance(was, before.rend());
  }
}

}  // namespace
}  // namespace kervo::test
