// The wind vane from nothing, as docs/wind-vane.md says it, with the mouse and with what is typed.
#include <QTreeWidget>
#include <numbers>

#include "app/drawing_driver.h"
#include "geom/planes.h"

namespace kervo::test {
namespace {

constexpr double pi = std::numbers::pi;

class WindVaneWalk : public DrawingTest {
 protected:
  QPoint at(double u, double v) {
    const Plane& plane = window->desk().drawing.edited()->plane;
    return window->view().toWidget(plane.at(u, v)).toPoint();
  }
  void addDimension(const QString& name, const QString& value) {
    auto* sheet = window->dimensions().sheet();
    click(named<QToolButton>("Add a dimension"));
    const int row = sheet->model()->rowCount() - 1;
    editCell(sheet, row, 0, name);
    editCell(sheet, row, 1, value);
  }
  void select(QPoint one, std::optional<QPoint> two = {}) {
    clickAt(&window->view(), {12, 440});
    clickAt(&window->view(), one);
    if (two) clickAt(&window->view(), *two, Qt::ControlModifier);
  }
  /// From the list of curves, on the right.
  void selectListed(int row) {
    auto* list = named<QTreeWidget>("Curves of the drawing");
    clickAt(list->viewport(), list->visualItemRect(list->topLevelItem(row)).center());
  }
  void dimension(const QString& kind, const QString& value) {
    click(button(kind));
    type(value);
    key(Qt::Key_Return);
  }
  double volumeOf(double shaft, double flange, int bolts) {
    const double hub = 40, thick = 8, height = 36, bolt = 5.5;
    return pi / 4 *
           (flange * flange * thick + hub * hub * (height - thick) - shaft * shaft * height -
            bolts * bolt * bolt * thick);
  }
};

TEST_F(WindVaneWalk, IsDrawnFromNothing) {
  // 1 Dimensions.
  for (const auto& [name, value] : {std::pair("shaft", "16 mm"),
                                    {"flange", "80 mm"},
                                    {"thick", "8 mm"},
                                    {"hub", "40 mm"},
                                    {"height", "36 mm"},
                                    {"bolts", "6"},
                                    {"bolt", "5.5 mm"}})
    addDimension(name, value);
  // 2 Half of its outline, as a chain on xz.
  click(button("Draw on a plane"));
  settle();
  chooseFrom(named<QComboBox>("Plane"), "xz (front)");
  settle();
  EXPECT_NEAR(window->desk().drawing.edited()->plane.normal.y, -1, 1e-12);
  chooseKind("chain");
  for (const auto& [u, v] : {std::pair(0.0, 0.0), {38.0, 0.0}, {38.0, 9.0}, {18.0, 9.0}, {18.0, 30.0}, {0.0, 30.0}})
    clickAt(&window->view(), at(u, v));
  key(Qt::Key_Return);
  settle();
  chooseKind("");
  ASSERT_EQ(drawing().curves.size(), 6u);
  EXPECT_EQ(solution().freedoms, 4) << "level, upright and at the origin by where it was clicked";
  // 3 Its sizes.
  selectListed(0);
  dimension("length", "flange / 2");
  selectListed(1);
  dimension("length", "thick");
  selectListed(4);
  dimension("length", "hub / 2");
  selectListed(5);
  dimension("length", "height");
  EXPECT_EQ(solution().freedoms, 0);
  EXPECT_TRUE(hasLine("nothing is free to move"));
  click(button("Leave the drawing"));
  settle();
  // 4 Turned about z.
  click(button("Revolve it"));
  click(button("axis"));
  settle();
  chooseFrom(named<QComboBox>("Axis"), "z");
  settle();
  key(Qt::Key_Return);
  settle();
  ASSERT_FALSE(model().failed());
  ASSERT_EQ(model().bodies.size(), 1u);
  EXPECT_NEAR(model().bodies.front().shape().volume(), pi * (1600 * 8 + 400 * 28), 1e-6);
  // 5 Bore and bolts, drawn on the flange.
  click(button("Home"));
  clickPoint(onFace(model().bodies.front().id, "revolve1:side:l3"));
  click(button("Draw on it"));
  settle();
  chooseKind("circle");
  drag(&window->view(), at(0, 0), at(9, 0));
  drag(&window->view(), at(0, 31), at(3, 31));
  chooseKind("");
  settle();
  ASSERT_EQ(drawing().curves.size(), 2u);
  select(at(9, 0));
  dimension("diameter", "shaft");
  select(at(3, 31));
  dimension("diameter", "bolt");
  select(at(0, 31), at(0, 0));
  dimension("distance", "(flange + hub) / 4");
  select(at(0, 30), at(0, 0));
  click(button("vertical"));
  EXPECT_EQ(solution().freedoms, 0);
  select(at(2.75, 30), at(0, 0));
  click(button("ring …"));
  type("bolts");
  settle();
  ASSERT_EQ(window->desk().drawing.regions().size(), 7u);
  click(button("Cut with them"));
  settle();
  chooseFrom(named<QComboBox>("Direction"), "both");
  key(Qt::Key_Return);
  settle();
  ASSERT_FALSE(model().failed());
  EXPECT_NEAR(model().bodies.front().shape().volume(), volumeOf(16, 80, 6), 1e-6);
  // A year later.
  editCell(window->dimensions().sheet(), 5, 1, "8");
  EXPECT_NEAR(model().bodies.front().shape().volume(), volumeOf(16, 80, 8), 1e-6);
  editCell(window->dimensions().sheet(), 1, 1, "100 mm");
  EXPECT_NEAR(model().bodies.front().shape().volume(), volumeOf(16, 100, 8), 1e-6);
}

}  // namespace
}  // namespace kervo::test
