// Place, Pattern and the ways to make a plane.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

FaceReference face(const char* body, const char* name) {
  return {body, name, {}};
}

void expectNear(Point a, Point b) {
  EXPECT_NEAR(a.x, b.x, 1e-6);
  EXPECT_NEAR(a.y, b.y, 1e-6);
  EXPECT_NEAR(a.z, b.z, 1e-6);
}

Box boxOf(const Model& model, const BodyId& id) {
  const Body* body = model.find(id);
  EXPECT_NE(body, nullptr) << id;
  return body ? body->shape().box() : Box();
}

class PlaceStep : public testing::Test {
 protected:
  Model place(std::map<std::string, FieldValue> fields, std::vector<Step> more = {}) {
    std::vector<Step> steps{block("a", "10", "20", "30")};
    steps.insert(steps.end(), more.begin(), more.end());
    fields.insert({"bodies", bodies({"a"})});
    steps.push_back(step("p", "place", std::move(fields)));
    const Model model = made(documentOf(steps));
    EXPECT_EQ(errorOf(model, "p"), "no error");
    return model;
  }
};

TEST_F(PlaceStep, MovesAndLeavesReferencesAlive) {
  const Model model = made(documentOf(
      {block("a", "10", "20", "30"),
       step("p", "place",
            {{"bodies", bodies({"a"})}, {"x", Expression("1")}, {"y", Expression("2")}, {"z", Expression("3")}}),
       drawing("d", onFace("a", "a:top"), {circle("c", "5", "10", "2")}),
       step("cut", "cut", {{"profiles", allOf("d")}})}));
  ASSERT_FALSE(model.failed());
  expectNear(boxOf(model, "a").low, {1, 2, 3});
}

TEST_F(PlaceStep, CopyLeavesTheBodyAndHasNamesOfItsOwn) {
  const Model model = place({{"x", Expression("50")}, {"y", Expression("0")}, {"z", Expression("0")}, {"copy", true}});
  expectNear(boxOf(model, "a").low, {0, 0, 0});
  expectNear(boxOf(model, "p").low, {50, 0, 0});
  EXPECT_EQ(facesOf(model.find("p")->shape()).front().origins().front().rfind("p:a:", 0), 0u);
}

TEST_F(PlaceStep, TurnsAboutAnEdge) {
  const Model model = place({{"way", text("turn")}, {"axis", text("z")}, {"angle", Expression("90 deg")}});
  expectNear(boxOf(model, "a").low, {-20, 0, 0});
  expectNear(boxOf(model, "a").high, {0, 10, 30});
}

TEST_F(PlaceStep, AlignsFaceToFaceWithAGap) {
  const Step other = block("b", "5", "5", "5", {"100", "100", "100"});
  const Model against = place({{"way", text("align")},
                               {"face", face("a", "a:bottom")},
                               {"target", face("b", "b:top")},
                               {"gap", Expression("2")}},
                              {other});
  EXPECT_NEAR(boxOf(against, "a").low.z, 107, 1e-6);
  EXPECT_NEAR(boxOf(against, "a").low.x, 0, 1e-6);
  const Model centred = place({{"way", text("align")},
                               {"face", face("a", "a:bottom")},
                               {"target", face("b", "b:top")},
                               {"align", text("centred against")}},
                              {other});
  expectNear(boxOf(centred, "a").centre(), {102.5, 102.5, 120});
  const Model flush = place(
      {{"way", text("align")}, {"face", face("a", "a:top")}, {"target", face("b", "b:top")}, {"align", text("flush")}},
      {other});
  EXPECT_NEAR(boxOf(flush, "a").high.z, 105, 1e-6);
}

TEST_F(PlaceStep, AlignsAxisToAxis) {
  const Step bolt = step("bolt", "cylinder",
                         {{"radius", Expression("2")}, {"height", Expression("9")}, {"at", point("70", "60", "50")}});
  const Step hole = step("hole", "cylinder",
                         {{"radius", Expression("3")},
                          {"height", Expression("4")},
                          {"plane", PlanePick{PlanePick::Kind::Standard, "yz", {}}}});
  const Model model = made(documentOf({hole, bolt,
                                       step("p", "place",
                                            {{"bodies", bodies({"bolt"})},
                                             {"way", text("align")},
                                             {"face", face("bolt", "bolt:side")},
                                             {"target", face("hole", "hole:side")},
                                             {"align", text("centred against")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "p");
  expectNear(boxOf(model, "bolt").centre(), {2, 0, 0});
  EXPECT_NEAR(boxOf(model, "bolt").high.y, 2, 1e-6);
}

TEST_F(PlaceStep, MovesUntilAFaceIsMet) {
  const Step wall = block("w", "5", "80", "80", {"60", "-30", "-30"});
  const Model model = place(
      {{"way", text("until")}, {"axis", text("x")}, {"target", face("w", "w:left")}, {"gap", Expression("1")}}, {wall});
  EXPECT_NEAR(boxOf(model, "a").high.x, 59, 1e-6);
  // A round target: the edge x = 10 … of the block meets the cylinder x² + z² = 25 about (100, ·, 15) at its foremost
  // line.
  const Step rod = step("rod", "cylinder",
                        {{"radius", Expression("5")},
                         {"height", Expression("80")},
                         {"plane", PlanePick{PlanePick::Kind::Standard, "xz", {}}},
                         {"at", point("100", "15", "-40")}});
  const Model round = place({{"way", text("until")}, {"axis", text("x")}, {"target", face("rod", "rod:side")}}, {rod});
  EXPECT_NEAR(boxOf(round, "a").high.x, 95, 1e-5);
}

TEST_F(PlaceStep, NeverMeetingIsAnError) {
  const Model model = made(documentOf({block("a", "1", "1", "1"), block("w", "5", "5", "5", {"60", "0", "0"}),
                                       step("p", "place",
                                            {{"bodies", bodies({"a"})},
                                             {"way", text("until")},
                                             {"axis", text("x")},
                                             {"backwards", true},
                                             {"target", face("w", "w:left")}})}));
  EXPECT_THAT(errorOf(model, "p"), HasSubstr("never meet"));
}

TEST_F(PlaceStep, ScalesFromTheMiddle) {
  const Model model = place({{"way", text("scale")}, {"factor", Expression("2")}});
  EXPECT_NEAR(volume(model, "a"), 8 * 6000, 1e-6);
  expectNear(boxOf(model, "a").centre(), {5, 10, 15});
}

TEST(PatternStep, RingOfCuttersCutsInOneStep) {
  const Model model = made(documentOf(
      {step("disc", "cylinder", {{"radius", Expression("20")}, {"height", Expression("4")}}),
       step("pin", "cylinder",
            {{"radius", Expression("1.5")}, {"height", Expression("8")}, {"at", point("14", "0", "-2")}}),
       step("ring", "pattern",
            {{"bodies", bodies({"pin"})}, {"way", text("ring")}, {"axis", text("z")}, {"count", Expression("12")}}),
       step("k", "combine", {{"stock", bodies({"disc"})}, {"cutters", bodies({"pin", "ring"})}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "k");
  EXPECT_EQ(model.bodies.size(), 1u);
  EXPECT_NEAR(volume(model, "disc"), pi * 4 * (400 - 12 * 2.25), 1e-6);
}

TEST(PatternStep, LineGridMirrorAndAlongADrawnLine) {
  const auto pattern = [](std::map<std::string, FieldValue> fields) {
    fields.insert({"bodies", bodies({"a"})});
    return made(documentOf(
        {block("a", "2", "2", "2"),
         drawing("d", {PlanePick::Kind::Standard, "xy", {}},
                 {{"r",
                   "arc",
                   {Expression("0"), Expression("0"), Expression("10"), Expression("0 deg"), Expression("90 deg")}}}),
         step("p", "pattern", std::move(fields))}));
  };
  const Model line = pattern({{"count", Expression("4")}, {"spacing", Expression("5")}, {"axis", text("y")}});
  EXPECT_EQ(line.bodies.size(), 4u);
  expectNear(boxOf(line, "p/4").low, {0, 15, 0});
  const Model grid = pattern({{"way", text("grid")}, {"count", Expression("4")}, {"rows", Expression("3")}});
  EXPECT_EQ(grid.bodies.size(), 12u);
  const Model mirror = pattern({{"way", text("mirror")}});
  expectNear(boxOf(mirror, "p/2").low, {-2, 0, 0});
  EXPECT_NEAR(volume(mirror, "p/2"), 8, 1e-9);
  const Model along = pattern({{"way", text("along")}, {"count", Expression("3")}, {"line", allOf("d")}});
  // From (10, 0) by way of 45° to (0, 10).
  expectNear(boxOf(along, "p/2").low - boxOf(along, "a").low, {10 * std::sqrt(0.5) - 10, 10 * std::sqrt(0.5), 0});
  expectNear(boxOf(along, "p/3").low - boxOf(along, "a").low, {-10, 10, 0});
  EXPECT_THAT(errorOf(pattern({{"count", Expression("2.5")}}), "p"), HasSubstr("not a whole number"));
}

class PlaneWays : public testing::Test {
 protected:
  Plane planeOf(std::map<std::string, FieldValue> fields) {
    const Model model = made(
        documentOf({block("a", "10", "20", "30"),
                    step("c", "cylinder",
                         {{"radius", Expression("3")}, {"height", Expression("8")}, {"at", point("50", "0", "2")}}),
                    step("p", "plane", std::move(fields))}));
    EXPECT_EQ(errorOf(model, "p"), "no error");
    const auto& result = report(model, "p").result;
    return result && result->datum() ? std::get<Plane>(*result->datum()) : Plane{};
  }
  static PointReference corner(std::vector<std::string> faces) {
    std::sort(faces.begin(), faces.end());
    return {"a", std::move(faces), std::nullopt};
  }
};

TEST_F(PlaneWays, MidwayBetweenParallelFaces) {
  const Plane plane =
      planeOf({{"way", text("midway")}, {"from", onFace("a", "a:left")}, {"other", onFace("a", "a:right")}});
  EXPECT_NEAR(plane.signedDistance({5, 3, 3}), 0, 1e-9);
  EXPECT_NEAR(std::abs(plane.normal.x), 1, 1e-9);
}

TEST_F(PlaneWays, MidwayBetweenTiltedFacesHalvesTheAngle) {
  const Plane plane =
      planeOf({{"way", text("midway")}, {"from", onFace("a", "a:top")}, {"other", onFace("a", "a:right")}});
  EXPECT_NEAR(plane.signedDistance({10, 0, 30}), 0, 1e-9);
  EXPECT_NEAR(std::abs(dot(plane.normal, normalized(Vector{1, 0, -1}))), 1, 1e-9);
}

TEST_F(PlaneWays, ThroughThreeCorners) {
  const Plane plane = planeOf(
      {{"way", text("points")},
       {"points", std::vector{corner({"a:left", "a:front", "a:bottom"}), corner({"a:right", "a:front", "a:top"}),
                              corner({"a:right", "a:back", "a:top"})}}});
  for (const Point p : {Point{0, 0, 0}, Point{10, 0, 30}, Point{10, 20, 30}})
    EXPECT_NEAR(plane.signedDistance(p), 0, 1e-9);
  EXPECT_GT(plane.normal.z, 0);
}

TEST_F(PlaneWays, AcrossAnAxisAndAnEdge) {
  const Plane axis = planeOf({{"way", text("across")}, {"axis_face", face("c", "c:side")}});
  EXPECT_NEAR(axis.signedDistance({0, 0, 6}), 0, 1e-6);
  const Plane edge =
      planeOf({{"way", text("across")}, {"edge", std::vector{EdgeReference{"a", "a:left", "a:top", {}}}}});
  EXPECT_NEAR(edge.signedDistance({0, 10, 0}), 0, 1e-9);
}

TEST_F(PlaneWays, TurnedAboutAnEdge) {
  const Plane plane = planeOf({{"way", text("turned")},
                               {"from", onFace("a", "a:top")},
                               {"angle", Expression("30 deg")},
                               {"edge", std::vector{EdgeReference{"a", "a:left", "a:top", {}}}}});
  EXPECT_NEAR(plane.signedDistance({0, 5, 30}), 0, 1e-9);
  EXPECT_NEAR(plane.normal.z, std::cos(pi / 6), 1e-9);
}

TEST(PatternStep, PutsCopiesAtDistances) {
  const Sizes distances{{Expression("gap"), Expression("gap + 15 mm"), Expression("-30 mm")}};
  const Document document =
      documentOf({block("a", "10", "10", "10"),
                  step("p", "pattern",
                       {{"bodies", bodies({"a"})}, {"way", "distances"}, {"axis", "y"}, {"distances", distances}})},
                 {{"gap", Expression("20 mm")}});
  const Model model = made(document);
  ASSERT_FALSE(model.failed()) << errorOf(model, "p");
  EXPECT_NEAR(model.find("p/2")->shape().box().low.y, 20, 1e-9);
  EXPECT_NEAR(model.find("p/3")->shape().box().low.y, 35, 1e-9);
  EXPECT_NEAR(model.find("p/4")->shape().box().low.y, -30, 1e-9);
  EXPECT_THAT(usesOfDimension(document, "gap"), testing::ElementsAre("step Pattern, field Distances"));
  const Model none = made(document.withReplaced(document.find("p")->with("distances", Sizes())));
  EXPECT_THAT(errorOf(none, "p"), testing::HasSubstr("field Distances: no distance is given"));
}

}  // namespace
}  // namespace kervo
