// Drawing with points and constraints in the real window, with the mouse and with keys.
#include <QScrollArea>
#include <QTimer>

#include "app/bench/constraints_editor.h"
#include "support/document_builder.h"
#include "support/window_driver.h"

namespace kervo::test {
namespace {

class DrawingTest : public WindowTest {
 protected:
  /// A block of 100 × 60 × 40, seen from above, and a drawing on its top on the Bench.
  void drawOnABlock() {
    click(button("Block"));
    key(Qt::Key_Return);
    click(button("Top"));
    clickPoint(onFace("block1", "block1:top"));
    click(button("Draw on it"));
  }
  /// Chooses what is drawn from the list of "draw in the view", by keys.
  void chooseKind(int down) {
    QTimer::singleShot(100, [down] {
      auto* menu = QApplication::activePopupWidget();
      ASSERT_NE(menu, nullptr);
      for (int i = 0; i < down; ++i) QTest::keyClick(menu, Qt::Key_Down);
      QTest::keyClick(menu, Qt::Key_Return);
    });
    for (QToolButton* each : window->bench().findChildren<QToolButton*>("segment"))
      if (each->isVisible() && each->popupMode() == QToolButton::InstantPopup) return click(each);
    FAIL() << "nothing to draw with";
  }
  QPoint seen(double u, double v) { return window->view().toWidget({u, v, 40}).toPoint(); }
  const Drawing& drawing() { return window->desk().trial.step().value("curves").as<Drawing>(); }
  const Solution& solution() {
    static Solution none;
    none.points.resize(9);
    const auto& result = window->desk().trial.result();
    if (!result) {
      ADD_FAILURE() << "nothing was tried";
      return none;
    }
    const StepReport& report = result->report();
    EXPECT_TRUE(report.drawing()) << (report.cause ? report.cause->what() : "no drawing");
    return report.drawing() ? report.drawing()->solution : none;
  }
  /// Scrolls the Bench to a line, as a person does, and writes into it.
  void writeInto(QLineEdit* line, const QString& text) {
    ASSERT_NE(line, nullptr);
    for (QWidget* parent = line; parent; parent = parent->parentWidget())
      if (auto* area = qobject_cast<QScrollArea*>(parent)) area->ensureWidgetVisible(line);
    settle();
    typeInto(line, text);
  }
  void addConstraint(const QString& kind, const QString& on) {
    auto* list = named<QComboBox>("Kind of constraint");
    list->setFocus();
    list->setCurrentIndex(list->findData(kind));
    writeInto(named<QLineEdit>("What the constraint is on"), on);
    key(Qt::Key_Return);
    settle();
  }
};

TEST_F(DrawingTest, ARectangleIsDrawnConstrainedAndDragged) {
  drawOnABlock();
  chooseKind(3);
  drag(&window->view(), seen(20, 10), seen(60, 40));
  settle();
  ASSERT_EQ(drawing().points.size(), 4u);
  EXPECT_EQ(solution().freedoms, 4);
  chooseKind(8);  // stop drawing
  // Dragged at a corner the opposite one stays and the sides stay level and upright.
  const PlanePoint low = solution().points[0], high = solution().points[2];
  drag(&window->view(), seen(high.u, high.v), seen(high.u + 10, high.v - 5));
  settle();
  EXPECT_NEAR(solution().points[2].u, high.u + 10, 0.6);
  EXPECT_NEAR(solution().points[2].v, high.v - 5, 0.6);
  EXPECT_EQ(solution().points[1].v, solution().points[0].v);
  EXPECT_NEAR(distance(solution().points[0], low), 0, 1e-9);
  // Dimensions begin with what they measure; then one is typed.
  const double width = distance(solution().points[0], solution().points[1]);
  addConstraint("length", "l1");
  EXPECT_NEAR(distance(solution().points[0], solution().points[1]), width, 1e-5);
  EXPECT_EQ(solution().freedoms, 3);
  writeInto(named<QLineEdit>("length l1"), "45 mm");
  settle();
  EXPECT_NEAR(distance(solution().points[0], solution().points[1]), 45, 1e-9);
  EXPECT_NEAR(distance(solution().points[3], solution().points[2]), 45, 1e-9);
  // And it cuts.
  key(Qt::Key_Return);
  settle();
  ASSERT_FALSE(window->desk().trial.active());
  EXPECT_FALSE(model().failed());
}

TEST_F(DrawingTest, LinesThatMeetShareTheirPoint) {
  drawOnABlock();
  chooseKind(1);
  drag(&window->view(), seen(20, 10), seen(60, 25));
  settle();
  const PlanePoint end = solution().points[1];
  drag(&window->view(), seen(end.u, end.v) + QPoint(2, 1), seen(40, 50));
  settle();
  ASSERT_EQ(drawing().curves.size(), 2u);
  EXPECT_EQ(drawing().points.size(), 3u);
  EXPECT_EQ(drawing().curves[0].points[1], drawing().curves[1].points[0]);
}

TEST_F(DrawingTest, AContradictionIsNamedOnItsRow) {
  drawOnABlock();
  chooseKind(3);
  drag(&window->view(), seen(20, 10), seen(60, 40));
  settle();
  addConstraint("parallel", "l1, l3");
  EXPECT_EQ(solution().alreadyTrue.size(), 1u);
  addConstraint("vertical", "l1");
  const auto& report = window->desk().trial.result()->report();
  ASSERT_EQ(report.state, StepState::Failed);
  ASSERT_TRUE(report.finding);
  EXPECT_EQ(report.finding->conflicts.size(), 1u);
  bool told = false;
  for (QLabel* label : window->bench().findChildren<QLabel*>())
    told |= label->isVisible() && label->text().startsWith("contradicts ");
  EXPECT_TRUE(told);
  // What cannot be is said at the row, and nothing changes.
  const std::size_t before = drawing().constraints.size();
  addConstraint("radius", "l1");
  EXPECT_EQ(drawing().constraints.size(), before);
}

}  // namespace
}  // namespace kervo::test
