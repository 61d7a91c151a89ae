// Session, trial and worker without a window: history, newest wins, stop, the journal.
#include "app/session.h"

#include <gtest/gtest.h>

#include <QTest>
#include <chrono>

#include "app/desk.h"
#include "app/scene_maker.h"
#include "support/document_builder.h"

namespace kervo::test {
namespace {

using app::Desk;
using app::Tried;

class DeskTest : public testing::Test {
 protected:
  void settle() {
    for (int round = 0; round < 3; ++round) {
      ASSERT_TRUE(QTest::qWaitFor([&] { return !desk.worker.busy(); }, 60'000));
      QTest::qWait(5);
    }
  }
  void apply(const Document& document, const QString& what = "edit") {
    desk.session.apply(document, what);
    settle();
  }
  double volumeOf(const BodyId& id) { return volume(*desk.session.made()->model, id); }
  /// The block of 10 × 10 × `height`.
  static Document blockOf(const std::string& height) { return documentOf({block("b", "10", "10", height)}); }

  Desk desk;
};

TEST_F(DeskTest, HistoryGoesBackAndForthAndForgetsWhatWasUndone) {
  apply(blockOf("1"), "one");
  apply(blockOf("2"), "two");
  apply(blockOf("3"), "three");
  EXPECT_EQ(desk.session.undoText(), "three");
  desk.session.undo();
  desk.session.undo();
  settle();
  EXPECT_NEAR(volumeOf("b"), 100, 1e-9);
  EXPECT_EQ(desk.session.redoText(), "two");
  desk.session.redo();
  settle();
  EXPECT_NEAR(volumeOf("b"), 200, 1e-9);
  apply(blockOf("5"), "five");
  EXPECT_FALSE(desk.session.canRedo());
  desk.session.undo();
  EXPECT_EQ(desk.session.redoText(), "five");
}

TEST_F(DeskTest, SavedIsAPlaceInTheHistory) {
  apply(blockOf("1"));
  desk.session.markSaved("/tmp/a.kervo", desk.session.document(), desk.session.documentNumber());
  EXPECT_TRUE(desk.session.saved());
  apply(blockOf("2"));
  EXPECT_FALSE(desk.session.saved());
  desk.session.undo();
  EXPECT_TRUE(desk.session.saved());
  // The saved state is gone once another edit replaces what came after it.
  desk.session.undo();
  apply(blockOf("7"));
  EXPECT_FALSE(desk.session.saved());
  desk.session.undo();
  EXPECT_FALSE(desk.session.saved());
}

// Saving runs elsewhere: meanwhile the history may be another one.
TEST_F(DeskTest, SavedIsTheDocumentThatWasWritten) {
  apply(blockOf("1"));
  apply(blockOf("2"));
  const Document beingWritten = desk.session.document();
  const auto old = desk.session.documentNumber();
  desk.session.undo();
  apply(blockOf("7"));
  desk.session.markSaved("/tmp/a.kervo", beingWritten, old);
  EXPECT_FALSE(desk.session.saved()) << "another document is on the disk";
  ASSERT_NE(desk.session.journal(), nullptr);
  EXPECT_TRUE(std::filesystem::exists(desk.session.journal()->folder() / "edits.jsonl"));
  // A document that came to the desk while the old one was written keeps its own name.
  desk.session.start(documentOf({block("c", "1", "1", "1")}), "/tmp/c.kervo", false);
  desk.session.markSaved("/tmp/a.kervo", beingWritten, old);
  EXPECT_EQ(desk.session.path(), "/tmp/c.kervo");
  EXPECT_FALSE(desk.session.saved());
}

TEST_F(DeskTest, WhatIsSeenRebuildsNothingAndRestartsNoTrial) {
  apply(documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "10", {"50", "0", "0"})}));
  desk.trial.begin(
      step("cut", "split", {{"stock", bodies({"a"})}, {"cutters", cutBy("xy")}, {"offset", Expression("4 mm")}}));
  settle();
  int rebuilt = 0, tried = 0;
  QObject::connect(&desk.worker, &app::Worker::made, [&] { ++rebuilt; });
  QObject::connect(&desk.worker, &app::Worker::tried, [&] { ++tried; });
  const auto made = desk.session.made();
  const auto result = desk.trial.result();
  const Document& now = desk.session.document();
  apply(now.withLook("a", {.name = "Rail", .color = Color{1, 0, 0}, .layer = "steel", .density = 7850.0}));
  apply(now.withLook("b", {.visible = false}));
  apply(now.withStepNamed("b", "Post"));
  EXPECT_EQ(rebuilt, 0);
  EXPECT_EQ(tried, 0);
  EXPECT_TRUE(desk.trial.upToDate());
  const Model& model = *desk.session.made()->model;
  EXPECT_EQ(model.find("a")->name, "Rail");
  EXPECT_EQ(model.find("a")->color, (Color{1, 0, 0}));
  EXPECT_FALSE(model.find("b")->visible);
  EXPECT_EQ(model.steps[1].name, "Post");
  EXPECT_EQ(desk.trial.result()->after->find("a/front")->name, "Rail, front");
  EXPECT_FALSE(desk.trial.result()->after->find("b")->visible);
  // Nothing but names and looks is new.
  EXPECT_EQ(desk.session.made()->pictures, made->pictures);
  EXPECT_EQ(desk.trial.result()->pieces, result->pieces);
  EXPECT_EQ(model.steps[0].result, made->model->steps[0].result);
}

TEST_F(DeskTest, UndoGoesThroughWhatIsMadeAndKeepsWhatIsSeen) {
  apply(blockOf("1"), "one");
  apply(blockOf("2"), "two");
  apply(desk.session.document().withLook("b", {.visible = false}), "hide");
  EXPECT_EQ(desk.session.undoText(), "two") << "showing and hiding is not an edit to be undone";
  apply(desk.session.document().withLook("b", {.name = "Rail", .visible = false}), "rename");
  desk.session.undo();
  settle();
  EXPECT_EQ(desk.session.made()->model->find("b")->name, "Block");
  EXPECT_FALSE(desk.session.made()->model->find("b")->visible);
  desk.session.undo();
  settle();
  EXPECT_NEAR(volumeOf("b"), 100, 1e-9);
  EXPECT_FALSE(desk.session.made()->model->find("b")->visible) << "what is seen is the newest";
  desk.session.redo();
  desk.session.redo();
  settle();
  EXPECT_NEAR(volumeOf("b"), 200, 1e-9);
  EXPECT_EQ(desk.session.made()->model->find("b")->name, "Rail");
  EXPECT_FALSE(desk.session.canRedo());
}

TEST_F(DeskTest, HidingABodyIsSaved) {
  apply(blockOf("1"));
  const auto save = [&] {
    desk.session.markSaved("/tmp/a.kervo", desk.session.document(), desk.session.documentNumber());
  };
  save();
  apply(desk.session.document().withLook("b", {.visible = false}));
  EXPECT_FALSE(desk.session.saved());
  save();
  EXPECT_TRUE(desk.session.saved());
}

// A body is hidden while its document is rebuilt: the model that comes then hides it.
TEST_F(DeskTest, WhatIsSeenMeanwhileIsSeenInTheNextModel) {
  apply(blockOf("1"));
  desk.session.apply(desk.session.document().withReplaced(block("b", "10", "10", "7")), "higher");
  desk.session.apply(desk.session.document().withLook("b", {.visible = false}), "hide");
  settle();
  EXPECT_NEAR(volumeOf("b"), 700, 1e-9);
  EXPECT_FALSE(desk.session.made()->model->find("b")->visible);
}

TEST_F(DeskTest, RenamedStepOnTheBenchHasItsNewNameThere) {
  apply(blockOf("1"));
  desk.trial.edit("b");
  settle();
  desk.trial.setField("height", Expression("3 mm"));
  apply(desk.session.document().withStepNamed("b", "Rail"));
  EXPECT_EQ(desk.trial.name(), "Rail");
  desk.trial.setName("Post");
  settle();
  desk.trial.makeIt();
  settle();
  EXPECT_EQ(desk.session.made()->model->steps[0].name, "Post");
  EXPECT_NEAR(volumeOf("b"), 300, 1e-9);
  desk.session.undo();
  settle();
  EXPECT_EQ(desk.session.made()->model->steps[0].name, "Rail");
}

TEST_F(DeskTest, RefusedEditChangesNothingAndIsTold) {
  apply(blockOf("1"));
  int told = 0;
  QObject::connect(&desk.session, &app::Session::failed, [&] { ++told; });
  desk.session.edit("bad", [](const Document& document) { return document.withoutStep("nobody"); });
  EXPECT_EQ(told, 1);
  EXPECT_EQ(desk.session.document().made.steps.size(), 1u);
}

TEST_F(DeskTest, OnlyTheNewestDocumentIsShown) {
  int made = 0;
  QObject::connect(&desk.worker, &app::Worker::made, [&] { ++made; });
  for (int height = 1; height <= 30; ++height) desk.session.apply(blockOf(std::to_string(height)), "edit");
  settle();
  EXPECT_NEAR(volumeOf("b"), 3000, 1e-9);
  EXPECT_LT(made, 30);
  EXPECT_TRUE(desk.session.upToDate());
}

TEST_F(DeskTest, PicturesOfUnchangedBodiesAreKept) {
  apply(documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "10", {"50", "0", "0"})}));
  const app::Picture before = desk.session.made()->pictures.at("a");
  apply(documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "20", {"50", "0", "0"})}));
  EXPECT_EQ(desk.session.made()->pictures.at("a"), before);
  EXPECT_NE(desk.session.made()->pictures.at("b"), before);
}

TEST_F(DeskTest, TrialShowsTheNewestValuesAndMakingItComputesNothing) {
  apply(blockOf("10"));
  desk.trial.begin(step("cut", "split", {{"cutters", cutBy("xy")}, {"offset", Expression("1 mm")}}));
  for (int offset = 1; offset <= 9; ++offset) desk.trial.setField("offset", Expression(std::to_string(offset) + " mm"));
  settle();
  ASSERT_TRUE(desk.trial.upToDate());
  EXPECT_NEAR(desk.trial.result()->report().result->pieces[0].volume, 100, 1e-6);
  EXPECT_TRUE(desk.trial.result()->complete);
  EXPECT_EQ(desk.session.document().made.steps.size(), 1u);
  desk.trial.makeIt();
  settle();
  EXPECT_EQ(desk.session.document().made.steps.size(), 2u);
  for (const StepReport& report : desk.session.made()->model->steps) EXPECT_TRUE(report.fromMemo) << report.id;
}

TEST_F(DeskTest, MakingBeforeTheTrialIsThereWaitsForIt) {
  apply(blockOf("10"));
  desk.trial.begin(step("cut", "split", {{"cutters", cutBy("xy")}, {"offset", Expression("4 mm")}}));
  desk.trial.makeIt();
  EXPECT_TRUE(desk.trial.active());
  settle();
  EXPECT_FALSE(desk.trial.active());
  EXPECT_NEAR(volumeOf("b/back"), 400, 1e-6);
}

TEST_F(DeskTest, FailedTrialIsRefusedWithItsReason) {
  apply(blockOf("10"));
  std::vector<std::string> refused;
  QObject::connect(&desk.trial, &app::Trial::refused, [&](const Error& error) { refused.push_back(error.happened()); });
  desk.trial.begin(step("cut", "split", {{"cutters", cutBy("xy")}, {"offset", Expression("40 mm")}}));
  settle();
  desk.trial.makeIt();
  ASSERT_EQ(refused.size(), 1u);
  EXPECT_NE(refused[0].find("nothing is divided"), std::string::npos);
  EXPECT_TRUE(desk.trial.active());
  desk.trial.putBack();
  EXPECT_EQ(desk.session.document().made.steps.size(), 1u);
}

TEST_F(DeskTest, OfferChangesTheFieldsAndPiecesAreChosenByName) {
  desk.session.start(documentOf({block("b", "20", "20", "20"),
                                 step("up", "lift", {{"faces", std::vector{FaceReference{"b", "b:top", {}}}}})}),
                     {}, true);
  settle();
  // The top of the block divides nothing where it is.
  desk.trial.begin(
      step("s", "split", {{"stock", test::bodies({"b"})}, {"cutters", std::vector{CutterPick::ofBody("up")}}}));
  settle();
  ASSERT_TRUE(desk.trial.result()->report().error);
  EXPECT_NE(std::string(desk.trial.result()->report().error->what()).find("only touched"), std::string::npos);
  desk.trial.accept({Offer::Kind::UseFinite, "By a plane", {{"kerf", Expression("2 mm")}, {"extent", "finite"}}});
  settle();
  EXPECT_EQ(desk.trial.step().value("kerf").as<Expression>().text(), "2 mm");
  EXPECT_EQ(desk.trial.step().value("extent").as<std::string>(), "finite");
  desk.trial.setField("cutters", cutBy("xy"));
  desk.trial.setField("offset", Expression("5 mm"));
  settle();
  ASSERT_TRUE(desk.trial.hasPieceChoice());
  desk.trial.choosePieces({{"b/front", false}});
  settle();
  const auto& choice = desk.trial.step().value("pieces").as<PieceChoice>();
  EXPECT_EQ(choice.drop, std::vector<BodyId>{"b/front"});
  EXPECT_EQ(choice.known.size(), 3u);
  desk.trial.makeIt();
  settle();
  EXPECT_NE(desk.session.made()->model->find("b/back"), nullptr);
  EXPECT_EQ(desk.session.made()->model->find("b/front"), nullptr);
}

TEST_F(DeskTest, EditedDimensionReachesTheTrial) {
  Document document = blockOf("10");
  document = document.withDimension("at", Expression("2 mm"));
  apply(document);
  desk.trial.begin(step("cut", "split", {{"cutters", cutBy("xy")}, {"offset", Expression("at")}}));
  settle();
  EXPECT_NEAR(*desk.trial.value("offset"), 2, 1e-12);
  apply(desk.session.document().withDimension("at", Expression("6 mm")));
  EXPECT_NEAR(*desk.trial.value("offset"), 6, 1e-12);
  EXPECT_NEAR(desk.trial.result()->report().result->pieces[1].volume, 600, 1e-6);
}

TEST_F(DeskTest, OtherWorkRunsInOrderAndItsErrorsAreTold) {
  std::vector<std::string> said;
  for (const char* name : {"first", "second"})
    desk.worker.run(
        name, [&, name](Progress&) -> app::Worker::Then { return [&said, name] { said.push_back(name); }; },
        [](const std::optional<Error>&) {});
  desk.worker.run(
      "third", [](Progress&) -> app::Worker::Then { throw Error("it broke"); },
      [&](const std::optional<Error>& error) { said.push_back(error ? error->happened() : "stopped"); });
  settle();
  EXPECT_EQ(said, (std::vector<std::string>{"first", "second", "it broke"}));
}

TEST_F(DeskTest, OtherWorkIsStopped) {
  bool told = false;
  desk.worker.run(
      "endless",
      [](Progress& progress) -> app::Worker::Then {
        while (true) {
          progress.throwIfStopped();
          std::this_thread::sleep_for(std::chrono::milliseconds(2));
        }
      },
      [&](const std::optional<Error>& error) { told = !error; });
  QTest::qWait(30);
  const auto start = std::chrono::steady_clock::now();
  desk.worker.stop();
  settle();
  EXPECT_TRUE(told);
  EXPECT_LT(std::chrono::steady_clock::now() - start, std::chrono::seconds(2));
}

// What is shown.

TEST_F(DeskTest, TrialSceneShowsPiecesWasteAndCutter) {
  apply(documentOf({block("b", "40", "30", "20"), block("c", "10", "10", "40", {"10", "10", "-10"})}));
  desk.trial.begin(step("cut", "combine", {{"stock", bodies({"b"})}, {"cutters", bodies({"c"})}}));
  settle();
  const Scene scene = app::sceneOf(*desk.trial.result());
  std::map<Role, int> roles;
  for (const SceneBody& body : scene.bodies) ++roles[body.role];
  EXPECT_EQ(roles[Role::Cutter], 1);
  EXPECT_EQ(roles[Role::Piece], 1);
  EXPECT_EQ(roles[Role::Waste], 1);
  ASSERT_EQ(scene.badges.size(), 2u);
  // Badges stand on faces that can be seen, not on those that the cut made.
  for (const Badge::Place& place : scene.badges[0].places)
    EXPECT_TRUE(place.point.x < 10 || place.point.x > 20 || place.point.y < 10 || place.point.y > 20 ||
                std::abs(place.outwards.z) > 0.9);
  // What goes cannot be picked.
  for (const SceneBody& body : scene.bodies) EXPECT_EQ(body.pickable, body.role != Role::Waste);
}

TEST_F(DeskTest, PickingSceneShowsTheBodiesAsTheyWere) {
  apply(documentOf({block("b", "40", "30", "20"), block("c", "10", "10", "40", {"10", "10", "-10"})}));
  const Step cut = step("cut", "combine", {{"stock", bodies({"b"})}, {"cutters", bodies({"c"})}});
  desk.trial.begin(cut);
  settle();
  const Scene scene = app::pickingScene(*desk.trial.result(), cut);
  ASSERT_EQ(scene.bodies.size(), 2u);
  EXPECT_EQ(scene.find("b")->role, Role::Stock);
  EXPECT_EQ(scene.find("c")->role, Role::Cutter);
}

TEST_F(DeskTest, HiddenBodiesAndUsedDrawingsAreNotShown) {
  Document document = documentOf({block("b", "40", "30", "20"), block("c", "5", "5", "5", {"90", "0", "0"}),
                                  drawing("used", onFace("b", "b:top"), {circle("k", "20", "15", "3")}),
                                  step("bore", "cut", {{"profiles", allOf("used")}, {"stock", bodies({"b"})}}),
                                  drawing("free", onFace("b", "b:top"), {circle("k", "10", "15", "3")})});
  BodyLook hidden;
  hidden.visible = false;
  apply(document.withLook("c", hidden));
  const Scene scene = app::sceneOf(*desk.session.made());
  ASSERT_EQ(scene.bodies.size(), 2u);
  EXPECT_EQ(scene.bodies[0].id, "b");
  EXPECT_EQ(scene.bodies[1].id, "free");
  EXPECT_EQ(scene.bodies[1].role, Role::Drawing);
}

TEST_F(DeskTest, SelectionForgetsWhatChanged) {
  const Document document = documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "10", {"50", "0", "0"})});
  apply(document);
  const auto before = desk.session.made();
  desk.selection.set({{Pick::Kind::Face, "a", 0}, {Pick::Kind::Face, "b", 0}, {Pick::Kind::Body, "b", 0}});
  apply(documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "20", {"50", "0", "0"})}));
  desk.selection.keepOnly(*before, *desk.session.made());
  EXPECT_EQ(desk.selection.picks(), (std::vector<Pick>{{Pick::Kind::Face, "a", 0}, {Pick::Kind::Body, "b", 0}}));
  EXPECT_EQ(desk.selection.bodies(), (std::vector<BodyId>{"a", "b"}));
}

TEST_F(DeskTest, PicksAreDescribedByNameAndKeySize) {
  apply(documentOf({block("b", "40", "30", "20")}));
  const auto& made = *desk.session.made();
  const auto say = [&](Pick::Kind kind, int index) {
    return app::describe({kind, "b", index}, *made.model, made.pictures, "mm").toStdString();
  };
  EXPECT_EQ(say(Pick::Kind::Body, 0), "Block · 24.00 cm³");
  int top = 0;
  for (const Face& face : made.pictures.at("b")->faces) {
    if (face.origins().front() == "b:top") break;
    ++top;
  }
  EXPECT_EQ(say(Pick::Kind::Face, top), "top of Block · plane · 12.00 cm²");
  EXPECT_NE(say(Pick::Kind::Edge, 0).find("edge of Block · "), std::string::npos);
  EXPECT_NE(say(Pick::Kind::Corner, 0).find("point of Block · "), std::string::npos);
  const auto middle = app::middleOf({"b", "b:top", {}}, made.pictures, Plane{});
  ASSERT_TRUE(middle);
  EXPECT_NEAR(middle->u, 20, 1e-6);
  EXPECT_NEAR(middle->v, 15, 1e-6);
}

TEST(SizesAsText, SuitTheirSize) {
  EXPECT_EQ(app::lengthText(12.5, "mm"), "12.50 mm");
  EXPECT_EQ(app::lengthText(12.5, "cm"), "1.25 cm");
  EXPECT_EQ(app::areaText(12.5), "12.50 mm²");
  EXPECT_EQ(app::areaText(1250), "12.50 cm²");
  EXPECT_EQ(app::volumeText(8200), "8.20 cm³");
  EXPECT_EQ(app::volumeText(123456789), "123457 cm³");
}

TEST(FieldProblems, AreToldInTheFieldsOwnWords) {
  const Document document = documentOf({}, {{"wall", Expression("3 mm")}});
  const DimensionTable table(document.made.dimensions);
  const NumberWanted depth{lengthDimension, NumberRule::Positive};
  EXPECT_EQ(app::problemOf(depth, Expression("wall * 2"), document, table), "");
  EXPECT_EQ(app::problemOf(depth, Expression("-1"), document, table), "must be more than zero");
  EXPECT_NE(app::problemOf(depth, Expression("2 deg"), document, table), "");
  EXPECT_NE(app::problemOf(depth, Expression("wal"), document, table), "");
  EXPECT_NE(app::problemOf(depth, Expression(""), document, table), "");
  EXPECT_NEAR(*app::valueOf(depth, Expression("wall * 2"), document, table), 6, 1e-12);
  EXPECT_FALSE(app::valueOf(depth, Expression("wal"), document, table));
}

}  // namespace
}  // namespace kervo::test
