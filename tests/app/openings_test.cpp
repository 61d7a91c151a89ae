// Openings as a person works on them: listed, picked in the view or the list, shifted by the gauge and by keys alone.
#include <gmock/gmock.h>

#include "app/panels/openings_panel.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

using testing::HasSubstr;

class OpeningsTest : public TrialTest {
 protected:
  void TearDown() override {
    // As it was at first, for the windows of other tests.
    window->openings().setFolded(true);
    TrialTest::TearDown();
  }
  QListWidget* list() { return window->openings().list(); }
  std::string row(int number) {
    const QListWidgetItem* item = list()->item(number);
    return item ? (item->text() + ", " + item->data(Qt::UserRole).toString()).toStdString() : std::string();
  }
  /// A wall of 5 m by 2.7 m with two windows and a door, looked at from the front.
  void startWall() {
    start(documentOf({block("wall", "5 m", "300 mm", "2.7 m"),
                      drawing("d", PlanePick::standard("xz"),
                              {rectangle("w1", "400 mm", "900 mm", "1400 mm", "1300 mm"),
                               rectangle("w2", "3200 mm", "900 mm", "1400 mm", "1300 mm"),
                               rectangle("door", "2000 mm", "0 mm", "1000 mm", "2100 mm")}),
                      step("c", "cut",
                           {{"profiles", allOf("d")},
                            {"stock", bodies({"wall"})},
                            {"to", text("through")},
                            {"way", text("both")}})}));
  }
  double volumeNow() { return window->desk().session.made()->model->find("wall")->shape().volume(); }
};

TEST_F(OpeningsTest, AreListedWithSizesAndSelectTheirFaces) {
  startWall();
  window->openings().setFolded(false);
  settle();
  settle();
  ASSERT_EQ(list()->count(), 3);
  EXPECT_THAT(row(0) + row(1) + row(2), HasSubstr("window, 1400"));
  EXPECT_THAT(row(0) + row(1) + row(2), HasSubstr("door, 1000"));
  EXPECT_THAT(row(0) + row(1) + row(2), HasSubstr("open to an edge"));
  const auto rows = list()->findItems("window", Qt::MatchContains);
  ASSERT_EQ(rows.size(), 2);
  clickAt(list()->viewport(), list()->visualItemRect(rows[0]).center());
  EXPECT_EQ(window->desk().selection.picks().size(), 4u) << "the faces of the window";
  EXPECT_TRUE(button("all alike (2)"));
  click(button("all alike (2)"));
  EXPECT_EQ(list()->selectedItems().size(), 2);
  EXPECT_EQ(window->desk().selection.picks().size(), 8u);
  EXPECT_TRUE(button("or change Cut"));
  click(button("Close"));
  ASSERT_TRUE(window->desk().trial.active());
  settle();
  key(Qt::Key_Return);
  settle();
  EXPECT_NEAR(volumeNow(), (5000.0 * 2700 - 1000.0 * 2100) * 300, 10);
}

TEST_F(OpeningsTest, AWindowIsShiftedByKeysAlone) {
  startWall();
  key(Qt::Key_9, Qt::AltModifier);
  settle();
  settle();
  ASSERT_EQ(QApplication::focusWidget(), list());
  key(Qt::Key_Space);
  while (!QString::fromStdString(row(list()->currentRow())).contains("window") &&
         list()->currentRow() + 1 < list()->count())
    key(Qt::Key_Down);
  ASSERT_THAT(row(list()->currentRow()), HasSubstr("window"));
  key(Qt::Key_I, Qt::ControlModifier | Qt::AltModifier);
  ASSERT_TRUE(window->desk().trial.active());
  settle();
  typeByKeys("Along", "100 mm");
  key(Qt::Key_Return);
  settle();
  EXPECT_NEAR(volumeNow(), (5000.0 * 2700 - 1000.0 * 2100 - 2 * 1400.0 * 1300) * 300, 10) << "nothing else changes";
  EXPECT_EQ(window->desk().session.document().made.steps.back()->kind().key(), "shift_opening");
}

TEST_F(OpeningsTest, AWindowIsDraggedByItsMiddleBothWaysAtOnce) {
  startWall();
  click(button("Front"));
  window->openings().setFolded(false);
  settle();
  settle();
  const auto rows = list()->findItems("window", Qt::MatchContains);
  ASSERT_EQ(rows.size(), 2);
  clickAt(list()->viewport(), list()->visualItemRect(rows[0]).center());
  click(button("Shift"));
  ASSERT_TRUE(window->desk().trial.active());
  settle();
  ASSERT_EQ(tried().gauges.size(), 2u);
  ASSERT_TRUE(tried().gauges[0].grip);
  EXPECT_TRUE(tried().left.empty()) << "it is where it was";
  const Point middle = tried().gauges[0].grip.value_or(Point());
  const QPoint from = window->view().toWidget(middle).toPoint();
  drag(&window->view(), from, from + QPoint(-20, -15));
  settle();
  const double along = tried().gauges.at(0).value, up = tried().gauges.at(1).value;
  EXPECT_LT(along, -100);
  EXPECT_GT(up, 80);
  EXPECT_NEAR(up / along, -0.75, 0.26) << "as it was dragged";
  EXPECT_FALSE(tried().left.empty()) << "the old place is hatched";
  key(Qt::Key_Return);
  settle();
  EXPECT_NEAR(volumeNow(), (5000.0 * 2700 - 1000.0 * 2100 - 2 * 1400.0 * 1300) * 300, 10);
}

TEST_F(OpeningsTest, AWindowIsCopiedWithTheMouseAndTheCopyUndone) {
  startWall();
  window->openings().setFolded(false);
  settle();
  settle();
  const auto rows = list()->findItems("window", Qt::MatchContains);
  ASSERT_EQ(rows.size(), 2);
  clickAt(list()->viewport(), list()->visualItemRect(rows[0]).center());
  click(button("Copy"));
  ASSERT_TRUE(window->desk().trial.active());
  // Small ones above it would meet it: what does not fit says so, and nothing is made.
  typeByKeys("Up", "0 mm");
  typeByKeys("Along", "700 mm");
  EXPECT_TRUE(window->desk().trial.result()->report().error.has_value());
  // Beyond the door there is room between the door and the second window for none; past it neither: it is mirrored.
  click(button("mirror"));
  EXPECT_TRUE(window->desk().trial.result()->report().error.has_value()) << "outside of the wall";
  key(Qt::Key_Escape);
  EXPECT_NEAR(volumeNow(), (5000.0 * 2700 - 1000.0 * 2100 - 2 * 1400.0 * 1300) * 300, 10);
}

TEST_F(OpeningsTest, AHoleIsCopiedInAGridAndItsFacesAreRemoved) {
  start(documentOf({block("plate", "100", "60", "10"),
                    drawing("d", PlanePick::standard("xy"), {circle("c", "15", "15", "5")}),
                    step("c", "cut", {{"profiles", allOf("d")}, {"way", text("both")}, {"to", text("through")}})}));
  window->openings().setFolded(false);
  settle();
  settle();
  ASSERT_EQ(list()->count(), 1);
  clickAt(list()->viewport(), list()->visualItemRect(list()->item(0)).center());
  click(button("Copy"));
  typeByKeys("Side by side", "3");
  typeByKeys("One above another", "2");
  typeByKeys("Along", "30 mm");
  typeByKeys("Up", "25 mm");
  key(Qt::Key_Return);
  settle();
  const auto volume = [&] { return model().find("plate")->shape().volume(); };
  const double hole = 3.14159265358979 * 25 * 10;
  EXPECT_NEAR(volume(), 60000 - 6 * hole, 1e-3);
  ASSERT_TRUE(QTest::qWaitFor([&] { return list()->count() == 6; }, 10'000)) << list()->count();
  // The faces of one of them are taken away again, by Find.
  list()->scrollToItem(list()->item(3));
  clickAt(list()->viewport(), list()->visualItemRect(list()->item(3)).center());
  EXPECT_EQ(window->desk().selection.picks().size(), 1u) << "the wall of the hole";
  key(Qt::Key_K, Qt::ControlModifier);
  type("Remove faces");
  key(Qt::Key_Return);
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(tried().audit.touched, std::vector<BodyId>{"plate"});
  key(Qt::Key_Return);
  settle();
  EXPECT_NEAR(volume(), 60000 - 5 * hole, 1e-3);
  EXPECT_EQ(window->desk().session.document().made.steps.back()->kind().key(), "remove_faces");
}

}  // namespace
}  // namespace kervo::test
