// Levels as a person works on them: added, moved, worked on and shown alone by the panel and by keys; plans with
// snapping to what stands there; openings through slabs.
#include <gmock/gmock.h>

#include "app/drawing_driver.h"
#include "app/panels/levels_panel.h"
#include "fields/plane_field.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using Panel = app::LevelsModel;

class LevelsTest : public TrialTest {
 protected:
  void TearDown() override {
    window->levels().setFolded(false);
    TrialTest::TearDown();
  }
  QTableView* sheet() { return window->levels().sheet(); }
  const Document& document() { return window->desk().session.document(); }
  QString cell(int row, int column) { return sheet()->model()->index(row, column).data().toString(); }
  void clickCell(int row, int column) {
    clickAt(sheet()->viewport(), sheet()->visualRect(sheet()->model()->index(row, column)).center());
  }
  void writeCell(int row, int column, const QString& text) {
    const QPoint at = sheet()->visualRect(sheet()->model()->index(row, column)).center();
    QTest::mouseDClick(window->windowHandle(), Qt::LeftButton, {}, sheet()->viewport()->mapTo(window.get(), at));
    settle();
    key(Qt::Key_A, Qt::ControlModifier);
    type(text);
    key(Qt::Key_Return);
  }
  void find(const QString& verb) {
    key(Qt::Key_K, Qt::ControlModifier);
    type(verb);
    key(Qt::Key_Return);
  }
  /// Two storeys: a floor with a wall, and the slab over it.
  static Document hut() {
    Document document;
    document = withLevel(document, {"Ground", Expression("0 m")});
    document = withLevel(document, {"Lamp room", Expression("Ground.height + 3 m")});
    document = withWorkingLevel(document, "Ground");
    document = document.withStep(block("floor", "6 m", "5 m", "200 mm", {"0", "0", "-200 mm"}));
    document = document.withStep(block("wall", "6 m", "300 mm", "2.8 m"));
    document = withWorkingLevel(document, "Lamp room");
    document = document.withStep(step("slab", "block",
                                      {{"plane", PlanePick::atHeight(Expression("Lamp room.height"))},
                                       {"width", Expression("6 m")},
                                       {"depth", Expression("5 m")},
                                       {"height", Expression("200 mm")},
                                       {"at", point("0", "0", "-200 mm")}}));
    return withWorkingLevel(document, "");
  }
  ShownAs::Sight sightOf(const char* body) { return model().find(body)->sight; }
  QPoint seen(double u, double v, double z = 0) { return window->view().toWidget({u, v, z}).toPoint(); }
  void chooseKind(const QString& name) {
    for (QToolButton* each : window->bench().findChildren<QToolButton*>("segment"))
      if (each->property("stroke").toString() == name) return click(each);
    FAIL() << "nothing to draw with: " << name.toStdString();
  }
  const Drawing& drawing() { return window->desk().trial.step().value("curves").as<Drawing>(); }
};

TEST_F(LevelsTest, AreAddedAndMovedInThePanel) {
  start({});
  click(named<QToolButton>("Add a level"));
  key(Qt::Key_A, Qt::ControlModifier);
  type("Ground");
  key(Qt::Key_Return);
  ASSERT_EQ(document().made.levels.size(), 1U);
  EXPECT_EQ(document().made.levels.front().name, "Ground");
  EXPECT_EQ(document().seen.levels.working, "Ground") << "the first one is worked on";
  click(named<QToolButton>("Add a level"));
  key(Qt::Key_A, Qt::ControlModifier);
  type("Roof");
  key(Qt::Key_Return);
  EXPECT_EQ(cell(0, Panel::Name), "Roof") << "the highest one first";
  EXPECT_EQ(cell(0, Panel::Is), "Ground.height + 3 m");
  EXPECT_EQ(cell(0, Panel::Value), "+ 3000 mm");
  EXPECT_EQ(cell(1, Panel::Value), "± 0 mm");
  writeCell(0, Panel::Is, "2 m");
  EXPECT_EQ(cell(0, Panel::Value), "+ 2000 mm");
  writeCell(1, Panel::Name, "Base");
  EXPECT_EQ(document().made.levels.front().name, "Base");
  EXPECT_EQ(document().seen.levels.working, "Base");
  writeCell(0, Panel::Is, "Attic.height");
  EXPECT_EQ(cell(0, Panel::Value), "no value");
  EXPECT_TRUE(document().made.levels.size() == 2);
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(cell(0, Panel::Is), "2 m");
}

TEST_F(LevelsTest, TheWorkingLevelTakesWhatIsDrawnAndMade) {
  start(hut());
  clickCell(0, Panel::Work);
  EXPECT_EQ(document().seen.levels.working, "Lamp room");
  click(button("Draw on Lamp room"));
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.step().value("plane").as<PlanePick>().height.front().text(), "Lamp room.height");
  EXPECT_TRUE(named<QComboBox>("Plane")->currentText() == "level Lamp room");
  chooseKind("rectangle");
  drag(&window->view(), seen(1000, 1000, 3000), seen(2000, 2000, 3000));
  click(button("Leave the drawing"));
  ASSERT_FALSE(window->desk().trial.active());
  EXPECT_EQ(model().guides.back().level, "Lamp room");
  find("Extrude");
  ASSERT_TRUE(window->desk().trial.active());
  key(Qt::Key_Return);
  settle();
  ASSERT_EQ(model().bodies.size(), 4U);
  EXPECT_EQ(model().bodies.back().level, "Lamp room");
  EXPECT_NEAR(model().bodies.back().shape().box().low.z, 3000, 1e-6);
  // It hangs on the level.
  writeCell(0, Panel::Is, "2.5 m");
  settle();
  EXPECT_NEAR(model().bodies.back().shape().box().low.z, 2500, 1e-6);
  EXPECT_NEAR(model().find("slab")->shape().box().high.z, 2500, 1e-6);
}

TEST_F(LevelsTest, AreShownAloneByMouseAndKeys) {
  start(hut());
  EXPECT_FALSE(button("this only")->isEnabled()) << "nothing is worked on";
  key(Qt::Key_PageUp, Qt::ControlModifier);
  EXPECT_EQ(document().seen.levels.working, "Ground");
  click(button("this only"));
  EXPECT_EQ(sightOf("slab"), ShownAs::Sight::Hidden);
  EXPECT_EQ(window->view().scene().find("slab"), nullptr);
  key(Qt::Key_PageUp, Qt::ControlModifier);
  EXPECT_EQ(document().seen.levels.working, "Lamp room");
  EXPECT_EQ(sightOf("wall"), ShownAs::Sight::Hidden);
  click(button("below faded"));
  EXPECT_EQ(sightOf("wall"), ShownAs::Sight::Faded);
  EXPECT_EQ(window->view().scene().find("wall")->role, Role::Behind);
  click(button("all"));
  EXPECT_EQ(window->view().scene().find("wall")->role, Role::Plain);
  EXPECT_FALSE(window->desk().session.canUndo()) << "showing is nothing to be undone";
  // The eye hides the bodies of a level.
  clickCell(1, Panel::Eye);
  EXPECT_FALSE(model().find("wall")->visible);
  EXPECT_FALSE(model().find("floor")->visible);
  EXPECT_TRUE(model().find("slab")->visible);
  // By keys alone: the row below, worked on with Space.
  key(Qt::Key_0, Qt::AltModifier);
  ASSERT_TRUE(sheet()->hasFocus());
  key(Qt::Key_Left);
  key(Qt::Key_Space);
  EXPECT_EQ(document().seen.levels.working, "Ground");
  key(Qt::Key_Up);
  key(Qt::Key_Space);
  EXPECT_EQ(document().seen.levels.working, "Lamp room");
  key(Qt::Key_Return);
  key(Qt::Key_A, Qt::ControlModifier);
  type("4 m");
  key(Qt::Key_Return);
  EXPECT_EQ(cell(0, Panel::Value), "+ 4000 mm");
}

TEST_F(LevelsTest, InAPlanOneDrawsAgainstWhatStandsBelow) {
  start(hut());
  key(Qt::Key_PageUp, Qt::ControlModifier);
  key(Qt::Key_PageUp, Qt::ControlModifier);
  find("Plan");
  EXPECT_EQ(planShown(document()), "Lamp room");
  ASSERT_EQ(window->view().scene().sections.size(), 1U);
  EXPECT_FALSE(window->view().scene().beside.empty()) << "the storey below, as lines";
  const Vector looks = window->view().lookedFrom().towardsEye;
  EXPECT_NEAR(looks.z, 1, 1e-9) << "straight down";
  click(button("Draw on Lamp room"));
  // A circle through three corners of the wall a storey below, pointed at nearly.
  chooseKind("circle_through");
  const auto near = [&](double u, double v) { return seen(u, v, 3000) + QPoint(4, -3); };
  clickAt(&window->view(), near(0, 0));
  clickAt(&window->view(), near(6000, 0));
  QTest::mouseMove(window->windowHandle(), window->view().mapTo(window.get(), near(6000, 300)));
  settle();
  clickAt(&window->view(), near(6000, 300));
  ASSERT_EQ(drawing().curves.size(), 1U);
  EXPECT_NEAR(drawing().curves.front().sizes.front(), std::hypot(6000, 300) / 2, 1e-9);
  EXPECT_NEAR(drawing().points.front().last.u, 3000, 1e-9);
  EXPECT_NEAR(drawing().points.front().last.v, 150, 1e-9);
}

TEST_F(LevelsTest, TheLastCornerOfAChainIsTakenBack) {
  start(hut());
  key(Qt::Key_PageUp, Qt::ControlModifier);
  find("Plan");
  click(button("Draw on Ground"));
  chooseKind("chain");
  for (const auto& [u, v] : {std::pair(1000.0, 1000.0), {3000.0, 1000.0}, {3000.0, 3000.0}, {1500.0, 4000.0}})
    clickAt(&window->view(), seen(u, v));
  ASSERT_EQ(drawing().curves.size(), 3U);
  key(Qt::Key_Backspace);
  ASSERT_EQ(drawing().curves.size(), 2U) << "the last corner goes";
  clickAt(&window->view(), seen(1000, 3000));
  ASSERT_EQ(drawing().curves.size(), 3U) << "and the chain goes on from the one before it";
  EXPECT_EQ(drawing().curves[1].points[1], drawing().curves[2].points[0]);
  key(Qt::Key_Return);
  ASSERT_EQ(drawing().curves.size(), 4U) << "closed";
  EXPECT_EQ(drawing().curves[3].points[1], drawing().curves[0].points[0]);
  key(Qt::Key_Backspace);
  EXPECT_EQ(drawing().curves.size(), 4U) << "it is ended";
}

TEST_F(LevelsTest, ASlabIsOpenedFromItsPlan) {
  Document document = hut();
  document = document.withStep(kervo::test::drawing("d", PlanePick::atHeight(Expression("Lamp room.height")),
                                                    {rectangle("r", "1 m", "1 m", "1 m", "2 m")}));
  start(document);
  key(Qt::Key_O, Qt::ControlModifier | Qt::AltModifier);
  ASSERT_TRUE(window->desk().trial.active());
  settle();
  EXPECT_EQ(window->desk().trial.step().kind().key(), "open_through");
  EXPECT_THAT(tried().audit.touched, ElementsAre(BodyId("slab")));
  EXPECT_NEAR(tried().audit.volumeRemoved, 1000.0 * 2000 * 200, 1e-3);
  key(Qt::Key_Return);
  settle();
  EXPECT_NEAR(volume("slab"), 6000.0 * 5000 * 200 - 1000.0 * 2000 * 200, 1e-3);
  EXPECT_NEAR(volume("floor"), 6000.0 * 5000 * 200, 1e-3);
}

TEST_F(LevelsTest, ALevelIsCopiedWithItsBodies) {
  start(hut());
  clickCell(1, Panel::Name);
  click(named<QToolButton>("Copy a level"));
  key(Qt::Key_A, Qt::ControlModifier);
  type("Deck");
  key(Qt::Key_Return);
  settle();
  int copies = 0;
  for (const Body& body : model().bodies)
    if (body.level == "Deck") {
      ++copies;
      EXPECT_GE(body.shape().box().low.z, 6000 - 200 - 1e-6);
    }
  EXPECT_EQ(copies, 2);
  key(Qt::Key_Z, Qt::ControlModifier);
  key(Qt::Key_Z, Qt::ControlModifier);
  settle();
  EXPECT_EQ(model().bodies.size(), 3U);
}

}  // namespace
}  // namespace kervo::test
