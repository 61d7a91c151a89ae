#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::UnorderedElementsAre;
constexpr double pi = std::numbers::pi;

using Fields = std::map<std::string, FieldValue>;

/// A 100 × 60 × 20 plate with a circle of radius 5 drawn on its top, cut with these fields.
Model cutWith(Fields fields, std::vector<Step> more = {}) {
  fields.try_emplace("profiles", allOf("outline"));
  std::vector<Step> steps{block("plate", "100", "60", "20")};
  steps.insert(steps.end(), more.begin(), more.end());
  steps.push_back(drawing("outline", onFace("plate", "plate:top"), {circle("c", "50", "30", "5")}));
  steps.push_back(step("cut", "cut", std::move(fields)));
  return made(documentOf(steps));
}

double depthOf(const Model& model) {
  return (120000 - volume(model, "plate")) / (25 * pi);
}

TEST(Cut, ReachesADistanceThroughAllOrAFace) {
  EXPECT_NEAR(depthOf(cutWith({{"to", text("distance")}, {"depth", Expression("7 mm")}})), 7, 1e-8);
  EXPECT_NEAR(depthOf(cutWith({{"to", text("through")}})), 20, 1e-8);
  EXPECT_NEAR(depthOf(cutWith({{"to", text("face")}, {"to_face", FaceReference{"plate", "plate:bottom", {}}}})), 20,
              1e-8);
}

TEST(Cut, StartsAtAnOffsetOrAFace) {
  // From 5 mm below the top, 7 deep: a hollow inside the plate.
  const Model inside = cutWith({{"from", text("offset")},
                                {"from_offset", Expression("5 mm")},
                                {"to", text("distance")},
                                {"depth", Expression("7 mm")}});
  EXPECT_NEAR(depthOf(inside), 7, 1e-8);
  EXPECT_TRUE(inside.find("plate")->shape().watertight());
  // From a lower block's top face only: the plate above is reached by the offset, not the hole through it.
  const Model lower =
      cutWith({{"from", text("face")}, {"from_face", FaceReference{"low", "low:top", {}}}, {"to", text("through")}},
              {block("low", "100", "60", "10", {"0", "0", "-40"})});
  EXPECT_NEAR(volume(lower, "plate"), 120000, 1e-6);
  EXPECT_NEAR(volume(lower, "low"), 60000 - 25 * pi * 10, 1e-6);
}

TEST(Cut, GoesOneWayOrBoth) {
  const Model up = cutWith({{"way", text("out")}}, {block("lid", "100", "60", "10", {"0", "0", "30"})});
  EXPECT_NEAR(volume(up, "plate"), 120000, 1e-6);
  EXPECT_NEAR(volume(up, "lid"), 60000 - 25 * pi * 10, 1e-6);
  const Model both = cutWith({{"way", text("both")}}, {block("lid", "100", "60", "10", {"0", "0", "30"})});
  EXPECT_NEAR(depthOf(both), 20, 1e-8);
  EXPECT_NEAR(volume(both, "lid"), 60000 - 25 * pi * 10, 1e-6);
  EXPECT_NEAR(depthOf(cutWith({{"way", text("both")}, {"to", text("distance")}, {"depth", Expression("4 mm")}})), 4,
              1e-8);
}

TEST(Cut, ToATiltedFaceGoesAsDeepAsTheFaceOnAverage) {
  // The wedge's slanted cut: a plane through (50, 30, 8), tilted about the x axis.
  std::vector<Step> steps{block("plate", "100", "60", "20"),
                          step("slope", "cone",
                               {{"bottom", Expression("100 mm")},
                                {"top", Expression("0 mm")},
                                {"height", Expression("10 mm")},
                                {"at", point("50", "30", "-8")}}),
                          drawing("outline", onFace("plate", "plate:top"), {circle("c", "50", "30", "5")})};
  steps.push_back(step("cut", "cut",
                       {{"profiles", allOf("outline")},
                        {"stock", bodies({"plate"})},
                        {"to", text("face")},
                        {"to_face", FaceReference{"slope", "slope:side", {}}}}));
  // The cone's tip stands at z = 2 over the circle's centre and falls by 1 in 10: depth 18 + mean of r / 10 = 18 + 1/3.
  const Model model = made(documentOf(steps));
  ASSERT_FALSE(model.failed()) << errorOf(model, "cut");
  EXPECT_NEAR(depthOf(model), 18 + 2.0 / 3 * 5 / 10, 1e-6);
}

TEST(Cut, BothWaysNeedsTheProfileAndADistanceOrThroughAll) {
  EXPECT_THAT(errorOf(cutWith({{"way", text("both")}, {"from", text("offset")}}), "cut"), HasSubstr("both ways"));
  EXPECT_THAT(errorOf(cutWith({{"way", text("both")},
                               {"to", text("face")},
                               {"to_face", FaceReference{"plate", "plate:bottom", {}}}}),
                      "cut"),
              HasSubstr("both ways"));
}

TEST(Cut, AFaceBehindTheStartIsAnError) {
  const Model model =
      cutWith({{"way", text("out")}, {"to", text("face")}, {"to_face", FaceReference{"plate", "plate:bottom", {}}}});
  EXPECT_THAT(errorOf(model, "cut"), HasSubstr("lies behind the start of the cut, by 20 mm"));
}

TEST(Cut, FieldsThatDoNotMatterAreNotEvaluated) {
  EXPECT_NEAR(depthOf(cutWith({{"to", text("through")}, {"depth", Expression("1 / 0")}})), 20, 1e-8);
}

TEST(Cut, TakesOnlyTheChosenStock) {
  const std::vector<Step> second{block("second", "100", "60", "20", {"0", "0", "-30"})};
  const Model all = cutWith({}, second);
  EXPECT_NEAR(volume(all, "second"), 120000 - 25 * pi * 20, 1e-6);
  EXPECT_THAT(report(all, "cut").result->audit.touched, UnorderedElementsAre("plate", "second"));
  const Model one = cutWith({{"stock", bodies({"plate"})}}, second);
  EXPECT_NEAR(volume(one, "second"), 120000, 1e-6);
  const Model far = cutWith({}, {block("far", "5", "5", "5", {"400", "0", "0"})});
  EXPECT_THAT(report(far, "cut").result->audit.spared, ElementsAre("far"));
}

TEST(Cut, TakesAnySetOfRegions) {
  const auto steps = [](RegionPick pick) {
    return documentOf({block("plate", "100", "60", "10"),
                       drawing("outline", onFace("plate", "plate:top"),
                               {rectangle("r", "10", "10", "40", "40"), circle("island", "30", "30", "5"),
                                circle("lone", "80", "30", "6")}),
                       step("cut", "cut", {{"profiles", std::move(pick)}})});
  };
  // The ring leaves its island standing as a piece of its own.
  const Model ring = made(steps({"outline", false, {"island-.r+"}}));
  ASSERT_FALSE(ring.failed()) << errorOf(ring, "cut");
  ASSERT_EQ(ring.bodies.size(), 2u);
  EXPECT_NEAR(ring.bodies[0].shape().volume() + ring.bodies[1].shape().volume(), (6000 - 1600 + 25 * pi) * 10, 1e-6);
  const Model island = made(steps({"outline", false, {"island+", "lone+"}}));
  EXPECT_NEAR(volume(island, "plate"), (6000 - 61 * pi) * 10, 1e-6);
  const Model all = made(steps({"outline", true, {}}));
  EXPECT_NEAR(volume(all, "plate"), (6000 - 1600 - 36 * pi) * 10, 1e-6);
}

TEST(Cut, ListsPiecesAndBalance) {
  const Model model = cutWith({});
  const StepResult& result = *report(model, "cut").result;
  ASSERT_EQ(result.pieces.size(), 2u);
  EXPECT_TRUE(result.pieces[0].kept);
  EXPECT_NEAR(result.pieces[0].volume, 120000 - 25 * pi * 20, 1e-6);
  EXPECT_FALSE(result.pieces[1].kept);
  EXPECT_NEAR(result.pieces[1].volume, 25 * pi * 20, 1e-6);
  EXPECT_NEAR(result.audit.volumeBefore - result.audit.volumeAfter - result.audit.volumeRemoved, 0, 1e-6);
  EXPECT_NEAR(result.audit.balance, 0, 1e-6);
  EXPECT_NEAR(report(model, "cut").volumeChange, -25 * pi * 20, 1e-6);
}

TEST(Cut, PiecesOfADividedBodyAreNamedByTheirFaces) {
  for (const char* at : {"30", "60"}) {
    const Model model =
        made(documentOf({block("bar", "100", "10", "10"),
                         drawing("outline", onFace("bar", "bar:top"), {rectangle("r", at, "-5", "4", "20")}),
                         step("saw", "cut", {{"profiles", allOf("outline")}})}));
    // Whichever is larger, the left piece is the left one.
    EXPECT_NEAR(volume(model, "bar/left"), std::stod(at) * 100, 1e-6);
    EXPECT_NEAR(volume(model, "bar/right"), (96 - std::stod(at)) * 100, 1e-6);
  }
}

TEST(Cut, SaysWhyItCutsNothing) {
  EXPECT_THAT(errorOf(cutWith({{"way", text("out")}}), "cut"), HasSubstr("meets none of the stock"));
  EXPECT_THAT(errorOf(cutWith({{"profiles", allOf("nowhere")}}), "cut"),
              HasSubstr("no drawing from a step \"nowhere\""));
  EXPECT_THAT(errorOf(cutWith({{"profiles", RegionPick{"outline", false, {"x+"}}}}), "cut"),
              HasSubstr("no region \"x+\" any more"));
  EXPECT_THAT(errorOf(cutWith({{"stock", bodies({"ghost"})}}), "cut"), HasSubstr("there is no body \"ghost\" here"));
  EXPECT_THAT(errorOf(cutWith({{"to", text("distance")}, {"depth", Expression("0 mm")}}), "cut"),
              HasSubstr("field Depth: the value is 0 mm"));
  EXPECT_THAT(errorOf(cutWith({{"to", text("face")}}), "cut"), HasSubstr("no face is chosen"));
  EXPECT_THAT(errorOf(cutWith({{"to", text("distance")}, {"depth", Expression("3 deg")}}), "cut"),
              HasSubstr("is an angle, but a length is needed"));
}

TEST(Cut, MayConsumeAWholeBodyAndSaysSo) {
  const Model model =
      made(documentOf({block("small", "4", "4", "4"),
                       drawing("outline", {PlanePick::Kind::Standard, "xy", {}}, {circle("c", "0", "0", "50")}),
                       step("cut", "cut", {{"profiles", allOf("outline")}, {"way", text("both")}})}));
  EXPECT_FALSE(model.failed());
  EXPECT_TRUE(model.bodies.empty());
  EXPECT_THAT(report(model, "cut").result->audit.warnings, ElementsAre(HasSubstr("nothing of it stays")));
}

TEST(Cut, ThatMeetsNothingShowsWhereItIs) {
  const Model model = made(documentOf({block("bar", "60", "20", "20"), block("far", "5", "5", "5", {"0", "0", "100"}),
                                       drawing("d", onFace("far", "far:top"), {circle("c", "2", "2", "1")}),
                                       step("k", "cut",
                                            {{"profiles", allOf("d")},
                                             {"stock", bodies({"bar"})},
                                             {"way", text("out")},
                                             {"to", text("distance")},
                                             {"depth", Expression("7 mm")}})}));
  ASSERT_THAT(errorOf(model, "k"), testing::HasSubstr("meets none of the stock"));
  const auto& finding = report(model, "k").finding;
  ASSERT_TRUE(finding);
  EXPECT_FALSE(finding->cutterOutline.empty());
  ASSERT_EQ(finding->gauges.size(), 1u);
  EXPECT_EQ(finding->gauges.front().field, "depth");
  EXPECT_NEAR(finding->gauges.front().value, 7, 1e-12);
  EXPECT_NEAR(finding->gauges.front().from.z, 105, 1e-9);
}

}  // namespace
}  // namespace kervo
