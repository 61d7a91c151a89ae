// A change order on the watch hut, done in the window: three windows shift, the door gets wider, one window goes, the
// lamp room gets 300 mm lower with its roof. Volumes by hand.
#include <gmock/gmock.h>

#include <numbers>

#include "app/panels/openings_panel.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class ChangeOrder : public TrialTest {
 protected:
  void TearDown() override {
    window->openings().setFolded(true);
    TrialTest::TearDown();
  }
  QListWidget* list() { return window->openings().list(); }
  /// Clicks a body in the list of bodies.
  void selectBody(const QString& name) {
    QTableView* sheet = window->bodies().sheet();
    for (int row = 0; row < sheet->model()->rowCount(); ++row)
      for (int column = 0; column < sheet->model()->columnCount(); ++column) {
        const QModelIndex index = sheet->model()->index(row, column);
        if (index.data().toString() != name) continue;
        sheet->scrollTo(index);
        settle();
        return clickAt(sheet->viewport(), sheet->visualRect(index).center());
      }
    FAIL() << "no body " << name.toStdString();
  }
  /// Lists the openings of a body, and selects so many of those with this word.
  void selectOpenings(const QString& body, const QString& word, int count) {
    selectBody(body);
    key(Qt::Key_9, Qt::AltModifier);
    settle();
    const auto rows = list()->findItems(word, Qt::MatchContains);
    ASSERT_GE(rows.size(), count) << word.toStdString();
    for (int i = 0; i < count; ++i) {
      list()->scrollToItem(rows[i]);
      clickAt(list()->viewport(), list()->visualItemRect(rows[i]).center(),
              i == 0 ? Qt::NoModifier : Qt::ControlModifier);
    }
    ASSERT_EQ(list()->selectedItems().size(), count);
  }
  void find(const QString& verb) {
    key(Qt::Key_K, Qt::ControlModifier);
    type(verb);
    key(Qt::Key_Return);
    ASSERT_TRUE(window->desk().trial.active()) << verb.toStdString();
    settle();
  }
  void make() {
    settle();
    key(Qt::Key_Return);
    settle();
    ASSERT_FALSE(window->desk().trial.active())
        << (window->desk().trial.result() && window->desk().trial.result()->report().error
                ? window->desk().trial.result()->report().error->what()
                : "");
  }
};

TEST_F(ChangeOrder, IsDoneInTheWindow) {
  open(KERVO_SOURCE_DIR "/demo/watch-hut.kervo");
  constexpr double wall = 250, pi = std::numbers::pi;
  constexpr double ring = 6000.0 * 5000 - 5500.0 * 4500;
  const double store = ring * 2600 - (1000.0 * 2100 + pi * 60 * 60) * wall;
  const double watch = ring * 2800 - 4 * 1200.0 * 1200 * wall;
  const double lamp = ring * 2400 - 2 * 3000.0 * 1300 * wall - 2 * 4000.0 * 1300 * wall;
  ASSERT_NEAR(volume("walls2"), watch, 1e-6 * watch);

  // Three windows shift; nothing else changes.
  selectOpenings("Walls, watch room", "window", 3);
  key(Qt::Key_I, Qt::ControlModifier | Qt::AltModifier);
  ASSERT_TRUE(window->desk().trial.active());
  settle();
  typeByKeys("Along", "200 mm");
  make();
  EXPECT_NEAR(volume("walls2"), watch, 1e-9 * watch);

  // One goes.
  selectOpenings("Walls, watch room", "window", 1);
  find("Close openings");
  make();
  EXPECT_NEAR(volume("walls2"), watch + 1200.0 * 1200 * wall, 1e-9 * watch);

  // The door gets wider, and keeps its foot.
  selectOpenings("Walls, store", "door", 1);
  find("Resize openings");
  typeByKeys("Wide", "200 mm");
  make();
  EXPECT_NEAR(volume("walls1"), store - 200.0 * 2100 * wall, 1e-9 * store);

  // The lamp room gets lower: the top of its walls, and the roof with them.
  const double ridge = model().find("roof")->shape().box().high.z;
  selectBody("Roof");
  key(Qt::Key_H, Qt::ControlModifier);
  window->view().setFocus();
  click(button("Top"));
  clickPoint(onFace("walls3", "walls3:top"));
  ASSERT_EQ(window->desk().selection.picks().size(), 1U);
  key(Qt::Key_F, Qt::ControlModifier | Qt::AltModifier);
  ASSERT_TRUE(window->desk().trial.active());
  settle();
  typeByKeys("Distance", "-300 mm");
  make();
  EXPECT_NEAR(volume("walls3"), lamp - 300 * ring, 1e-9 * lamp);
  selectBody("Roof");
  find("Place bodies");
  typeByKeys("By z", "-300 mm");
  make();
  EXPECT_NEAR(model().find("roof")->shape().box().high.z, ridge - 300, 1e-6);
  for (const StepReport& report : model().steps) EXPECT_FALSE(report.error) << report.error->what();
}

}  // namespace
}  // namespace kervo::test
