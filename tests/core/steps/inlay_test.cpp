// Inlays: engraved and raised volumes by formula on flat, round and free faces, fillings with their gap, and what is
// refused.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

FieldValue faceOf(const std::string& body, const std::string& face) {
  return FaceReference{body, face, std::nullopt};
}

/// A plate 100 × 60 × 20 and drawn curves on its top.
Model onPlate(Fields fields, std::vector<DrawnCurve> curves) {
  fields.insert({"face", faceOf("plate", "plate:top")});
  fields.insert({"profiles", allOf("d")});
  return made(documentOf({block("plate", "100 mm", "60 mm", "20 mm"),
                          drawing("d", onFace("plate", "plate:top"), std::move(curves)),
                          step("i", "inlay", std::move(fields))}));
}
constexpr double plate = 100.0 * 60 * 20;
const std::vector<DrawnCurve> frame{rectangle("r", "20", "20", "30", "20"), circle("c", "35", "30", "4")};
constexpr double frameArea = 600 - 16 * pi;

/// A plane across x at a distance.
Step beside(const std::string& x) {
  return step("p", "plane", {{"from", PlanePick::standard("yz")}, {"offset", expression(x)}});
}

/// A rod of radius 20 along z, and curves on a plane that touches it at x = 20, from z = 50.
Model onRod(Fields fields, std::vector<DrawnCurve> curves, const char* top = "20") {
  fields.insert({"face", faceOf("rod", "rod:side")});
  fields.insert({"profiles", allOf("d")});
  std::vector<Step> steps;
  if (top == std::string("20"))
    steps.push_back(step("rod", "cylinder", {{"radius", expression("20")}, {"height", expression("100")}}));
  else
    steps.push_back(
        step("rod", "cone", {{"bottom", expression("20")}, {"top", expression(top)}, {"height", expression("100")}}));
  steps.push_back(beside("25"));
  steps.push_back(drawing("d", {PlanePick::Kind::OfStep, "p", {}}, std::move(curves)));
  steps.push_back(step("i", "inlay", std::move(fields)));
  return made(documentOf(steps));
}
constexpr double rod = pi * 400 * 100;

TEST(InlayStep, EngravesAndRaisesOnAFlatFaceWithIslands) {
  const Model engraved = onPlate({{"depth", expression("3")}}, frame);
  ASSERT_EQ(errorOf(engraved, "i"), "no error");
  EXPECT_NEAR(volume(engraved, "plate"), plate - frameArea * 3, 1e-6) << "the island stays";
  const Model some =
      onPlate({{"depth", expression("3")}, {"profiles", RegionPick{"d", false, {"c-.r+", "c+"}, {}}}}, frame);
  ASSERT_EQ(errorOf(some, "i"), "no error");
  EXPECT_NEAR(volume(some, "plate"), plate - 600 * 3, 1e-6) << "unless it is chosen too";
  const Model raised = onPlate(
      {{"way", text("raised")}, {"depth", expression("3")}, {"profiles", RegionPick{"d", false, {"c-.r+"}, {}}}},
      frame);
  ASSERT_EQ(errorOf(raised, "i"), "no error");
  EXPECT_NEAR(volume(raised, "plate"), plate + frameArea * 3, 1e-6);
  EXPECT_TRUE(raised.find("plate")->shape().valid() && raised.find("plate")->shape().watertight());
}

TEST(InlayStep, LeansItsWalls) {
  const Model model =
      onPlate({{"depth", expression("2")}, {"draft", expression("45 deg")}}, {rectangle("r", "20", "20", "30", "20")});
  ASSERT_EQ(errorOf(model, "i"), "no error");
  // A truncated pyramid from 30 × 20 to 26 × 16, by Simpson's rule.
  EXPECT_NEAR(volume(model, "plate"), plate - 2.0 / 6 * (600 + 4 * 28 * 18 + 26 * 16), 1e-6);
}

TEST(InlayStep, IsSlidTurnedAndScaledOnTheFace) {
  const Model model = onPlate(
      {{"x", expression("60")}, {"y", expression("-5")}, {"turn", expression("90 deg")}, {"scale", expression("0.5")}},
      {rectangle("r", "20", "20", "30", "20")});
  ASSERT_EQ(errorOf(model, "i"), "no error");
  EXPECT_NEAR(volume(model, "plate"), plate - 150, 1e-6);
  // The drawing's (20, 20) … (50, 40) halved, turned, shifted: x 60 − 20 … 60 − 10, y −5 + 10 … −5 + 25.
  const Shape shape = model.find("plate")->shape();
  const auto inside = [&](Point p) {
    Progress progress;
    return !intersect({shape, makeBlock("q", Plane::through(p, {0, 0, 1}), 1e-2, 1e-2, 1e-2)}, progress).empty();
  };
  EXPECT_FALSE(inside({41, 6, 19.5}));
  EXPECT_FALSE(inside({49, 19, 19.5}));
  EXPECT_TRUE(inside({39, 6, 19.5}));
  EXPECT_TRUE(inside({51, 6, 19.5}));
}

TEST(InlayStep, IsWrappedRoundACylinderWithTrueLengths) {
  // As long as drawn on the outside; the floor is nearer to the axis: area × depth × (1 − depth / 2r).
  for (const double depth : {0.5, 2.0}) {
    const Model model =
        onRod({{"depth", expression(std::to_string(depth))}}, {rectangle("r", "-15", "40", "30", "20")});
    ASSERT_EQ(errorOf(model, "i"), "no error");
    const double gone = 600 * depth * (1 - depth / 40);
    EXPECT_NEAR(volume(model, "rod"), rod - gone, 1e-6 * gone) << depth;
    EXPECT_TRUE(model.find("rod")->shape().valid() && model.find("rod")->shape().watertight());
    EXPECT_NEAR(report(model, "i").result->audit.balance, 0, 1e-6 * rod);
  }
  const Model round = onRod({{"depth", expression("1")}, {"profiles", RegionPick{"d", false, {"a+.b-"}, {}}}},
                            {circle("a", "0", "50", "12"), circle("b", "0", "50", "5")});
  ASSERT_EQ(errorOf(round, "i"), "no error");
  const double ring = pi * (144 - 25) * (1 - 1.0 / 40);
  EXPECT_NEAR(volume(round, "rod"), rod - ring, 2e-6 * ring);
  const Model raised =
      onRod({{"depth", expression("2")}, {"way", text("raised")}}, {rectangle("r", "-15", "40", "30", "20")});
  ASSERT_EQ(errorOf(raised, "i"), "no error");
  EXPECT_NEAR(volume(raised, "rod"), rod + 1200 * (1 + 2.0 / 40), 1e-5 * 1200);
}

TEST(InlayStep, IsWrappedRoundAConeWithTrueLengths) {
  const Model model = onRod({{"depth", expression("1")}}, {rectangle("r", "-10", "30", "20", "20")}, "10");
  ASSERT_EQ(errorOf(model, "i"), "no error");
  // Its area is that drawn; towards the axis it shrinks with the radius across the wall. With s along the slant:
  // V = A d (1 − d cos a / 2r) at the mean of 1/r over the area, which is little more than 1/r of the middle.
  const double gone =
      volume(made(documentOf(
                 {step("rod", "cone",
                       {{"bottom", expression("20")}, {"top", expression("10")}, {"height", expression("100")}})})),
             "rod") -
      volume(model, "rod");
  const double lean = std::atan(0.1), middle = 20 - 0.1 * 40 * std::cos(lean);
  EXPECT_NEAR(gone, 400 * (1 - std::cos(lean) / (2 * middle)), 0.2);
  EXPECT_TRUE(model.find("rod")->shape().valid() && model.find("rod")->shape().watertight());
}

TEST(InlayStep, IsProjectedAlongTheDrawingsNormal) {
  const Model model =
      onRod({{"depth", expression("1")}, {"laying", text("projected")}}, {rectangle("r", "-10", "40", "20", "20")});
  ASSERT_EQ(errorOf(model, "i"), "no error");
  // ±10 of radius 20 is ±30°.
  const double gone = 20 * (20 * pi / 3) * (1 - 1.0 / 40);
  EXPECT_NEAR(volume(model, "rod"), rod - gone, 1e-5 * gone);
}

TEST(InlayStep, FollowsASphereByGeodesics) {
  const Model model = made(documentOf(
      {step("ball", "sphere", {{"radius", expression("30")}}), beside("35"),
       drawing("d", {PlanePick::Kind::OfStep, "p", {}}, {circle("c", "0", "0", "10")}),
       step("i", "inlay",
            {{"face", faceOf("ball", "ball:side")}, {"profiles", allOf("d")}, {"depth", expression("1")}})}));
  ASSERT_EQ(errorOf(model, "i"), "no error");
  // A circle of geodesics as long as its radius is a cap of 10/30 rad; a shell of it.
  const double cap = 2 * pi * (1 - std::cos(1.0 / 3)) / 3 * (std::pow(30, 3) - std::pow(29, 3));
  EXPECT_NEAR(volume(model, "ball"), 4.0 / 3 * pi * 27000 - cap, 1e-4 * cap);
}

TEST(InlayStep, FillsWhatItEngraves) {
  const Model flush = onRod({{"depth", expression("2")}, {"filling", text("bodies")}, {"color", text("#d9a25e")}},
                            {rectangle("r", "-15", "40", "30", "20")});
  ASSERT_EQ(errorOf(flush, "i"), "no error");
  ASSERT_EQ(flush.bodies.size(), 2u);
  const Body& filling = flush.bodies.back();
  EXPECT_EQ(filling.name, "Filling 1");
  ASSERT_TRUE(filling.color);
  EXPECT_EQ(colorText(*filling.color), "#d9a25e");
  // Stock and filling are the rod again, its skin where it was.
  EXPECT_NEAR(volume(flush, "rod") + filling.shape().volume(), rod, 1e-6 * rod);
  EXPECT_NEAR(filling.shape().box().high.x, 20, 1e-6);
  const Model proud = onRod({{"depth", expression("2")}, {"filling", text("bodies")}, {"proud", expression("0.5")}},
                            {rectangle("r", "-15", "40", "30", "20")});
  ASSERT_EQ(errorOf(proud, "i"), "no error");
  EXPECT_NEAR(proud.bodies.back().shape().box().high.x, 20.5, 1e-5);
  const Model sunk = onRod({{"depth", expression("2")}, {"filling", text("bodies")}, {"proud", expression("-0.5")}},
                           {rectangle("r", "-15", "40", "30", "20")});
  ASSERT_EQ(errorOf(sunk, "i"), "no error");
  EXPECT_NEAR(sunk.bodies.back().shape().box().high.x, 19.5, 1e-5);
}

TEST(InlayStep, LeavesAGapAllRound) {
  const Model model = onPlate({{"depth", expression("3")},
                               {"filling", text("bodies")},
                               {"gap", expression("0.2")},
                               {"profiles", RegionPick{"d", false, {"c-.r+"}, {}}}},
                              frame);
  ASSERT_EQ(errorOf(model, "i"), "no error");
  const double left = 29.6 * 19.6 - pi * 4.2 * 4.2;
  EXPECT_NEAR(model.bodies.back().shape().volume(), left * 2.8, 1e-5);
  Progress progress;
  EXPECT_TRUE(intersect({model.find("plate")->shape(), model.bodies.back().shape()}, progress).empty());
}

TEST(InlayStep, HasTwoColoursInOneStep) {
  const Model model = onPlate({{"depth", expression("2")},
                               {"filling", text("bodies")},
                               {"profiles", RegionPick{"d", false, {"c-.r+"}, {}}},
                               {"color", text("#112233")},
                               {"more", RegionPick{"d", false, {"c+"}, {}}},
                               {"more_color", text("#445566")}},
                              frame);
  ASSERT_EQ(errorOf(model, "i"), "no error");
  ASSERT_EQ(model.bodies.size(), 3u);
  EXPECT_EQ(colorText(*model.bodies[1].color), "#112233");
  EXPECT_EQ(colorText(*model.bodies[2].color), "#445566");
  EXPECT_NEAR(volume(model, "plate"), plate - 1200, 1e-6);
  EXPECT_NEAR(model.bodies[2].shape().volume(), 32 * pi, 1e-6);
}

TEST(InlayStep, RaisedWithBodiesLeavesTheStock) {
  const Model model = onPlate({{"way", text("raised")}, {"depth", expression("1")}, {"filling", text("bodies")}},
                              {rectangle("r", "20", "20", "30", "20")});
  ASSERT_EQ(errorOf(model, "i"), "no error");
  EXPECT_NEAR(volume(model, "plate"), plate, 1e-9);
  EXPECT_NEAR(model.bodies.back().shape().volume(), 600, 1e-6);
}

TEST(InlayStep, RefusesWhatCannotBe) {
  EXPECT_THAT(errorOf(onPlate({{"depth", expression("1")}}, {rectangle("r", "80", "20", "30", "20")}), "i"),
              HasSubstr("reaches beyond the face"));
  EXPECT_THAT(errorOf(onRod({{"depth", expression("1")}}, {rectangle("r", "-15", "90", "30", "20")}), "i"),
              HasSubstr("reaches beyond the face"));
  EXPECT_THAT(errorOf(onRod({{"depth", expression("20")}}, {rectangle("r", "-15", "40", "30", "20")}), "i"),
              HasSubstr("bent too tightly"));
  EXPECT_THAT(errorOf(onRod({{"draft", expression("5 deg")}}, {rectangle("r", "-15", "40", "30", "20")}), "i"),
              HasSubstr("walls lean on flat faces only"));
  EXPECT_THAT(errorOf(onPlate({{"filling", text("bodies")}, {"color", text("greenish")}}, frame), "i"),
              HasSubstr("\"greenish\" is not a colour"));
}

}  // namespace
}  // namespace kervo
