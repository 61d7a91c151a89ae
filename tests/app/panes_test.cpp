// The view divided into panes: each looks its own way, and all share selection, trial and drawing.
#include <QMenu>

#include "app/view_panes.h"
#include "drawing/drawn_by_hand.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class PanesTest : public TrialTest {
 protected:
  app::ViewPanes& panes() { return window->panes(); }
  /// The pointer goes into a pane, as it does there by itself.
  void enter(int pane) {
    QWidget* shown = nullptr;
    panes().each([&](app::Viewport& view, int number) {
      if (number == pane) shown = &view;
    });
    ASSERT_NE(shown, nullptr);
    const QPointF middle = shown->rect().center();
    QEnterEvent event(middle, shown->mapTo(window.get(), middle), shown->mapToGlobal(middle));
    QApplication::sendEvent(shown, &event);
    settle();
  }
  std::vector<std::size_t> sectionCounts() {
    std::vector<std::size_t> counts;
    panes().each([&](app::Viewport& view, int) { counts.push_back(view.scene().sections.size()); });
    return counts;
  }
  static void expectLooksFrom(const Camera& camera, Vector eye) { EXPECT_NEAR(dot(camera.towardsEye(), eye), 1, 1e-9); }
};

TEST_F(PanesTest, AreMadeByKeysAndLookTheirOwnWay) {
  start(documentOf({plate()}));
  key(Qt::Key_8, Qt::ControlModifier);
  ASSERT_EQ(panes().count(), 4);
  expectLooksFrom(panes().cameraOf(1), {0, 0, 1});
  expectLooksFrom(panes().cameraOf(2), {0, -1, 0});
  expectLooksFrom(panes().cameraOf(3), {1, 0, 0});
  EXPECT_EQ(panes().nameOf(1), "Top");
  EXPECT_LT(panes().rectOf(0).right(), panes().rectOf(1).left());
  EXPECT_LT(panes().rectOf(1).bottom(), panes().rectOf(3).top());
  // The next pane by key; its camera is the one that verbs turn.
  key(Qt::Key_P, Qt::ControlModifier | Qt::AltModifier);
  EXPECT_EQ(panes().active(), 1);
  expectLooksFrom(window->view().camera(), {0, 0, 1});
  EXPECT_EQ(window->view().geometry(), panes().rectOf(1)) << "what takes the input stands there";
  key(Qt::Key_4, Qt::ControlModifier);
  expectLooksFrom(panes().cameraOf(1), {1, 0, 0});
  expectLooksFrom(panes().cameraOf(2), {0, -1, 0});
  key(Qt::Key_8, Qt::ControlModifier);
  EXPECT_EQ(panes().count(), 1) << "the same key makes it whole again";
}

TEST_F(PanesTest, ShareTheSelectionAndTakeClicksWhereThePointerIs) {
  start(documentOf({plate()}));
  key(Qt::Key_7, Qt::ControlModifier);
  ASSERT_EQ(panes().count(), 2);
  enter(1);
  EXPECT_EQ(panes().active(), 1);
  clickPoint(onFace("plate", "plate:top"));
  ASSERT_EQ(window->desk().selection.picks().size(), 1u);
  EXPECT_EQ(window->desk().selection.picks().front(), face("plate", "plate:top"));
  enter(0);
  EXPECT_EQ(panes().active(), 0);
  EXPECT_NE(panes().cameraOf(0).towardsEye().z, 1) << "each kept its camera";
  expectLooksFrom(panes().cameraOf(1), {0, 0, 1});
}

TEST_F(PanesTest, AStepIsTriedInAllOfThem) {
  start(documentOf({plate()}));
  key(Qt::Key_7, Qt::ControlModifier);
  window->desk().selection.set({body("plate")});
  key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  panes().each([](app::Viewport& view, int pane) {
    EXPECT_TRUE(std::any_of(view.scene().bodies.begin(), view.scene().bodies.end(), [](const SceneBody& each) {
      return each.role == Role::Piece;
    })) << pane;
  });
}

TEST_F(PanesTest, EachHasItsOwnSections) {
  Document document = documentOf({plate()});
  document = document.withStep(step("section1", "section", {{"plane", PlanePick::standard("yz")}}));
  start(document);
  key(Qt::Key_7, Qt::ControlModifier);
  EXPECT_EQ(sectionCounts(), (std::vector<std::size_t>{1, 1}));
  panes().setSections(1, std::vector<StepId>{});
  settle();
  EXPECT_EQ(sectionCounts(), (std::vector<std::size_t>{1, 0}));
  EXPECT_EQ(panes().nameOf(1), "Top");
  enter(1);
  EXPECT_EQ(sectionCounts(), (std::vector<std::size_t>{1, 0})) << "they stay with their panes";
  EXPECT_TRUE(window->view().scene().sections.empty());
  // Those of the list go on and off where the pane has none of its own.
  window->desk().sections.switchOn("section1", false);
  settle();
  EXPECT_EQ(sectionCounts(), (std::vector<std::size_t>{0, 0}));
  panes().setSections(1, std::vector<StepId>{"section1"});
  settle();
  EXPECT_EQ(sectionCounts(), (std::vector<std::size_t>{0, 1})) << "one that is off in the document";
}

TEST_F(PanesTest, SectionsByClosedBodiesAreTheirOwnToo) {
  start(documentOf({block("b", "100", "60", "40"), block("by", "30", "40", "60", {"35", "-10", "-10"}),
                    step("section1", "section", {{"with", text("body")}, {"body", bodies({"by"})}})}));
  key(Qt::Key_7, Qt::ControlModifier);
  const auto facesSeen = [&] {
    std::vector<std::size_t> counts;
    panes().each([&](app::Viewport& view, int) { counts.push_back(view.scene().find("b")->picture->faces.size()); });
    return counts;
  };
  EXPECT_EQ(facesSeen(), (std::vector<std::size_t>{10, 10}))
      << "a notch of three faces in both, which divides the front";
  panes().setSections(1, std::vector<StepId>{});
  settle();
  EXPECT_EQ(facesSeen(), (std::vector<std::size_t>{10, 6}));
  window->desk().sections.switchOn("section1", false);
  panes().setSections(1, std::vector<StepId>{"section1"});
  settle();
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        return facesSeen() == std::vector<std::size_t>{6, 10};
      },
      10'000))
      << "one that is off in the document is cut open for the pane alone";
}

TEST_F(PanesTest, AKeptViewGoesIntoThePaneThatIsWorkedIn) {
  Document document = documentOf({plate()});
  document = document.withStep(step("section1", "section", {{"plane", PlanePick::standard("yz")}}).switched(false));
  document.seen.views.push_back(
      {.id = "view1",
       .name = "Cut",
       .camera = {.centre = {0, 0, 5}, .towardsEye = {1, 0, 0}, .up = {0, 0, 1}, .height = 90},
       .style = "lines",
       .sections = {"section1"}});
  start(document);
  key(Qt::Key_7, Qt::ControlModifier);
  enter(1);
  key(Qt::Key_1, Qt::ControlModifier | Qt::AltModifier);
  expectLooksFrom(panes().cameraOf(1), {1, 0, 0});
  EXPECT_EQ(sectionCounts(), (std::vector<std::size_t>{0, 1}));
  EXPECT_FALSE(window->desk().session.document().find("section1")->on()) << "the document is as it was";
  EXPECT_EQ(window->view().style(), DrawStyle::Lines);
}

TEST_F(PanesTest, ACurveGoesOnInTheNextPane) {
  start(documentOf({plate(), drawing("d", PlanePick::standard("xy"), {})}));
  key(Qt::Key_7, Qt::ControlModifier);
  window->desk().trial.edit("d");
  settle();
  window->desk().drawing.draw(findStrokeKind("line"));
  settle();
  const auto at = [&](double u, double v) { return window->view().toWidget({u, v, 0}).toPoint(); };
  clickAt(&window->view(), at(-30, -20));
  enter(1);
  ASSERT_EQ(panes().active(), 1);
  clickAt(&window->view(), at(20, 20));
  ASSERT_EQ(window->desk().drawing.drawing().curves.size(), 1u) << "it began in one pane and ends in the other";
}

TEST_F(PanesTest, TheLineBetweenThemIsDragged) {
  start(documentOf({plate()}));
  key(Qt::Key_7, Qt::ControlModifier);
  const int before = panes().rectOf(0).width();
  const QPoint line(panes().rectOf(0).right() + 2, panes().height() / 2);
  drag(&panes(), line, line + QPoint(80, 0));
  EXPECT_NEAR(panes().rectOf(0).width(), before + 80, 6);
}

}  // namespace
}  // namespace kervo::test
