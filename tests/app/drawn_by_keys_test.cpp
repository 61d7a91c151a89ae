// Drawings made with the keyboard alone, from the Find box to the body.
#include <gmock/gmock.h>

#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class DrawnByKeys : public TrialTest {
 protected:
  const Drawing& drawing() { return window->desk().trial.step().value("curves").as<Drawing>(); }
  const Solution& solution() { return window->desk().drawing.solution(); }
  void find(const QString& verb) {
    key(Qt::Key_K, Qt::ControlModifier);
    type(verb);
    key(Qt::Key_Return);
    settle();
  }
  /// Chooses what is drawn, types where it begins and its sizes, and puts the choice back.
  void draw(const QString& kind, const std::vector<QString>& place, const std::vector<QString>& sizes) {
    tabTo("Draw: " + kind);
    key(Qt::Key_Space);
    key(Qt::Key_3, Qt::AltModifier);
    for (const auto* numbers : {&place, &sizes}) {
      for (std::size_t i = 0; i < numbers->size(); ++i) {
        if (i > 0) key(Qt::Key_Tab);
        type((*numbers)[i]);
      }
      key(Qt::Key_Return);
    }
    settle();
    key(Qt::Key_Escape);
    key(Qt::Key_5, Qt::AltModifier);
  }
  /// With N and Space in the view.
  void select(const std::string& id) {
    key(Qt::Key_3, Qt::AltModifier);
    for (int i = 0; i < 100 && window->desk().drawing.selected() != std::vector<std::string>{id}; ++i) {
      key(Qt::Key_N);
      key(Qt::Key_Space);
    }
    EXPECT_EQ(window->desk().drawing.selected(), std::vector<std::string>{id});
    key(Qt::Key_5, Qt::AltModifier);
  }
  std::string newest() { return drawing().curves.back().id; }
};

TEST_F(DrawnByKeys, CurvesAreTypedConstrainedOffsetAndExtruded) {
  key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  settle();
  ASSERT_TRUE(window->desk().drawing.open());
  draw("circle", {"0", "0"}, {"20 mm"});
  ASSERT_EQ(drawing().curves.size(), 1u);
  EXPECT_NEAR(solution().sizes[0][0], 10, 1e-9);
  const std::string circle = newest();
  draw("rectangle", {"40", "-10"}, {"30 mm", "20 mm"});
  EXPECT_EQ(drawing().curves.size(), 5u);
  draw("polygon", {"0", "50"}, {"24 mm"});
  ASSERT_GE(drawing().curves.size(), 11u) << "six sides more";
  draw("line", {"60", "-30"}, {"60 mm", "90 deg"});
  const std::string line = newest();
  EXPECT_EQ(window->desk().trial.result()->report().drawing()->regions.size(), 4u) << "the line divides the rectangle";
  // The line is cut by the rectangle, and its pieces are listed: the one in the middle goes.
  select(line);
  ASSERT_EQ(window->desk().drawing.pieces().size(), 3u);
  for (int i = 0; i < 80; ++i) {
    const auto* word = qobject_cast<QToolButton*>(QApplication::focusWidget());
    if (word && word->text().startsWith("drop 2")) break;
    key(Qt::Key_Tab);
  }
  key(Qt::Key_Space);
  settle();
  EXPECT_EQ(window->desk().trial.result()->report().drawing()->regions.size(), 3u);
  // What is selected moves with the arrows, by a line of the grid.
  select(circle);
  key(Qt::Key_3, Qt::AltModifier);
  const PlanePoint before = solution().points[0];
  key(Qt::Key_Left);
  settle();
  EXPECT_NEAR(solution().points[0].u, before.u - *window->desk().drawing.grid(), 1e-9);
  // A copy that follows, its distance typed; then undone.
  key(Qt::Key_5, Qt::AltModifier);
  select(circle);
  tabTo("Offset");
  key(Qt::Key_Space);
  settle();
  ASSERT_EQ(drawing().copies.size(), 1u);
  type("3 mm");
  settle();
  EXPECT_EQ(drawing().copies[0].numbers.front().text(), "3 mm");
  EXPECT_EQ(window->desk().trial.result()->report().drawing()->regions.size(), 4u);
  key(Qt::Key_Return);
  settle();
  // Left and extruded: the drawing is selected, and the next verb takes it.
  ASSERT_FALSE(window->desk().trial.active());
  find("extrude");
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.step().kind().key(), "extrude");
  key(Qt::Key_Return);
  settle();
  EXPECT_FALSE(window->desk().session.made()->model->failed());
  EXPECT_GE(window->desk().session.made()->model->bodies.size(), 1u);
}

}  // namespace
}  // namespace kervo::test
