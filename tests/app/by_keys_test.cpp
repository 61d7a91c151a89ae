// The verbs of the cut family with the keyboard alone: picks with N and Space, fields with Tab, made with Enter.
#include <QLabel>

#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class ByKeys : public TrialTest {
 protected:
  Step post() { return block("post", "10", "10", "40", {"-5", "-5", "10"}); }
};

TEST_F(ByKeys, CombineSubtractsWithClearanceAndKeepsTheCutter) {
  start(documentOf({plate(), block("key", "10", "10", "30", {"0", "0", "-10"})}));
  key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  pickByKeys("Stock", {body("plate")});
  pickByKeys("Cutters", {body("key")});
  tabTo("Cutters then: use up");
  key(Qt::Key_Right);
  typeByKeys("Clearance", "0.5 mm");
  EXPECT_TRUE(hasLine("volume balances"));
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("plate"), 60000 - 11 * 11 * 10, 1e-6);
  EXPECT_NEAR(volume("key"), 3000, 1e-6);
}

TEST_F(ByKeys, UnionNamesWhatDoesNotTouch) {
  start(documentOf({plate(), post(), block("far", "5", "5", "5", {"200", "0", "0"})})
            .withStepNamed("plate", "Plate")
            .withStepNamed("post", "Post")
            .withStepNamed("far", "Far"));
  key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  chooseByKeys("Verb", "union");
  pickByKeys("Stock", {body("plate"), body("post"), body("far")});
  EXPECT_TRUE(hasLine("the union is in 2 pieces: \"Plate\" + \"Post\"; \"Far\""))
      << window->bench().before()->lines().join("\n").toStdString();
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("plate/back"), 60000 + 4000, 1e-6);
  EXPECT_NEAR(volume("plate/far:back"), 125, 1e-6);
}

TEST_F(ByKeys, PartitionGivesEveryRegionOnce) {
  start(documentOf({plate(), block("cross", "10", "80", "10", {"0", "-40", "5"})}));
  key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  chooseByKeys("Verb", "partition");
  pickByKeys("Stock", {body("plate"), body("cross")});
  EXPECT_TRUE(hasLine("volume balances"));
  EXPECT_EQ(tried().pieces.size(), 3u);  // the plate's own, what is common, and the cross's own
  key(Qt::Key_Return);
  double sum = 0;
  for (const Body& each : model().bodies) sum += each.shape().volume();
  EXPECT_NEAR(sum, 60000 + 8000 - 10 * 60 * 5, 1e-6);
}

TEST_F(ByKeys, ScoreSharesFacesAndCountsThem) {
  start(documentOf({plate(), post()}));
  key(Qt::Key_F, Qt::ControlModifier | Qt::ShiftModifier);
  chooseByKeys("Verb", "share faces");
  EXPECT_TRUE(hasLine("1 face is shared"));
  key(Qt::Key_Return);
  EXPECT_EQ(model().find("plate")->shape().faceCount(), 7);
}

TEST_F(ByKeys, PlaceAlignsFaceToFace) {
  start(documentOf({plate(), block("cube", "10", "10", "10", {"100", "100", "100"})}));
  window->desk().selection.set({body("cube")});
  settle();
  key(Qt::Key_P, Qt::ControlModifier);
  ASSERT_TRUE(window->desk().trial.active());
  chooseByKeys("Motion", "align");
  pickByKeys("Own face", {face("cube", "cube:bottom")});
  pickByKeys("Target face", {face("plate", "plate:top")});
  chooseByKeys("Align", "centred against");
  typeByKeys("Gap", "2 mm");
  key(Qt::Key_Return);
  const Box box = model().find("cube")->shape().box();
  EXPECT_NEAR(box.low.z, 12, 1e-6);
  EXPECT_NEAR(box.centre().x, 0, 1e-6);
  EXPECT_NEAR(box.centre().y, 0, 1e-6);
}

TEST_F(ByKeys, PlaceAlignGoesOnFromWellToWell) {
  start(documentOf({plate(), block("cube", "10", "10", "10", {"30", "30", "40"})}));
  clickPoint(onFace("cube", "cube:front"));
  click(button("Place …"));
  // Its own face is the one that was selected; the list alone has the keyboard.
  chooseByKeys("Motion", "align");
  ASSERT_NE(window->bench().armed(), nullptr);
  EXPECT_EQ(window->bench().armed()->field().key(), "target");
  ASSERT_NE(button("front of Block  ×"), nullptr);
  clickPoint(onFace("plate", "plate:top"));
  EXPECT_EQ(window->bench().armed(), nullptr) << "what it does is to be seen now";
  ASSERT_NE(button("top of Block  ×"), nullptr);
  EXPECT_NEAR(tried().pieces.front().shape.box().low.z, 10, 1e-6);
  // A way without faces leaves nothing waiting for them.
  click(button("top of Block  ×"));
  ASSERT_NE(window->bench().armed(), nullptr);
  chooseByKeys("Motion", "move");
  EXPECT_EQ(window->bench().armed(), nullptr);
}

TEST_F(ByKeys, PlaceMovesUntilAFaceIsMet) {
  start(documentOf({plate(), step("ball", "sphere", {{"radius", Expression("5")}, {"at", point("0", "0", "60")}})}));
  window->desk().selection.set({body("ball")});
  settle();
  key(Qt::Key_P, Qt::ControlModifier);
  chooseByKeys("Motion", "until");
  pickByKeys("Target face", {face("plate", "plate:top")});
  chooseByKeys("Axis", "z");
  tabTo("The other way along the axis");
  key(Qt::Key_Space);
  key(Qt::Key_Return);
  EXPECT_NEAR(model().find("ball")->shape().box().low.z, 10, 1e-5);
}

TEST_F(ByKeys, PatternedCuttersGoIntoOneOperation) {
  start(documentOf({plate(), block("pin", "4", "4", "30", {"-42", "-2", "-10"})}));
  window->desk().selection.set({body("pin")});
  settle();
  key(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  typeByKeys("Count", "9");
  typeByKeys("Spacing", "10 mm");
  key(Qt::Key_Return);
  ASSERT_EQ(model().bodies.size(), 10u);
  window->desk().selection.set({});
  settle();
  key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  pickByKeys("Stock", {body("plate")});
  std::vector<Pick> pins;
  for (const Body& each : model().bodies)
    if (each.id != "plate") pins.push_back(body(each.id));
  pickByKeys("Cutters", pins);
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("plate"), 60000 - 9 * 160, 1e-6);
  EXPECT_EQ(model().find("plate")->shape().faceCount(), 6 + 9 * 4);
}

TEST_F(ByKeys, CutReachesTwoDepthsWithDraft) {
  start(documentOf(
      {plate(), drawing("d", test::onFace("plate", "plate:top"), {rectangle("r", "-5", "-5", "10", "10")})}));
  window->desk().selection.setStep("d");
  settle();
  key(Qt::Key_X, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  chooseByKeys("To", "distance");
  chooseByKeys("Direction", "two depths");
  typeByKeys("Depth", "4 mm");
  typeByKeys("Depth out", "3 mm");
  EXPECT_NEAR(tried().audit.volumeRemoved, 400, 1e-6);
  chooseByKeys("Direction", "into");
  typeByKeys("Draft", "10 deg");
  // A frustum: the sides lean in by depth · tan 10°.
  const double b = 10 - 2 * 4 * std::tan(10 * 3.14159265358979323846 / 180);
  EXPECT_NEAR(tried().audit.volumeRemoved, 4.0 / 3 * (100 + 10 * b + b * b), 1e-4);
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("plate"), 60000 - 4.0 / 3 * (100 + 10 * b + b * b), 1e-4);
}

TEST_F(ByKeys, ExtrudedLineBecomesASurfaceThatSplits) {
  start(documentOf({plate(), drawing("d", test::onFace("plate", "plate:top"), {line("l", "-60", "0", "60", "0")})}));
  window->desk().selection.setStep("d");
  settle();
  key(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  tabTo("Direction: out");
  key(Qt::Key_Right);
  key(Qt::Key_Right);
  typeByKeys("Height", "50 mm");
  key(Qt::Key_Return);
  ASSERT_EQ(model().bodies.size(), 2u);
  const BodyId sheet = model().bodies.back().id;
  EXPECT_EQ(model().bodies.back().shape().kind(), BodyKind::Surface);
  window->desk().selection.set({});
  settle();
  key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
  window->desk().trial.setField("cutters", std::vector<CutterPick>{});
  settle();
  pickByKeys("Cutter", {{Pick::Kind::Face, sheet, 0}});
  EXPECT_TRUE(hasLine("volume balances")) << window->bench().before()->lines().join("\n").toStdString();
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("plate/front"), 30000, 1e-6);
}

TEST_F(ByKeys, SurfaceAsStockOfASubtractionSaysWhatItDoes) {
  start(documentOf({plate(), block("post", "10", "10", "40", {"-5", "-5", "-10"}),
                    step("lift1", "lift", {{"faces", std::vector{FaceReference{"", "plate:top", {}}}}})}));
  // A solid minus a surface: there is nothing to take away, and that is said.
  key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  pickByKeys("Stock", {body("post")});
  pickByKeys("Cutters", {body("lift1")});
  EXPECT_FALSE(window->bench().before()->makeButton()->isEnabled());
  EXPECT_TRUE(hasLine("surface")) << window->bench().before()->lines().join("\n").toStdString();
  key(Qt::Key_Escape);
  // A surface minus a solid works: the post goes through 10 × 10 of it.
  key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  pickByKeys("Stock", {body("lift1")});
  pickByKeys("Cutters", {body("post")});
  key(Qt::Key_Return);
  const Body* holed = model().find("lift1");
  ASSERT_NE(holed, nullptr);
  EXPECT_NEAR(holed->shape().area(), 6000 - 100, 1e-6);
  EXPECT_EQ(holed->shape().kind(), BodyKind::Surface);
  // Measure says that it has no volume.
  window->desk().selection.set({body("lift1")});
  settle();
  QStringList measured;
  for (QLabel* label : window->sides().widget(2)->findChildren<QLabel*>()) measured << label->text();
  EXPECT_TRUE(measured.contains("none, not a solid")) << measured.join("|").toStdString();
  EXPECT_TRUE(measured.contains("59.00 cm²")) << measured.join("|").toStdString();
}

TEST_F(ByKeys, APlaneIsListedPickedCutWithHiddenAndShown) {
  start(documentOf(
            {plate(), step("saw", "plane", {{"from", PlanePick::standard("yz")}, {"offset", Expression("10 mm")}})})
            .withStepNamed("saw", "Saw"));
  QTableView* rows = window->bodies().sheet();
  ASSERT_EQ(rows->model()->rowCount(), 2);
  EXPECT_EQ(rows->model()->index(1, app::BodiesModel::Kind).data().toString(), "plane");
  // It is no body, so nothing is said of being watertight.
  window->desk().trial.edit("saw");
  settle();
  EXPECT_FALSE(hasLine("watertight"));
  window->desk().trial.putBack();
  settle();
  // In the view, with the keyboard: it is what can be picked after all parts of bodies.
  window->view().setFocus();
  key(Qt::Key_P);
  key(Qt::Key_Space);
  EXPECT_EQ(window->desk().selection.picks(), (std::vector<Pick>{{Pick::Kind::Guide, "saw", 0}}));
  EXPECT_EQ(rows->selectionModel()->selectedRows().value(0).row(), 1);
  key(Qt::Key_H, Qt::ControlModifier);
  EXPECT_FALSE(model().guide("saw")->visible);
  EXPECT_EQ(window->view().scene().bodies.size(), 1u);
  key(Qt::Key_H, Qt::ControlModifier);
  EXPECT_EQ(window->view().scene().bodies.size(), 2u);
  EXPECT_TRUE(button("Split along it"));
  key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_TRUE(hasLine("volume balances"));
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("plate/front") + volume("plate/back"), 60000, 1e-6);
  // It was shown by hand: that a step reads it hides it no more.
  EXPECT_TRUE(model().guide("saw")->visible);
}

}  // namespace
}  // namespace kervo::test
