#include "model/document_edits.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <algorithm>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;

/// A block, a drawing on its top, a cut with it, and a second block that nobody uses.
Document sample() {
  return documentOf(
      {block("base", "width", "60", "height"),
       drawing("outline", onFace("base", "base:top"), {circle("c", "width / 2", "30", "5 mm")}),
       step("bore", "cut", {{"profiles", allOf("outline")}, {"stock", bodies({"base"})}}),
       block("other", "10", "10", "10", {"200", "0", "0"})},
      {{"width", Expression("100 mm")}, {"height", Expression("width * 0.4")}, {"widths", Expression("3")}});
}

std::vector<StepId> order(const Document& document) {
  std::vector<StepId> ids;
  for (const auto& step : document.made.steps) ids.push_back(step->id());
  return ids;
}

std::string refusal(const std::function<Document()>& edit) {
  try {
    edit();
  } catch (const Error& error) {
    return error.what();
  }
  return "no error";
}

/// The steps that one reads.
std::vector<StepId> stepsReadBy(const Document& document, const StepId& reader) {
  std::vector<StepId> result;
  for (const auto& step : document.made.steps) {
    const std::vector<StepId> readers = stepsThatRead(document, step->id());
    if (std::find(readers.begin(), readers.end(), reader) != readers.end()) result.push_back(step->id());
  }
  return result;
}

TEST(DocumentEdits, KnowsWhoReadsWhom) {
  const Document document = sample();
  EXPECT_EQ(stepsReadBy(document, "outline"), (std::vector<StepId>{"base"}));
  EXPECT_EQ(stepsReadBy(document, "bore"), (std::vector<StepId>{"base", "outline"}));
  EXPECT_EQ(stepsThatRead(document, "base"), (std::vector<StepId>{"outline", "bore"}));
  EXPECT_TRUE(stepsThatRead(document, "other").empty());
}

TEST(DocumentEdits, PiecesAndImportedBodiesBelongToTheirStep) {
  const Document document =
      documentOf({block("base", "1", "1", "1"), block("base2", "1", "1", "1"),
                  step("c", "combine", {{"stock", bodies({"base/front"})}, {"cutters", bodies({"base2.1"})}})});
  EXPECT_EQ(stepsReadBy(document, "c"), (std::vector<StepId>{"base", "base2"}));
  EXPECT_EQ(stepsThatRead(document, "base"), (std::vector<StepId>{"c"}));
}

TEST(DocumentEdits, MovesAStepWhereItsOrderAllows) {
  EXPECT_EQ(order(withStepMoved(sample(), "other", 0)), (std::vector<StepId>{"other", "base", "outline", "bore"}));
  EXPECT_EQ(order(withStepMoved(sample(), "bore", 3)), (std::vector<StepId>{"base", "outline", "other", "bore"}));
  EXPECT_NE(refusal([] { return withStepMoved(sample(), "bore", 0); }).find("cannot stand before \"Block\""),
            std::string::npos);
  EXPECT_NE(refusal([] { return withStepMoved(sample(), "outline", 3); }).find("cannot stand after \"Cut\""),
            std::string::npos);
}

SeenHalf seenWith(const BodyId& body, const BodyLook& look) {
  SeenHalf seen;
  seen.bodies[body] = look;
  return seen;
}

TEST(DocumentEdits, AChangeOfWhatIsSeenGoesInOrOutAlone) {
  const SeenHalf red = seenWith("a", {.color = Color{1, 0, 0}});
  SeenHalf renamed = red;
  renamed.bodies["a"].name = "Lid";
  renamed.steps["s"] = "Plate";
  renamed.wallLimit = Expression("2 mm");
  // Meanwhile somebody hid it, and named another step.
  SeenHalf now = renamed;
  now.bodies["a"].visible = false;
  now.steps["t"] = "Cover";
  const SeenHalf back = withChange(now, renamed, red);
  EXPECT_EQ(back.bodies.at("a"), (BodyLook{.color = Color{1, 0, 0}, .visible = false}));
  EXPECT_EQ(back.steps, (std::map<StepId, std::string>{{"t", "Cover"}}));
  EXPECT_FALSE(back.wallLimit);
  EXPECT_EQ(withChange(back, red, renamed), now);
  // What is left without anything set is not there.
  EXPECT_EQ(withChange(red, red, SeenHalf()), SeenHalf());
}

TEST(DocumentEdits, TellsShowingAndHidingFromOtherChanges) {
  const SeenHalf none, hidden = seenWith("a", {.visible = false}), red = seenWith("a", {.color = Color{1, 0, 0}});
  EXPECT_TRUE(onlyShowOrHide(none, hidden));
  EXPECT_TRUE(onlyShowOrHide(hidden, none));
  EXPECT_TRUE(onlyShowOrHide(red, seenWith("a", {.color = Color{1, 0, 0}, .visible = false})));
  EXPECT_FALSE(onlyShowOrHide(none, red));
  EXPECT_FALSE(onlyShowOrHide(hidden, red));
  SeenHalf named = hidden;
  named.steps["s"] = "Plate";
  EXPECT_FALSE(onlyShowOrHide(none, named));
}

TEST(DocumentEdits, AMovedStepKeepsItsName) {
  const Document document = sample().withStepNamed("base", "Plate");
  EXPECT_EQ(withStepMoved(document, "base", 0).seen, document.seen);
  EXPECT_TRUE(document.withoutStep("base").seen.steps.empty());
}

TEST(DocumentEdits, RenamesADimensionEverywhere) {
  const Document renamed = withDimensionRenamed(sample(), "width", "length");
  EXPECT_EQ(renamed.made.dimensions[0].name, "length");
  EXPECT_EQ(renamed.made.dimensions[1].expression.text(), "length * 0.4");
  EXPECT_EQ(renamed.made.dimensions[2].name, "widths");
  EXPECT_EQ(renamed.find("base")->value("width").as<Expression>().text(), "length");
  EXPECT_EQ(renamed.find("outline")->value("curves").as<Drawing>().curves[0].numbers[0].text(), "length / 2");
  EXPECT_DOUBLE_EQ(volume(made(renamed), "base"), volume(made(sample()), "base"));
}

TEST(DocumentEdits, TheWallLimitUsesDimensionsToo) {
  Document document = Document().withDimension("wall", Expression("2 mm"));
  document.seen.wallLimit = Expression("wall / 2");
  EXPECT_EQ(withDimensionRenamed(document, "wall", "skin").seen.wallLimit->text(), "skin / 2");
  try {
    withoutDimension(document, "wall");
    FAIL() << "the limit has no value any more";
  } catch (const Error& error) {
    EXPECT_THAT(error.where(), testing::HasSubstr("wall limit"));
  }
}

TEST(DocumentEdits, APickThatDoesNotMatterNowHoldsNobody) {
  const auto moving = [](const char* way) {
    return documentOf({block("a", "1", "1", "1"), block("b", "1", "1", "1"),
                       step("p", "place",
                            {{"bodies", BodyPick{false, {"b"}}},
                             {"way", std::string(way)},
                             {"target", FaceReference{"a", "a:top", {}}}})});
  };
  // The target face counts while the body is aligned with it, and only then.
  EXPECT_EQ(stepsThatRead(moving("align"), "a"), std::vector<StepId>{"p"});
  EXPECT_TRUE(stepsThatRead(moving("move"), "a").empty());
  EXPECT_THROW(withStepMoved(moving("align"), "a", 2), Error);
  EXPECT_NO_THROW(withStepMoved(moving("move"), "a", 2));
}

TEST(DocumentEdits, RefusesNamesThatCannotBe) {
  EXPECT_NE(refusal([] { return withDimensionRenamed(sample(), "width", "height"); }).find("already a dimension"),
            std::string::npos);
  EXPECT_NE(refusal([] { return withDimensionRenamed(sample(), "width", "mm"); }).find("is a unit"), std::string::npos);
  EXPECT_NE(refusal([] { return withDimensionRenamed(sample(), "width", "2x"); }).find("starts with a digit"),
            std::string::npos);
}

TEST(DocumentEdits, DeletesOnlyDimensionsThatNobodyUses) {
  EXPECT_EQ(withoutDimension(sample(), "widths").made.dimensions.size(), 2u);
  const std::string why = refusal([] { return withoutDimension(sample(), "width"); });
  EXPECT_NE(why.find("dimension height"), std::string::npos);
  EXPECT_NE(why.find("step Block, field Width"), std::string::npos);
  EXPECT_NE(why.find("step Drawing, field Curves"), std::string::npos);
}

TEST(DocumentEdits, ExpressionsKeepUnitsAndOtherWordsWhenRenamed) {
  EXPECT_EQ(Expression("2mm + mm2 * a-a").renamed("a", "b").text(), "2mm + mm2 * b-b");
  EXPECT_EQ(Expression("max(wall, wall_2) + 1e3 mm").renamed("wall", "w").text(), "max(w, wall_2) + 1e3 mm");
  EXPECT_EQ(Expression("1 +").renamed("a", "b").text(), "1 +");
}

TEST(StepPictures, CutShowsItsOutlineAndGaugesItsDepth) {
  Document document = sample();
  document = document.withReplaced(
      document.find("bore")->with("to", std::string("distance")).with("depth", Expression("12 mm")));
  const auto result = report(made(document), "bore").result;
  ASSERT_NE(result, nullptr);
  EXPECT_FALSE(result->cutterOutline.empty());
  ASSERT_EQ(result->gauges.size(), 1u);
  EXPECT_EQ(result->gauges[0].field, "depth");
  EXPECT_NEAR(distance(result->gauges[0].from, {50, 30, 40}), 0, 1e-9);
  EXPECT_NEAR(result->gauges[0].along.z, -1, 1e-12);
  EXPECT_DOUBLE_EQ(result->gauges[0].value, 12);
  // A piece knows the body it is a part of.
  for (const Piece& piece : result->pieces) EXPECT_EQ(piece.from, "base");
}

TEST(StepPictures, SplitShowsItsPlaneAroundTheStock) {
  const Document document = documentOf(
      {block("b", "40", "30", "20"),
       step("s", "split", {{"cutters", cutBy("xy")}, {"offset", Expression("8 mm")}, {"kerf", Expression("2 mm")}})});
  const auto result = report(made(document), "s").result;
  ASSERT_EQ(result->cutterOutline.size(), 1u);
  Box box;
  for (const Point& point : result->cutterOutline[0]) {
    EXPECT_NEAR(point.z, 8, 1e-9);
    box.add(point);
  }
  EXPECT_LT(box.low.x, 0);
  EXPECT_GT(box.high.x, 40);
  ASSERT_EQ(result->gauges.size(), 4u);
  EXPECT_EQ(result->gauges[1].kind, Gauge::Kind::Angle);
  EXPECT_EQ(result->gauges[3].field, "kerf");
  EXPECT_TRUE(result->gauges[3].centred);
}

TEST(StepPictures, DrawingKeepsItsCurvesAsLines) {
  const auto result = report(made(sample()), "outline").result;
  ASSERT_EQ(result->drawing()->lines.size(), 1u);
  for (const Point& point : result->drawing()->lines[0]) EXPECT_NEAR(distance(point, {50, 30, 40}), 5, 1e-9);
}

TEST(DocumentEdits, CuttersPointsAndFacesCountAsUse) {
  const PointReference corner{"b", {"b:left", "b:top"}, std::nullopt};
  const Document document =
      documentOf({block("b", "40", "30", "20"), drawing("d", onFace("b", "b:top"), {circle("c", "5", "5", "2")}),
                  step("p", "plane", {{"way", std::string("points")}, {"points", std::vector{corner, corner, corner}}}),
                  step("up", "lift", {{"faces", std::vector{FaceReference{"b", "b:top", {}}}}}),
                  step("s", "split",
                       {{"stock", bodies({"b"})},
                        {"cutters", std::vector{CutterPick::of(RegionPick{"d", true, {}}), CutterPick::ofBody("up"),
                                                CutterPick::of(PlanePick{PlanePick::Kind::OfStep, "p", {}})}}})});
  EXPECT_THAT(stepsReadBy(document, "s"), testing::ElementsAre("b", "d", "p", "up"));
  EXPECT_THAT(stepsThatRead(document, "b"), testing::ElementsAre("d", "p", "up", "s"));
  EXPECT_THROW(withStepMoved(document, "s", 3), Error);
  EXPECT_THROW(withStepMoved(document, "p", 0), Error);
}

TEST(DocumentEdits, RenamedDimensionIsRenamedInDepthsOfRegions) {
  const RegionPick pick{"d", true, {}, {{"c+", Expression("deep + 1 mm")}}};
  const Document document =
      documentOf({block("b", "40", "30", "20"), drawing("d", onFace("b", "b:top"), {circle("c", "5", "5", "2")}),
                  step("c", "cut", {{"profiles", pick}, {"to", std::string("distance")}})},
                 {{"deep", Expression("3 mm")}});
  const Document renamed = withDimensionRenamed(document, "deep", "depth");
  EXPECT_EQ(renamed.find("c")->value("profiles").as<RegionPick>().depths.at("c+").text(), "depth + 1 mm");
  EXPECT_THROW(withoutDimension(document, "deep"), Error);
}

}  // namespace
}  // namespace kervo
