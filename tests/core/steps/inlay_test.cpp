// Inlays: engraved and raised volumes by formula on flat, round and free faces, fillings with their gap, and what is
// refused.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/surface/engraved.h"
#include "geom/surface/inlaid.h"
#include "geom/topology.h"
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

TEST(InlayStep, LeavesOutWhatOutlinesEncloseTwice) {
  // Rings in a row, each with a ring and a dot inside; and letters, of which the eyes stay.
  std::vector<DrawnCurve> rings;
  for (int i = 0; i < 4; ++i)
    for (const char* radius : {"9", "7", "5", "3", "1"})
      rings.push_back(circle("c" + std::to_string(i) + "r" + radius, std::to_string(12 + 20 * i), "30", radius));
  const Model model = onPlate({{"depth", expression("1")}}, rings);
  ASSERT_EQ(errorOf(model, "i"), "no error");
  EXPECT_NEAR(volume(model, "plate"), plate - 4 * pi * (81 - 49 + 25 - 9 + 1), 1e-6);
  DrawnCurve text{"t", "text", {}};
  Drawing letters;
  letters.points.push_back({"a", {10, 20}});
  text.points = {"a"};
  text.numbers = {expression("12"), expression("0 deg")};
  text.text = "BRO8";
  letters.curves.push_back(text);
  const auto engraved = [&](const RegionPick& pick) {
    const Model made = test::made(
        documentOf({block("plate", "100 mm", "60 mm", "20 mm"),
                    step("d", "drawing", {{"plane", onFace("plate", "plate:top")}, {"curves", letters}}),
                    step("i", "inlay",
                         {{"face", faceOf("plate", "plate:top")}, {"profiles", pick}, {"depth", expression("1")}})}));
    EXPECT_EQ(errorOf(made, "i"), "no error");
    std::vector<std::string> names;
    for (const Region& region : report(made, "d").result->drawing()->regions)
      if (region.islandCount() > 0) names.push_back(region.name());
    return std::pair(plate - volume(made, "plate"), names);
  };
  const auto [all, inked] = engraved(allOf("d"));
  ASSERT_EQ(inked.size(), 4u) << "each of these letters has eyes";
  EXPECT_NEAR(all, engraved({"d", false, inked, {}}).first, 1e-6);
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

TEST(InlayStep, ComesToOneSideFromAPlaneAmidTheBody) {
  const Model model =
      made(documentOf({step("rod", "cylinder", {{"radius", expression("20")}, {"height", expression("80")}}),
                       drawing("d", PlanePick::standard("xz"),
                               {rectangle("a", "-12", "30", "4", "10"), rectangle("b", "-2", "30", "4", "10"),
                                rectangle("c", "8", "30", "4", "10")}),
                       step("i", "inlay",
                            {{"face", faceOf("rod", "rod:side")},
                             {"profiles", allOf("d")},
                             {"depth", expression("1")},
                             {"laying", text("projected")},
                             {"filling", text("bodies")}})}));
  ASSERT_EQ(errorOf(model, "i"), "no error");
  ASSERT_EQ(model.bodies.size(), 4u);
  for (const Body& body : model.bodies) {
    if (body.id == "rod") continue;
    EXPECT_LT(body.form.box().high.y, -10) << "where the drawing looks to";
  }
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

/// A ring, a dot within it, a square and a circle beside them, on a ball; the ball's back has a bore that ends near by.
struct Marked {
  Shape ball;
  Face face;
  std::vector<Region> regions;
};
Marked markedBall(double wall) {
  const Model model = made(
      documentOf({step("ball", "sphere", {{"radius", expression("30")}}),
                  step("bore", "cylinder",
                       {{"radius", expression("4")}, {"height", expression("80")}, {"at", point("0", "0", "0")}}),
                  step("turn", "place",
                       {{"bodies", bodies({"bore"})},
                        {"way", text("turn")},
                        {"axis", text("x")},
                        {"angle", expression("-90 deg")}}),
                  step("push", "place", {{"bodies", bodies({"bore"})}, {"y", expression(std::to_string(wall - 30))}}),
                  step("k", "combine", {{"stock", bodies({"ball"})}, {"cutters", bodies({"bore"})}}),
                  step("p", "plane", {{"from", PlanePick::standard("xz")}, {"offset", expression("35")}}),
                  drawing("d", {PlanePick::Kind::OfStep, "p", {}},
                          {circle("a", "0", "0", "8"), circle("b", "0", "0", "5"), circle("dot", "0", "0", "2"),
                           rectangle("r", "9", "-3", "4", "6"), circle("c", "-12", "0", "2")})}));
  EXPECT_FALSE(model.failed());
  const Shape ball = model.find("ball")->shape();
  for (const Face& each : facesOf(ball))
    if (each.surfaceName() == "sphere") return {ball, each, report(model, "d").result->drawing()->regions};
  throw std::runtime_error("no sphere");
}

TEST(Engraved, IsTheSameAsAnIntersection) {
  for (const double wall : {20.0, 1.5, 0.4}) {
    const Marked marked = markedBall(wall);
    Progress progress;
    InlayWishes wishes;
    wishes.from = -1;
    std::vector<Region> ringDotAndRest;
    for (const Region& region : marked.regions)
      if (region.name() != "b+.dot-" && region.name() != "dot-.b+") ringDotAndRest.push_back(region);
    ASSERT_EQ(ringDotAndRest.size(), 4u);
    const std::vector<Shape> solids = inlaid(ringDotAndRest, marked.face, wishes, "i", progress);
    InlayWishes beyond = wishes;
    beyond.to = 1;
    const std::vector<Shape> reaching = inlaid(ringDotAndRest, marked.face, beyond, "i", progress);
    int direct = 0;
    const Division straight = engraved(
        marked.ball, marked.face, Relief::Taken, solids, [&](std::size_t i) { return reaching[i]; }, progress, &direct);
    const Division general = divide(marked.ball, reaching, progress);
    EXPECT_NEAR(straight.outside.volume(), general.outside.volume(), 1e-6 * general.inside.volume()) << wall;
    EXPECT_NEAR(straight.inside.volume(), general.inside.volume(), 1e-5 * general.inside.volume()) << wall;
    EXPECT_EQ(straight.outside.faceCount(), general.outside.faceCount()) << wall;
    EXPECT_TRUE(straight.outside.valid() && straight.outside.watertight()) << wall;
    // A dot as deep as the bore is near goes the general way; the others do not.
    EXPECT_EQ(direct, wall > 1 ? 4 : 3) << wall;
  }
}

TEST(Engraved, AddsAsAUnionDoes) {
  const Marked marked = markedBall(20);
  Progress progress;
  InlayWishes wishes;
  wishes.to = 1;
  std::vector<Region> ring;
  for (const Region& region : marked.regions)
    if (region.name().find("a+") != std::string::npos) ring.push_back(region);
  ASSERT_EQ(ring.size(), 1u);
  int direct = 0;
  const Division raised = engraved(
      marked.ball, marked.face, Relief::Added, inlaid(ring, marked.face, wishes, "i", progress),
      [](std::size_t) { return Shape(); }, progress, &direct);
  EXPECT_EQ(direct, 1);
  const auto cap = [](double radius, double out) {
    return 2 * pi * (1 - std::cos(radius / 30)) / 3 * (std::pow(30 + out, 3) - std::pow(30, 3));
  };
  EXPECT_NEAR(raised.outside.volume() - marked.ball.volume(), cap(8, 1) - cap(5, 1), 1e-3);
  EXPECT_TRUE(raised.outside.valid() && raised.outside.watertight());
  EXPECT_EQ(raised.outside.faceCount(), marked.ball.faceCount() + 6) << "four walls, a top, and the island";
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
