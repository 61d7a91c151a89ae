// Levels: heights that drive steps, what is on them, plans and copies; in files too.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "model/document_edits.h"
#include "model/section_cut.h"
#include "model/shown.h"
#include "model/storeys.h"
#include "model/uses.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;

Document tower() {
  Document document;
  document.made.unit = "m";
  document = withLevel(document, {"Ground", Expression("0")});
  document = withLevel(document, {"Lamp room", Expression("Ground.height + 3")});
  document = withLevel(document, {"Lamp room", Expression("Ground.height + 3 m")});
  document = withLevel(document, {"Roof", Expression("Lamp room.height + 2.5 m"), "roofing"});
  return document;
}

/// A slab at the foot of each of the two storeys, and a wall from one to the other.
Document storeys() {
  Document document = withWorkingLevel(tower(), "Ground");
  const auto add = [&](const char* id, const char* level, const char* height) {
    document = withWorkingLevel(document, level);
    const std::string at = std::string(level) + ".height";
    document = document.withStep(
        drawing(std::string(id) + "d", PlanePick::atHeight(Expression(at)), {rectangle("r", "0", "0", "6", "4")}));
    document = document.withStep(
        step(id, "extrude",
             {{"profiles", allOf(std::string(id) + "d")}, {"way", text("into")}, {"height", Expression(height)}}));
  };
  add("floor", "Ground", "300 mm");
  add("ceiling", "Lamp room", "200 mm");
  document = withWorkingLevel(document, "Ground");
  document = document.withStep(
      drawing("wd", PlanePick::atHeight(Expression("Ground.height")), {rectangle("r", "0", "0", "6", "300 mm")}));
  return document.withStep(step("wall", "extrude",
                                {{"profiles", allOf("wd")},
                                 {"to", text("plane")},
                                 {"until", PlanePick::atHeight(Expression("Lamp room.height - 200 mm"))}}));
}

TEST(Levels, DriveStepsByTheirNames) {
  const Document document = storeys();
  const Model before = made(document);
  ASSERT_EQ(errorOf(before, "wall"), "no error");
  EXPECT_NEAR(volume(before, "wall"), 6000.0 * 300 * 2800, 1);
  EXPECT_NEAR(before.find("ceiling")->shape().box().low.z, 2800, 1e-6);
  // What hangs on the level follows it.
  const Model after = made(withLevel(document, {"Lamp room", Expression("Ground.height + 2.7 m")}));
  EXPECT_NEAR(volume(after, "wall"), 6000.0 * 300 * 2500, 1);
  EXPECT_NEAR(after.find("ceiling")->shape().box().low.z, 2500, 1e-6);
  EXPECT_NEAR(after.find("floor")->shape().box().low.z, -300, 1e-6);
}

TEST(Levels, OnlyWhatHangsOnAMovedLevelIsMadeAgain) {
  Memo memo;
  Progress progress;
  const Document document = storeys();
  rebuild(document, memo, progress);
  const Model after = rebuild(withLevel(document, {"Lamp room", Expression("2.7 m")}), memo, progress);
  EXPECT_TRUE(report(after, "floor").fromMemo);
  EXPECT_FALSE(report(after, "ceiling").fromMemo);
  EXPECT_FALSE(report(after, "wall").fromMemo);
}

TEST(Levels, WhatIsNewIsOnTheWorkingLevel) {
  const Model model = made(storeys());
  EXPECT_EQ(model.find("floor")->level, "Ground");
  EXPECT_EQ(model.find("floor")->layer, "Ground");
  EXPECT_EQ(model.find("ceiling")->layer, "Lamp room");
  EXPECT_EQ(model.find("wall")->layer, "Ground");
  EXPECT_EQ(model.guide("ceilingd")->layer, "Lamp room");
  // A cut makes nothing new: its pieces stay on the level of their body.
  Document document = withWorkingLevel(storeys(), "Roof");
  document = document.withStep(
      step("s", "split", {{"stock", bodies({"floor"})}, {"cutters", cutBy("yz")}, {"offset", Expression("2 m")}}));
  const Model cut = made(document);
  ASSERT_EQ(errorOf(cut, "s"), "no error");
  int pieces = 0;
  for (const Body& body : cut.bodies)
    if (body.id.isOfFamily("floor")) {
      EXPECT_EQ(body.level, "Ground") << body.id.text();
      ++pieces;
    }
  EXPECT_EQ(pieces, 2);
  document = document.withStep(block("top", "1", "1", "1"));
  EXPECT_EQ(made(document).find("top")->level, "Roof");
  EXPECT_EQ(made(document).find("top")->layer, "roofing");
  // A person says otherwise: on another level, on another layer.
  document = document.withLook("top", {.layer = "steel", .level = "Lamp room"});
  EXPECT_EQ(made(document).find("top")->level, "Lamp room");
  EXPECT_EQ(made(document).find("top")->layer, "steel");
}

TEST(Levels, AreShownAlone) {
  Document document = withWorkingLevel(storeys(), "Lamp room");
  document = document.withStep(block("mast", "100 mm", "100 mm", "9"));
  document.seen.onLevels.erase("mast");
  const auto sight = [&](LevelSight::Show show, const char* body) {
    document.seen.levels.show = show;
    return made(document).find(body)->sight;
  };
  using On = ShownAs::Sight;
  EXPECT_EQ(sight(LevelSight::Show::All, "floor"), On::Shown);
  EXPECT_EQ(sight(LevelSight::Show::Below, "floor"), On::Faded);
  EXPECT_EQ(sight(LevelSight::Show::Below, "ceiling"), On::Shown);
  EXPECT_EQ(sight(LevelSight::Show::Only, "floor"), On::Hidden);
  EXPECT_EQ(sight(LevelSight::Show::Only, "mast"), On::Shown) << "it is on no level";
  document = withWorkingLevel(document, "Ground");
  EXPECT_EQ(sight(LevelSight::Show::Below, "ceiling"), On::Hidden);
  EXPECT_EQ(sight(LevelSight::Show::Below, "floor"), On::Shown);
  EXPECT_TRUE(onlyShowOrHide(storeys().seen, withWorkingLevel(storeys(), "Roof").seen)) << "nothing to be undone";
}

TEST(Levels, AreRenamedEverywhere) {
  Document document = storeys();
  document = withDimensionRenamed(document.withDimension("lamp", Expression("Lamp room.height / 2")), "lamp", "Lamp");
  const double before = volume(made(document), "wall");
  document = withLevelRenamed(document, "Lamp room", "Deck");
  EXPECT_FALSE(findLevel(document.made.levels, "Lamp room"));
  EXPECT_EQ(findLevel(document.made.levels, "Roof")->height.text(), "Deck.height + 2.5 m");
  EXPECT_EQ(document.made.dimensions.front().expression.text(), "Deck.height / 2");
  const Model after = made(document);
  EXPECT_NEAR(volume(after, "wall"), before, 1e-6);
  EXPECT_EQ(after.find("ceiling")->level, "Deck");
  EXPECT_THROW(withLevelRenamed(document, "Deck", "Ground"), Error);
  EXPECT_THROW(withLevelRenamed(document, "Deck", "a.b"), Error);
  EXPECT_THROW(withLevelRenamed(document, "Cellar", "Deck 2"), Error);
}

TEST(Levels, InUseAreNotRemoved) {
  const Document document = storeys();
  try {
    withoutLevel(document, "Lamp room");
    FAIL();
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("in use"));
    EXPECT_THAT(error.what(), HasSubstr("level Roof"));
    EXPECT_THAT(error.what(), HasSubstr("step Extrude, field Until"));
  }
  Document without = withoutLevel(withWorkingLevel(document, "Roof"), "Roof");
  EXPECT_EQ(without.made.levels.size(), 2U);
  EXPECT_EQ(without.seen.levels.working, "");
  EXPECT_THROW(withWorkingLevel(document, "Cellar"), Error);
}

TEST(Levels, StandInWhereUsed) {
  const Uses uses = Uses::of(storeys());
  const UsesNode level{UsesNode::What::Dimension, "Lamp room.height"};
  std::vector<std::string> ids;
  for (const UsesNode& node : uses.dependents(level)) ids.push_back(node.id);
  EXPECT_THAT(ids, ElementsAre("ceilingd", "ceiling", "wall", "Roof.height"));
}

TEST(Levels, APlanIsASectionThatFollowsItsLevel) {
  const StepKind& sections = allStepKinds().cuttingOpen();
  Document document = withPlanOf(storeys(), "Lamp room", sections);
  EXPECT_EQ(document.seen.levels.working, "Lamp room");
  EXPECT_EQ(planShown(document), "Lamp room");
  ASSERT_EQ(document.seen.sections.size(), 1U);
  EXPECT_EQ(document.nameOf(*document.seen.sections.front().step), "Plan of Lamp room");
  const Model model = made(document);
  ASSERT_TRUE(model.sections.front().result);
  EXPECT_NEAR(model.sections.front().result->section->plane->origin.z, 3000 + 1200, 1e-9);
  const Model lower = made(withLevel(document, {"Lamp room", Expression("2 m")}));
  EXPECT_NEAR(lower.sections.front().result->section->plane->origin.z, 2000 + 1200, 1e-9);
  EXPECT_EQ(model.steps.size(), made(storeys()).steps.size()) << "nothing in the model changes";
  // One plan a level, one at a time.
  document = withPlanOf(withPlanOf(document, "Ground", sections), "Lamp room", sections);
  EXPECT_EQ(document.seen.sections.size(), 2U);
  EXPECT_EQ(planShown(document), "Lamp room");
  EXPECT_EQ(planShown(withoutPlan(document)), std::nullopt);
  EXPECT_EQ(planShown(withLevelRenamed(document, "Lamp room", "Deck")), "Deck");
  EXPECT_THAT(levelsBeside(model.levels, "Lamp room"), ElementsAre("Ground", "Roof"));
  EXPECT_THAT(levelsBeside(model.levels, "Ground"), ElementsAre("Lamp room"));
}

TEST(Levels, AreCopiedWithWhatIsOnThem) {
  const Document document = storeys();
  const StepKind& placing = allStepKinds().placing();
  const Level deck{"Deck", Expression("Roof.height + 1 m")};
  const Document copied = withLevelCopied(document, made(document), "Ground", deck, placing);
  const auto copiesIn = [](const Model& model) {
    double sum = 0;
    for (const Body& body : model.bodies)
      if (body.level == "Deck") sum += body.shape().volume();
    return sum;
  };
  const Model model = made(copied);
  EXPECT_NEAR(copiesIn(model), 6000.0 * 4000 * 300 + 6000.0 * 300 * 2800, 10);
  for (const Body& body : model.bodies) {
    if (body.level != "Deck") continue;
    EXPECT_GE(body.shape().box().low.z, 6500 - 300 - 1e-6);
  }
  // Its drawings are there once more, at the new height.
  const auto isCopy = [&](const Guide& guide) { return guide.drawing() && guide.level == "Deck"; };
  ASSERT_EQ(std::count_if(model.guides.begin(), model.guides.end(), isCopy), 2);
  for (const Guide& guide : model.guides) {
    if (!isCopy(guide)) continue;
    EXPECT_NEAR(guide.drawing()->plane.origin.z, 6500, 1e-9);
  }
  // They follow what they are copies of.
  const Model lower = made(withLevel(copied, {"Lamp room", Expression("Ground.height + 2 m")}));
  EXPECT_NEAR(copiesIn(lower), 6000.0 * 4000 * 300 + 6000.0 * 300 * 1800, 10);
  EXPECT_THROW(withLevelCopied(document, made(document), "Roof", deck, placing), Error) << "nothing is on it";
  EXPECT_THROW(withLevelCopied(document, made(document), "Ground", {"Roof", Expression("1 m")}, placing), Error);
}

}  // namespace
}  // namespace kervo
