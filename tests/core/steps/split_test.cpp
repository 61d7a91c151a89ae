// Split with many cutters of all kinds: volumes, names, reach and offers, and the choice of pieces.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::UnorderedElementsAre;
constexpr double pi = std::numbers::pi;

DrawnCurve line(const std::string& id, const std::string& u, const std::string& v, const std::string& toU,
                const std::string& toV) {
  return {id, "line", {Expression(u), Expression(v), Expression(toU), Expression(toV)}};
}

CutterPick standard(const char* plane) {
  return CutterPick::of(PlanePick{PlanePick::Kind::Standard, plane, {}});
}

CutterPick drawn(const std::string& drawing) {
  return CutterPick::of(RegionPick{drawing, true, {}});
}

PlanePick plane(const char* name) {
  return {PlanePick::Kind::Standard, name, {}};
}

std::vector<BodyId> idsOf(const Model& model) {
  std::vector<BodyId> ids;
  for (const Body& body : model.bodies) ids.push_back(body.id);
  return ids;
}

Step block20(const std::string& id) {
  return block(id, "20", "20", "20", {"-10", "-10", "-10"});
}

TEST(SplitBy, ThreePlanesAtOnceGiveEightNamedOctants) {
  const Model model = made(documentOf(
      {block20("a"), step("s", "split", {{"cutters", std::vector{standard("xy"), standard("xz"), standard("yz")}}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  ASSERT_EQ(model.bodies.size(), 8u);
  for (const Body& body : model.bodies) EXPECT_NEAR(body.shape().volume(), 1000, 1e-9) << body.id;
  // xz's normal points to −y.
  EXPECT_NEAR(distance(model.find("a/front-back-front")->shape().box().centre(), {5, 5, 5}), 0, 1e-6);
  EXPECT_NEAR(report(model, "s").result->audit.balance, 0, 1e-9);
}

// What no machine would get to the end of is refused with its number before anything is cut.
TEST(SplitBy, MorePiecesThanReasonAreRefusedWithTheirNumber) {
  std::vector<Step> steps{block("a", "100", "100", "100")};
  std::vector<CutterPick> cutters;
  for (const char* axis : {"x", "y", "z"})
    for (int i = 1; i <= 50; ++i) {
      const std::string id = axis + std::to_string(i), at = std::to_string(i * 1.9);
      const auto on = [&](const char* other, const std::string& value) { return *axis == *other ? value : "0"; };
      steps.push_back(step(id, "plane",
                           {{"way", text("at")},
                            {"point", point(on("x", at), on("y", at), on("z", at))},
                            {"normal", point(on("x", "1"), on("y", "1"), on("z", "1"))}}));
      cutters.push_back(CutterPick::of(PlanePick{PlanePick::Kind::OfStep, id, {}}));
    }
  // Planes that pass the block by make no pieces.
  steps.push_back(
      step("far", "plane", {{"way", text("at")}, {"point", point("0", "0", "500")}, {"normal", point("0", "0", "1")}}));
  cutters.push_back(CutterPick::of(PlanePick{PlanePick::Kind::OfStep, "far", {}}));
  steps.push_back(step("s", "split", {{"cutters", cutters}}));
  const std::string error = errorOf(made(documentOf(steps)), "s");
  EXPECT_THAT(error, HasSubstr("132651 pieces"));
  EXPECT_THAT(error, HasSubstr("At most 100000"));
}

TEST(SplitBy, MoreFacesThanReasonAreRefusedWithTheirNumber) {
  const auto many = [](const char* of) {
    return std::map<std::string, FieldValue>{
        {"bodies", bodies({of})}, {"way", text("grid")}, {"count", Expression("80")}, {"rows", Expression("70")}};
  };
  const Document document = documentOf({block("a", "1", "1", "1"), step("as", "pattern", many("a")),
                                        block("b", "1", "1", "1"), step("bs", "pattern", many("b"))});
  std::vector<BodyId> stock, cutters;
  for (const Body& body : made(document).bodies) (body.id.text()[0] == 'a' ? stock : cutters).push_back(body.id);
  ASSERT_EQ(stock.size(), 5600u);
  const Step combine = step("x", "combine", {{"stock", bodies(stock)}, {"cutters", bodies(cutters)}});
  const std::string error = errorOf(made(document.withStep(combine)), "x");
  EXPECT_THAT(error, HasSubstr("33600 faces with at least 33600 faces"));
  EXPECT_THAT(error, HasSubstr("At most 1000000000 pairs"));
}

TEST(SplitBy, ThreePlanesWithKerfLeaveSmallerOctants) {
  const Model model =
      made(documentOf({block20("a"), step("s", "split",
                                          {{"cutters", std::vector{standard("xy"), standard("xz"), standard("yz")}},
                                           {"kerf", Expression("2 mm")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  ASSERT_EQ(model.bodies.size(), 8u);
  for (const Body& body : model.bodies) EXPECT_NEAR(body.shape().volume(), 729, 1e-9);
  EXPECT_NEAR(report(model, "s").result->audit.volumeRemoved, 8000 - 8 * 729, 1e-9);
}

TEST(SplitBy, KindsOfCuttersMayBeMixed) {
  const Model model = made(documentOf(
      {block20("a"),
       step("rod", "cylinder",
            {{"radius", Expression("4")}, {"height", Expression("60")}, {"at", point("0", "0", "-30")}}),
       step("s", "split",
            {{"stock", bodies({"a"})}, {"cutters", std::vector{standard("xy"), CutterPick::ofBody("rod")}}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_THAT(idsOf(model),
              UnorderedElementsAre("a/front-outside", "a/front-inside", "a/back-outside", "a/back-inside", "rod"));
  EXPECT_NEAR(volume(model, "a/front-inside"), pi * 16 * 10, 1e-6);
  EXPECT_NEAR(volume(model, "rod"), pi * 16 * 60, 1e-6);
}

FaceReference faceOf(const char* name) {
  return {"", name, std::nullopt};
}

/// Volumes of the pieces of one body, smallest first.
std::vector<double> volumesAfter(const Step& split) {
  const Model model = made(documentOf({block20("a"), split}));
  EXPECT_FALSE(model.failed()) << errorOf(model, split.id().text().c_str());
  std::vector<double> volumes;
  for (const Body& body : model.bodies) volumes.push_back(body.shape().volume());
  std::sort(volumes.begin(), volumes.end());
  return volumes;
}

Step splitBy(const PlanePick& pick, std::map<std::string, FieldValue> more = {}) {
  more["cutters"] = std::vector{CutterPick::of(pick)};
  return step("s", "split", more);
}

TEST(SplitBy, PlaneMidwayBetweenTwoFacesBuiltOnTheSpot) {
  EXPECT_THAT(volumesAfter(splitBy(PlanePick::midway(faceOf("a:left"), faceOf("a:right")))),
              testing::ElementsAre(testing::DoubleNear(4000, 1e-6), testing::DoubleNear(4000, 1e-6)));
  // Between two faces at a right angle: the diagonal; with an offset along its normal.
  EXPECT_THAT(volumesAfter(splitBy(PlanePick::midway(faceOf("a:top"), faceOf("a:right")))),
              testing::ElementsAre(testing::DoubleNear(4000, 1e-6), testing::DoubleNear(4000, 1e-6)));
  const double side = 20 - std::sqrt(2.0) * 3;
  EXPECT_THAT(
      volumesAfter(splitBy(PlanePick::midway(faceOf("a:top"), faceOf("a:right")), {{"offset", Expression("3 mm")}})),
      testing::ElementsAre(testing::DoubleNear(side * side / 2 * 20, 1e-6),
                           testing::DoubleNear(8000 - side * side / 2 * 20, 1e-6)));
}

TEST(SplitBy, PlaneThroughThreeCornersCutsOffATetrahedron) {
  const auto corner = [](const char* a, const char* b, const char* c) {
    std::vector<std::string> faces{a, b, c};
    std::sort(faces.begin(), faces.end());
    return PointReference{"", faces, std::nullopt};
  };
  const PlanePick pick =
      PlanePick::through({corner("a:top", "a:left", "a:front"), corner("a:bottom", "a:right", "a:front"),
                          corner("a:bottom", "a:left", "a:back")});
  EXPECT_THAT(volumesAfter(splitBy(pick)),
              testing::ElementsAre(testing::DoubleNear(8000.0 / 6, 1e-6), testing::DoubleNear(8000 * 5.0 / 6, 1e-6)));
  PlanePick two = pick;
  two.points.pop_back();
  const Model model = made(documentOf({block20("a"), splitBy(two)}));
  EXPECT_THAT(errorOf(model, "s"), HasSubstr("2 points are picked"));
  EXPECT_THAT(errorOf(model, "s"), HasSubstr("Cutter"));
}

TEST(SplitBy, PlaneAcrossAnEdgeOrAnAxis) {
  EXPECT_THAT(volumesAfter(splitBy(PlanePick::across(EdgeReference{"", "a:front", "a:left", std::nullopt}))),
              testing::ElementsAre(testing::DoubleNear(4000, 1e-6), testing::DoubleNear(4000, 1e-6)));
  const Model model =
      made(documentOf({step("rod", "cylinder",
                            {{"radius", Expression("4")}, {"height", Expression("30")}, {"at", point("0", "0", "-5")}}),
                       splitBy(PlanePick::across(faceOf("rod:side")))}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  ASSERT_EQ(model.bodies.size(), 2u);
  for (const Body& body : model.bodies) EXPECT_NEAR(body.shape().volume(), pi * 16 * 15, 1e-6);
  const Model flat = made(documentOf({block20("a"), splitBy(PlanePick::across(faceOf("a:top")))}));
  EXPECT_THAT(errorOf(flat, "s"), HasSubstr("has no axis"));
}

TEST(SplitBy, PlaneBuiltFromFacesFollowsThem) {
  Document document = documentOf({block20("a"), splitBy(PlanePick::midway(faceOf("a:left"), faceOf("a:right")))});
  document = document.withReplaced(document.find("a")->with("width", Expression("30 mm")));
  const Model model = made(document);
  ASSERT_EQ(model.bodies.size(), 2u);
  for (const Body& body : model.bodies) EXPECT_NEAR(body.shape().volume(), 6000, 1e-6);
}

TEST(SplitBy, KerfRoundABodyIsAGapOnBothSides) {
  const Model model = made(
      documentOf({block20("a"),
                  step("rod", "cylinder",
                       {{"radius", Expression("4")}, {"height", Expression("60")}, {"at", point("0", "0", "-30")}}),
                  step("s", "split",
                       {{"stock", bodies({"a"})},
                        {"cutters", std::vector{CutterPick::ofBody("rod")}},
                        {"kerf", Expression("1 mm")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_NEAR(volume(model, "a/inside"), pi * 3.5 * 3.5 * 20, 1e-5);
  EXPECT_NEAR(volume(model, "a/outside"), 8000 - pi * 4.5 * 4.5 * 20, 1e-5);
}

TEST(SplitBy, CurvedFaceOfAnotherBodyGoesOnBeyondItsBorder) {
  const Model model = made(
      documentOf({block20("a"),
                  step("rod", "cylinder",
                       {{"radius", Expression("30")}, {"height", Expression("5")}, {"at", point("25", "0", "40")}}),
                  step("s", "split",
                       {{"stock", bodies({"a"})},
                        {"cutters", std::vector{CutterPick::of(FaceReference{"rod", "rod:side", {}})}}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  // The cylinder x = 25 − √(900 − y²) over the block: its part inside is ∫ (10 − x) dy · 20.
  const double half = 10 * std::sqrt(800.0) + 900 * std::asin(1.0 / 3);  // ∫₋₁₀¹⁰ √(900 − y²) dy
  EXPECT_NEAR(volume(model, "a/back"), 20 * (half - 15 * 20), 1e-4);
  EXPECT_NEAR(volume(model, "a/front"), 8000 - 20 * (half - 15 * 20), 1e-4);
}

TEST(SplitBy, PlaneIsTiltedAndTurnedAboutTheMiddleOfTheStock) {
  const Model model = made(documentOf({block("a", "20", "20", "20"), step("s", "split",
                                                                          {{"cutters", cutBy("xy")},
                                                                           {"offset", Expression("10 mm")},
                                                                           {"tilt", Expression("20 deg")},
                                                                           {"turn", Expression("-15 deg")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  // Through the middle of a block every plane halves it.
  EXPECT_NEAR(volume(model, "a/front"), 4000, 1e-6);
  const Model lower = made(
      documentOf({block("a", "20", "20", "20"),
                  step("s", "split",
                       {{"cutters", cutBy("xy")}, {"offset", Expression("5 mm")}, {"tilt", Expression("10 deg")}})}));
  // A plane through (·, 10, 5): what lies below is a prism whose height at the middle is 5.
  EXPECT_NEAR(volume(lower, "a/back"), 2000, 1e-6);
}

TEST(SplitBy, DrawnLineSweptThrough) {
  const Model model = made(documentOf(
      {block20("a"), drawing("d", plane("xy"), {line("l1", "-20", "0", "0", "0"), line("l2", "0", "0", "20", "10")}),
       step("s", "split", {{"cutters", std::vector{drawn("d")}}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  ASSERT_EQ(model.bodies.size(), 2u);
  EXPECT_NEAR(std::min(model.bodies[0].shape().volume(), model.bodies[1].shape().volume()), (200 - 10 * 5 / 2.0) * 20,
              1e-6);
}

TEST(SplitBy, DrawnRegionCutsLikeACutter) {
  const Model model = made(documentOf({block20("a"), drawing("d", plane("xy"), {circle("c", "0", "0", "5")}),
                                       step("s", "split", {{"cutters", std::vector{drawn("d")}}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_NEAR(volume(model, "a/inside"), pi * 25 * 20, 1e-6);
}

TEST(SplitBy, LineThatIsTooShortSaysWhereAndOffersToExtend) {
  const Document document = documentOf({block20("a"), drawing("d", plane("xy"), {line("l", "-20", "0", "7", "0")}),
                                        step("s", "split", {{"cutters", std::vector{drawn("d")}}})});
  const Model model = made(document);
  EXPECT_THAT(errorOf(model, "s"), HasSubstr("\"l\" ends inside \"a\": it is 3 mm too short"));
  const StepReport& failed = report(model, "s");
  ASSERT_TRUE(failed.finding);
  ASSERT_EQ(failed.finding->gap.size(), 1u);
  for (const Point& point : failed.finding->gap.front())
    EXPECT_TRUE(std::abs(point.x - 7) < 1e-9 || std::abs(point.x - 10) < 1e-6) << point.x;
  ASSERT_EQ(failed.finding->offers.size(), 2u);
  EXPECT_THAT(failed.finding->offers[0].label, HasSubstr("Extend by 3.1 mm"));
  // Taking the offer helps, and is recomputed when the drawing changes.
  Step mended = *document.find("s");
  mended = mended.with("extent", text("extended")).with("extend", failed.finding->offers[0].fields[1].second);
  const Model reached = made(document.withReplaced(mended));
  ASSERT_FALSE(reached.failed()) << errorOf(reached, "s");
  EXPECT_NEAR(volume(reached, reached.bodies.front().id), 4000, 1e-6);
}

TEST(SplitBy, FiniteCutterWithKerfCutsASlot) {
  const Model model = made(documentOf(
      {block20("a"), drawing("d", plane("xy"), {line("l", "-20", "0", "7", "0")}),
       step("s", "split",
            {{"cutters", std::vector{drawn("d")}}, {"extent", text("finite")}, {"kerf", Expression("1")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_NEAR(report(model, "s").result->audit.volumeRemoved, 17 * 1 * 20, 1e-6);
  const Model bare =
      made(documentOf({block20("a"), drawing("d", plane("xy"), {line("l", "-20", "0", "7", "0")}),
                       step("s", "split", {{"cutters", std::vector{drawn("d")}}, {"extent", text("finite")}})}));
  EXPECT_THAT(errorOf(bare, "s"), HasSubstr("Give it a kerf"));
}

TEST(SplitBy, FiniteFaceCutsOneEarOnly) {
  const std::vector<Step> steps{
      block("bar", "50", "10", "5"), block("l", "10", "10", "20", {"0", "0", "5"}),
      block("r", "10", "10", "20", {"40", "0", "5"}),
      step("u", "combine", {{"verb", text("union")}, {"stock", bodies({"bar"})}, {"cutters", bodies({"l", "r"})}}),
      block("tool", "20", "20", "3", {"-5", "-5", "12"})};
  const CutterPick top = CutterPick::of(onFace("tool", "tool:top"));
  const auto split = [&](const char* extent) {
    Document document = documentOf(steps);
    return made(document.withStep(
        step("s", "split", {{"stock", bodies({"bar"})}, {"cutters", std::vector{top}}, {"extent", text(extent)}})));
  };
  const Model both = split("whole"), one = split("finite");
  ASSERT_FALSE(one.failed()) << errorOf(one, "s");
  EXPECT_EQ(both.bodies.size(), 4u);
  EXPECT_EQ(one.bodies.size(), 3u);
  EXPECT_NEAR(volume(one, "bar/front"), 1000, 1e-9);
}

TEST(SplitBy, OneSideOfEverythingHalvesAnAssembly) {
  const Model model =
      made(documentOf({block("whole", "20", "20", "20", {"-10", "-10", "0"}),
                       block("right", "5", "5", "5", {"3", "0", "30"}), block("left", "5", "5", "5", {"-9", "0", "30"}),
                       step("s", "split", {{"cutters", cutBy("yz")}, {"keep", text("front")}})}));
  EXPECT_THAT(idsOf(model), ElementsAre("whole/front", "right", "left"));
  const Model half =
      made(documentOf({block("whole", "20", "20", "20", {"-10", "-10", "0"}),
                       block("right", "5", "5", "5", {"3", "0", "30"}), block("left", "5", "5", "5", {"-9", "0", "30"}),
                       step("s", "split", {{"cutters", cutBy("yz")}, {"keep", text("front")}, {"everything", true}})}));
  EXPECT_THAT(idsOf(half), ElementsAre("whole/front", "right"));
  EXPECT_NEAR(report(half, "s").result->audit.volumeRemoved, 4000 + 125, 1e-9);
}

TEST(SplitBy, SurfaceIsSplitBySurfaceAndStaysASurface) {
  const Model model =
      made(documentOf({block20("a"), step("top", "lift", {{"faces", std::vector{FaceReference{"a", "a:top", {}}}}}),
                       drawing("d", plane("xy"), {line("l", "-20", "4", "20", "4")}),
                       step("s", "split", {{"stock", bodies({"top"})}, {"cutters", std::vector{drawn("d")}}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  std::vector<double> areas;
  for (const Body& body : model.bodies)
    if (body.shape().kind() == BodyKind::Surface) areas.push_back(body.shape().area());
  std::sort(areas.begin(), areas.end());
  ASSERT_EQ(areas.size(), 2u);
  EXPECT_NEAR(areas[0], 20 * 6, 1e-9);
  EXPECT_NEAR(areas[1], 20 * 14, 1e-9);
}

TEST(SplitBy, SurfaceWithKerfLeavesAPieceOnEverySide) {
  const Model model = made(documentOf(
      {block20("a"), step("top", "lift", {{"faces", std::vector{FaceReference{"a", "a:top", {}}}}}),
       step("s", "split", {{"stock", bodies({"top"})}, {"cutters", cutBy("yz")}, {"kerf", Expression("2 mm")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_THAT(idsOf(model), UnorderedElementsAre("a", "top/front", "top/back"));
  for (const Body& body : model.bodies)
    if (body.id != "a") {
      EXPECT_NEAR(body.shape().area(), 20 * 9, 1e-9) << body.id;
    }
}

TEST(SplitBy, CapsOfABallWithoutCornersLieOnTheirSides) {
  // The ball's seam is at +x: the cap at −x has no corner but on its rim.
  const Model model =
      made(documentOf({step("ball", "sphere", {{"radius", Expression("10 mm")}}),
                       step("p", "plane",
                            {{"way", text("at")},
                             {"normal", std::vector<Expression>{Expression("1"), Expression("0"), Expression("0")}},
                             {"offset", Expression("-5 mm")}}),
                       step("q", "plane",
                            {{"way", text("at")},
                             {"normal", std::vector<Expression>{Expression("1"), Expression("0"), Expression("0")}},
                             {"offset", Expression("5 mm")}}),
                       step("s", "split",
                            {{"cutters", std::vector{CutterPick::of(PlanePick{PlanePick::Kind::OfStep, "p", {}}),
                                                     CutterPick::of(PlanePick{PlanePick::Kind::OfStep, "q", {}})}}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  const double cap = pi * 25 * (30 - 5) / 3;
  for (const Body& body : model.bodies) {
    const double x = body.shape().box().centre().x;
    EXPECT_EQ(body.id, x > 5 ? "ball/front-front" : x < -5 ? "ball/back-back" : "ball/front-back");
    EXPECT_NEAR(body.shape().volume(), std::abs(x) > 5 ? cap : pi * 4000 / 3 - 2 * cap, 1e-6);
  }
  EXPECT_EQ(model.bodies.size(), 3u);
}

TEST(SplitBy, SaysHowCuttersLieThatDoNotCut) {
  const auto error = [](const Step& cutter) {
    return errorOf(
        made(documentOf(
            {block20("a"), cutter,
             step("s", "split", {{"stock", bodies({"a"})}, {"cutters", std::vector{CutterPick::ofBody("b")}}})})),
        "s");
  };
  EXPECT_THAT(error(block("b", "5", "5", "5", {"10", "0", "0"})), HasSubstr("is only touched by \"b\""));
  EXPECT_THAT(error(block("b", "90", "90", "90", {"-45", "-45", "-45"})), HasSubstr("lies entirely inside \"b\""));
  EXPECT_THAT(error(block("b", "5", "5", "5", {"50", "0", "0"})), HasSubstr("is not met by \"b\""));
}

class Pieces : public testing::Test {
 protected:
  /// A row of walls 10 apart: a plate with slots through, split at half height.
  Document walls(const std::string& length) {
    std::vector<DrawnCurve> slots;
    for (int i = 0; i < 3; ++i)
      slots.push_back(rectangle("r" + std::to_string(i), std::to_string(5 + 10 * i), "-1", "5", "12"));
    return documentOf({block("a", "length", "10", "10"), drawing("d", onFace("a", "a:top"), slots),
                       step("c", "cut", {{"profiles", allOf("d")}})},
                      {{"length", Expression(length)}});
  }
  std::vector<BodyId> keysOf(const Model& model, const StepId& id) {
    std::vector<BodyId> keys;
    for (const Piece& piece : report(model, id).result->pieces) keys.push_back(piece.key);
    return keys;
  }
};

TEST_F(Pieces, ChosenOnesAreDroppedAndKeptByName) {
  const Document document = walls("40 mm");
  const Model all = made(document);
  ASSERT_FALSE(all.failed()) << errorOf(all, "c");
  ASSERT_EQ(all.bodies.size(), 4u);
  const std::vector<BodyId> keys = keysOf(all, "c");
  const BodyId first = all.bodies.front().id;
  const PieceChoice choice{{}, {first}, keys};
  const Document chosen = document.withReplaced(document.find("c")->with("pieces", choice));
  const Model model = made(chosen);
  ASSERT_FALSE(model.failed());
  EXPECT_EQ(model.bodies.size(), 3u);
  EXPECT_EQ(model.find(first), nullptr);
  const Audit& audit = report(model, "c").result->audit;
  EXPECT_NEAR(audit.volumeBefore, audit.volumeAfter + audit.volumeRemoved, 1e-9);
  EXPECT_NEAR(audit.volumeAfter, 4000 - 1500 - 500, 1e-9);
  EXPECT_TRUE(audit.warnings.empty());
}

TEST_F(Pieces, WhatTheCutterTookCanStay) {
  const Document document = walls("40 mm");
  const Document chosen = document.withReplaced(document.find("c")->with("pieces", PieceChoice{{"a/removed"}, {}, {}}));
  const Model model = made(chosen);
  EXPECT_EQ(model.bodies.size(), 7u);
  EXPECT_NEAR(report(model, "c").result->audit.volumeAfter, 4000, 1e-9);
  EXPECT_NEAR(report(model, "c").result->audit.volumeRemoved, 0, 1e-9);
}

TEST_F(Pieces, NewOneIsAnnouncedNeverDroppedSilently) {
  // At 34 mm the last wall is not there; it appears when the plate gets longer.
  const Document shorter = walls("30 mm");
  const Model before = made(shorter);
  ASSERT_FALSE(before.failed()) << errorOf(before, "c");
  ASSERT_EQ(before.bodies.size(), 3u);
  const PieceChoice choice{{}, {before.bodies.front().id}, keysOf(before, "c")};
  const Document chosen = shorter.withReplaced(shorter.find("c")->with("pieces", choice));
  EXPECT_EQ(made(chosen).bodies.size(), 2u);
  const Model longer = made(chosen.withDimension("length", Expression("50 mm")));
  EXPECT_EQ(longer.bodies.size(), 3u);
  EXPECT_THAT(report(longer, "c").result->audit.warnings, testing::Contains(HasSubstr("a new piece")));
}

TEST(Split, ThatMissesStillHasItsGauges) {
  const auto tried = [](const char* offset) {
    return made(documentOf(
        {block("bar", "60", "20", "20"),
         step("s", "split",
              {{"cutters", std::vector{CutterPick::of(onFace("bar", "bar:top"))}}, {"offset", Expression(offset)}})}));
  };
  const Model missed = tried("0 mm");
  ASSERT_TRUE(missed.failed());
  const auto& finding = report(missed, "s").finding;
  ASSERT_TRUE(finding);
  ASSERT_FALSE(finding->gauges.empty());
  EXPECT_EQ(finding->gauges.front().field, "offset");
  EXPECT_NEAR(std::abs(finding->gauges.front().along.z), 1, 1e-12);
  EXPECT_FALSE(finding->cutterOutline.empty());
  // One that cuts shows them with its result.
  const Model cut = tried("-8 mm");
  ASSERT_FALSE(cut.failed()) << errorOf(cut, "s");
  EXPECT_EQ(report(cut, "s").result->gauges.front().field, "offset");
  EXPECT_NEAR(volume(cut, "bar/front"), 60 * 20 * 8, 1e-6);
}

}  // namespace
}  // namespace kervo
