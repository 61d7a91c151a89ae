// Surfaces trimmed, blended, lofted and sewn as a person does it: pieces clicked, borders picked, wells by their names.
#include <gmock/gmock.h>

#include <QLabel>

#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class SurfaceTest : public TrialTest {
 protected:
  static Step lift(const char* id, const char* body, const char* name) {
    return step(id, "lift", {{"faces", std::vector<FaceReference>{{body, name, std::nullopt}}}});
  }
  /// Tubes of radius 10 and 6 about z, with 20 mm between them; their rods are hidden.
  Document tubes() {
    return documentOf({step("a", "cylinder", {{"radius", Expression("10 mm")}, {"height", Expression("20 mm")}}),
                       step("b", "cylinder",
                            {{"radius", Expression("6 mm")},
                             {"height", Expression("20 mm")},
                             {"at", point("0", "0", "40 mm")}}),
                       lift("low", "a", "a:side"), lift("high", "b", "b:side")})
        .withLook("a", {.visible = false})
        .withLook("b", {.visible = false});
  }
  bool saysOnBench(const QString& text) {
    for (const QLabel* label : window->bench().findChildren<QLabel*>())
      if (label->isVisible() && label->text() == text) return true;
    return false;
  }
};

TEST_F(SurfaceTest, AWindowIsTrimmedAndPutBackByClicksOnPieces) {
  Document document = tubes();
  document = document.withStep(drawing("d", PlanePick::standard("xz"), {circle("c", "0", "10", "4")}));
  start(document);
  window->desk().selection.set({body("low")});
  key(Qt::Key_T, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.step().kind().key(), "trim");
  // The drawing that nothing used yet came with it: the window goes, on the near side only.
  EXPECT_EQ(kept(), (std::vector<BodyId>{"low/outside"}));
  click(button("Front"));
  settle();
  clickAt(&window->view(), badgeOf("low/c+"));
  EXPECT_THAT(kept(), testing::UnorderedElementsAre("low/c+", "low/outside"));
  clickAt(&window->view(), badgeOf("low/c+"));
  key(Qt::Key_Return);
  EXPECT_FALSE(window->desk().trial.active());
  ASSERT_NE(model().find("low/outside"), nullptr);
  EXPECT_EQ(model().find("low/c+"), nullptr);
  // The drawing moves, and the hole with it.
  const double before = model().find("low/outside")->shape().area();
  window->desk().session.edit("move", [](const Document& d) {
    return d.withReplaced(drawing("d", PlanePick::standard("xz"), {circle("c", "0", "12", "3")}));
  });
  settle();
  EXPECT_GT(model().find("low/outside")->shape().area(), before + 10);
}

TEST_F(SurfaceTest, TwoBordersPickedInTheViewAreBlended) {
  start(tubes());
  click(button("Front"));
  settle();
  clickPoint({0, -10, 20});
  clickPoint({0, -6, 40}, Qt::ControlModifier);
  ASSERT_EQ(window->desk().selection.count(Pick::Kind::Edge), 2u);
  click(button("Blend them …"));
  settle();
  ASSERT_TRUE(window->desk().trial.active());
  for (const char* title : {"From", "To", "Seam"}) EXPECT_TRUE(saysOnBench(title)) << title;
  const double area = tried().pieces.at(0).area;
  EXPECT_GT(area, 0);
  // Fullness is what one types most: the first number has the keyboard.
  EXPECT_EQ(QApplication::focusWidget()->accessibleName(), "Fullness");
  key(Qt::Key_A, Qt::ControlModifier);
  type("1.6");
  EXPECT_GT(tried().pieces.at(0).area, area + 10);
  EXPECT_TRUE(hasLine("angle off by at most"));
  chooseByKeys("Sew into", "a surface");
  key(Qt::Key_Return);
  ASSERT_FALSE(window->desk().trial.active());
  ASSERT_NE(model().find("low"), nullptr);
  EXPECT_EQ(model().find("high"), nullptr) << "all are one surface now";
  EXPECT_EQ(model().find("low")->shape().faceCount(), 3);
}

TEST_F(SurfaceTest, ALoftIsMadeWithKeysAlone) {
  start(documentOf({drawing("d1", PlanePick::standard("xy"), {circle("c", "0", "0", "10")}),
                    step("p", "plane", {{"from", PlanePick::standard("xy")}, {"offset", Expression("30 mm")}}),
                    drawing("d2", PlanePick::ofStep("p"), {circle("c", "0", "0", "4")})}));
  window->desk().selection.set({{Pick::Kind::Guide, "d1", 0}, {Pick::Kind::Guide, "d2", 0}});
  key(Qt::Key_K, Qt::ControlModifier);
  type("Loft");
  press(Qt::Key_Return);
  settle();
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.step().value("sections").as<std::vector<SectionPick>>().size(), 2u);
  tabTo("Between: smooth");
  key(Qt::Key_Right);
  EXPECT_NEAR(tried().audit.volumeAfter, M_PI * 30 / 3 * (100 + 40 + 16), 1);
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("loft1"), M_PI * 30 / 3 * (100 + 40 + 16), 1);
}

TEST_F(SurfaceTest, WhatStaysOpenIsShownWhileSewing) {
  std::vector<Step> steps{plate()};
  std::vector<Pick> picks;
  for (const char* name : {"top", "bottom", "left", "right", "front"}) {
    steps.push_back(lift(name, "plate", ("plate:" + std::string(name)).c_str()));
    picks.push_back(body(name));
  }
  start(documentOf(steps));
  window->desk().selection.set(picks);
  key(Qt::Key_W, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_TRUE(hasLine("4 edges are open"));
  const auto& lines = window->view().scene().lines;
  EXPECT_EQ(std::count_if(lines.begin(), lines.end(),
                          [](const SceneLine& each) { return each.style == SceneLine::Style::Fault; }),
            4);
  tabTo("Close planar holes");
  key(Qt::Key_Space);
  EXPECT_TRUE(hasLine("no edge is open"));
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("top"), 60'000, 1e-3);
}

}  // namespace
}  // namespace kervo::test
