// What is wrong with bodies, gone to with clicks; where steps and dimensions are used, as a graph.
#include <QTreeWidget>

#include "app/panels/check_dialog.h"
#include "app/uses/uses_dialog.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class CheckTest : public TrialTest {};

TEST_F(CheckTest, FindingsAreListedAndGoneTo) {
  // The second block leaves a step of 0.004 mm on the plate: two edges that short.
  start(documentOf({plate(), block("c", "60", "70", "5", {"0", "-35", "9.996"}),
                    step("cut", "combine", {{"stock", bodies({"plate"})}, {"cutters", bodies({"c"})}})}));
  app::CheckDialog dialog(window->desk(), {"plate"}, window.get());
  dialog.show();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !dialog.busy() && dialog.list()->topLevelItemCount() == 1; }, 20'000));
  const QTreeWidgetItem* body = dialog.list()->topLevelItem(0);
  EXPECT_EQ(body->text(1), "sound, with remarks");
  EXPECT_TRUE(body->child(0)->text(0).startsWith("solids 1, shells 1, faces 8"))
      << body->child(0)->text(0).toStdString();
  ASSERT_EQ(body->childCount(), 4) << "counts, tolerance, and two short edges";
  std::vector<Point> places;
  QObject::connect(&dialog, &app::CheckDialog::placeWanted,
                   [&](const Point& place, double, const QString&) { places.push_back(place); });
  const auto clickOn = [&](const QTreeWidgetItem* item) {
    QTest::mouseClick(dialog.list()->viewport(), Qt::LeftButton, {}, dialog.list()->visualItemRect(item).center());
  };
  clickOn(body->child(2));
  ASSERT_EQ(places.size(), 1u);
  EXPECT_NEAR(places[0].x, 0, 1e-6);
  QTest::keyClick(dialog.list(), Qt::Key_Down);
  ASSERT_EQ(places.size(), 2u) << "the arrow keys go from one to the next";
  EXPECT_NEAR(std::abs(places[1].y), 30, 1e-6);
}

TEST_F(CheckTest, TheVerbChecksWhatIsSelectedAndTheViewGoesThere) {
  start(documentOf({plate(), block("c", "60", "70", "5", {"0", "-35", "9.996"}),
                    step("cut", "combine", {{"stock", bodies({"plate"})}, {"cutters", bodies({"c"})}})}));
  window->desk().selection.set({body("plate")});
  key(Qt::Key_G, Qt::ControlModifier | Qt::AltModifier);
  auto* dialog = window->findChild<app::CheckDialog*>();
  ASSERT_NE(dialog, nullptr);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !dialog->busy() && dialog->list()->topLevelItemCount() == 1; }, 20'000));
  const double before = window->view().camera().pixelSize();
  dialog->list()->setCurrentItem(dialog->list()->topLevelItem(0)->child(2));
  settle();
  EXPECT_LT(window->view().camera().pixelSize(), before / 3) << "it is looked at from nearby";
  ASSERT_TRUE(window->view().measured());
  EXPECT_TRUE(window->view().measured()->text.contains("0.004 mm"));
  dialog->close();
  settle();
  EXPECT_FALSE(window->view().measured());
}

TEST_F(CheckTest, ADamagedBodyIsRepairedFromTheListOfFindings) {
  open("/usr/share/opencascade/data/occ/Top.brep");
  ASSERT_EQ(model().bodies.size(), 1u);
  key(Qt::Key_G, Qt::ControlModifier | Qt::AltModifier);
  auto* dialog = window->findChild<app::CheckDialog*>();
  ASSERT_NE(dialog, nullptr);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !dialog->busy() && dialog->list()->topLevelItemCount() == 1; }, 20'000));
  EXPECT_EQ(dialog->list()->topLevelItem(0)->text(1), "not sound");
  QPushButton* repair = nullptr;
  for (auto* each : dialog->findChildren<QPushButton*>())
    if (each->text() == "Repair …") repair = each;
  ASSERT_NE(repair, nullptr);
  ASSERT_TRUE(repair->isEnabled());
  QTest::mouseClick(repair, Qt::LeftButton);
  settle();
  window->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
  ASSERT_TRUE(window->desk().trial.active()) << "nothing is repaired without being shown first";
  key(Qt::Key_Return);
  settle();
  EXPECT_FALSE(window->desk().trial.active());
  ASSERT_EQ(model().bodies.size(), 1u);
  EXPECT_TRUE(model().bodies[0].shape().valid());
}

TEST_F(CheckTest, TheGraphSaysWhatWouldBreakAndJumps) {
  start(documentOf({block("plate", "wide", "60", "10"),
                    drawing("d", test::onFace("plate", "plate:top"), {circle("c", "5", "5", "wide / 40")}),
                    step("cut", "cut", {{"stock", bodies({"plate"})}, {"profiles", allOf("d")}})},
                   {{"wide", Expression("100 mm")}}));
  app::UsesDialog dialog(window->desk(), window.get());
  const UsesNode plate{UsesNode::What::Step, "plate"}, cut{UsesNode::What::Step, "cut"},
      wide{UsesNode::What::Dimension, "wide"};
  dialog.showOf(plate);
  dialog.show();
  settle();
  EXPECT_TRUE(dialog.words().contains("would break")) << dialog.words().toStdString();
  ASSERT_FALSE(dialog.rectOf(cut).isEmpty());
  EXPECT_LT(dialog.rectOf(wide).right(), dialog.rectOf(plate).left()) << "what it goes back to is on its left";
  EXPECT_LT(dialog.rectOf(plate).right(), dialog.rectOf(cut).left());
  StepId wanted;
  QObject::connect(&dialog, &app::UsesDialog::stepWanted, [&](const StepId& id) { wanted = id; });
  QTest::mouseClick(dialog.graph()->viewport(), Qt::LeftButton, {}, dialog.rectOf(cut).center());
  EXPECT_TRUE(dialog.words().contains("Nothing depends on")) << dialog.words().toStdString();
  QTest::mouseDClick(dialog.graph()->viewport(), Qt::LeftButton, {}, dialog.rectOf(cut).center());
  EXPECT_EQ(wanted, cut.id);
  // The same with keys: on to the next, and there with Enter.
  dialog.graph()->setFocus();
  dialog.showOf(plate);
  QTest::keyClick(dialog.graph(), Qt::Key_N);
  QTest::keyClick(dialog.graph(), Qt::Key_Return);
  EXPECT_EQ(wanted, "d");
}

}  // namespace
}  // namespace kervo::test
