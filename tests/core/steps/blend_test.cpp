// Blends, lofts and patches: continuity measured independently of the code that made them, sizes against formulas.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <numbers>

#include "geom/curves/curve_body.h"
#include "geom/measure/between.h"
#include "geom/surface/sewn.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

Step lift(const char* id, const char* body, const char* name) {
  return step(id, "lift", {{"faces", std::vector<FaceReference>{{body, name, std::nullopt}}}});
}

FieldValue edge(const char* body, const char* face, Point at) {
  return std::vector<EdgeReference>{{body, face, "", at}};
}

/// Two tubes about z, of radius 10 up to z = 20 and of radius 6 from z = 40 on, their sides lifted as "low" and "high".
std::vector<Step> tubes() {
  return {step("a", "cylinder", {{"radius", Expression("10 mm")}, {"height", Expression("20 mm")}}),
          step("b", "cylinder",
               {{"radius", Expression("6 mm")}, {"height", Expression("20 mm")}, {"at", point("0", "0", "40 mm")}}),
          lift("low", "a", "a:side"), lift("high", "b", "b:side")};
}

Step blendOf(std::map<std::string, FieldValue> more) {
  more.try_emplace("from", edge("low", "a:side", {10, 0, 20}));
  more.try_emplace("to", edge("high", "b:side", {6, 0, 40}));
  return step("m", "blend", std::move(more));
}

Model with(std::vector<Step> steps, std::vector<Step> more) {
  steps.insert(steps.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
  return made(documentOf(steps));
}

double areaOf(const Model& model, const BodyId& body) {
  const Body* found = model.find(body);
  if (!found) ADD_FAILURE() << "no body " << body;
  return found ? found->shape().area() : 0;
}

/// Where a surface is at a height above the xz plane, seen from the axis: the radius there, found by cutting it.
double radiusAt(const Model& model, const BodyId& body, double height) {
  const Shape shape = model.find(body)->shape();
  double low = 0, high = 50;
  for (int i = 0; i < 60; ++i) {
    const double middle = (low + high) / 2;
    // Nearest to the axis: the surface is met somewhere between.
    double least = 1e9;
    for (const Face& face : facesOf(shape)) least = std::min(least, face.distanceTo({middle, 0, height}));
    double beyond = 1e9;
    for (const Face& face : facesOf(shape)) beyond = std::min(beyond, face.distanceTo({middle + 1e-6, 0, height}));
    (beyond < least ? low : high) = middle;
  }
  return low;
}

TEST(BlendStep, TouchingItIsTheConeBetween) {
  const Model model = with(tubes(), {blendOf({{"from_joint", text("touch")}, {"to_joint", text("touch")}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "m");
  EXPECT_NEAR(areaOf(model, "m"), pi * 16 * std::hypot(4, 20), 1e-4);
  const Model solid =
      with(tubes(), {blendOf({{"from_joint", text("touch")}, {"to_joint", text("touch")}, {"sew", text("a surface")}}),
                     step("s", "sew", {{"surfaces", bodies({"low"})}, {"cap", true}})});
  ASSERT_FALSE(solid.failed()) << errorOf(solid, "m") << errorOf(solid, "s");
  EXPECT_EQ(solid.find("low")->shape().kind(), BodyKind::Solid);
  EXPECT_NEAR(volume(solid, "low"), pi * (100 * 20 + 36 * 20 + 20.0 / 3 * (100 + 60 + 36)), 1e-2);
}

TEST(BlendStep, TangentAndCurvatureGoOnAsTheSurfacesDo) {
  for (const char* joint : {"tangent", "curvature"}) {
    const Model model = with(tubes(), {blendOf({{"from_joint", text(joint)}, {"to_joint", text(joint)}})});
    ASSERT_FALSE(model.failed()) << errorOf(model, "m");
    // Both tubes are upright: close to a border the blend's radius changes with the square of the way, or its cube.
    const double h = 0.5, at1 = radiusAt(model, "m", 20 + h), at2 = radiusAt(model, "m", 20 + 2 * h);
    EXPECT_LT(std::abs(at1 - 10), 0.05) << joint;
    const bool curvature = std::string(joint) == "curvature";
    EXPECT_NEAR(std::log2((10 - at2) / (10 - at1)), curvature ? 3 : 2, 0.2) << joint;
    const std::vector<std::string>& notes = report(model, "m").result->audit.notes;
    ASSERT_GE(notes.size(), 2u);
    EXPECT_THAT(notes[0], HasSubstr("angle off by at most"));
    if (curvature) {
      EXPECT_THAT(notes[1], HasSubstr("curvature off by at most"));
    }
  }
}

TEST(BlendStep, FullnessDrivesItAndItSewsToASolid) {
  std::vector<double> volumes;
  for (const char* fullness : {"0.5", "1", "1.5"}) {
    const Model model = with(tubes(), {blendOf({{"from_fullness", Expression(fullness)}, {"sew", text("a surface")}}),
                                       step("s", "sew", {{"surfaces", bodies({"low"})}, {"cap", true}})});
    ASSERT_FALSE(model.failed()) << errorOf(model, "m") << errorOf(model, "s");
    ASSERT_EQ(model.find("low")->shape().kind(), BodyKind::Solid);
    EXPECT_TRUE(model.find("low")->shape().watertight());
    volumes.push_back(volume(model, "low"));
  }
  EXPECT_LT(volumes[0] + 50, volumes[1]);
  EXPECT_LT(volumes[1] + 50, volumes[2]);
}

TEST(BlendStep, UnlikeEdgeCountsAndCornersMeet) {
  // The outline of a block to the rim of a tube above it: four edges with corners to one round edge.
  const std::vector<Step> steps{
      block("b", "30", "30", "10", {"-15", "-15", "0"}),
      step("walls", "lift",
           {{"faces",
             std::vector<FaceReference>{
                 {"b", "b:front", {}}, {"b", "b:back", {}}, {"b", "b:left", {}}, {"b", "b:right", {}}}}}),
      step("t", "cylinder",
           {{"radius", Expression("8 mm")}, {"height", Expression("10 mm")}, {"at", point("0", "0", "30 mm")}}),
      lift("tube", "t", "t:side")};
  for (const char* joint : {"touch", "tangent"}) {
    const Model model =
        with(steps, {step("m", "blend",
                          {{"from", edge("walls", "b:front", {0, -15, 10})},
                           {"to", edge("tube", "t:side", {8, 0, 30})},
                           {"from_joint", text(joint)},
                           {"to_joint", text(joint)},
                           {"sew", text("a surface")}}),
                     step("s", "sew", {{"surfaces", bodies({"walls"})}, {"cap", true}, {"gives", text("a solid")}})});
    ASSERT_FALSE(model.failed()) << joint << errorOf(model, "m") << errorOf(model, "s");
    EXPECT_TRUE(model.find("walls")->shape().watertight());
    EXPECT_GT(volume(model, "walls"), 30 * 30 * 10 + pi * 64 * 10 + pi * 64 * 20);
    EXPECT_LT(volume(model, "walls"), 30 * 30 * 30 + pi * 64 * 10);
  }
}

TEST(BlendStep, RefusesWhatCannotBe) {
  EXPECT_THAT(errorOf(with(tubes(), {step("m", "blend", {{"from", edge("a", "a:side", {10, 0, 20})}})}), "m"),
              HasSubstr("field Border"));
  const std::vector<Step> mixed{block("b", "30", "30", "10"), lift("top", "b", "b:top"),
                                block("c", "30", "30", "10", {"0", "0", "30"}), lift("low", "c", "c:bottom")};
  const Model open = with(mixed, {step("m", "blend",
                                       {{"from", edge("top", "b:top", {15, 0, 10})},
                                        {"from_loop", false},
                                        {"to", edge("low", "c:bottom", {15, 0, 30})}})});
  EXPECT_THAT(errorOf(open, "m"), HasSubstr("one border is closed and the other is open"));
  // Both open: one wall between two edges.
  const Model wall = with(mixed, {step("m", "blend",
                                       {{"from", edge("top", "b:top", {15, 0, 10})},
                                        {"from_loop", false},
                                        {"from_joint", text("touch")},
                                        {"to", edge("low", "c:bottom", {15, 0, 30})},
                                        {"to_loop", false},
                                        {"to_joint", text("touch")}})});
  ASSERT_FALSE(wall.failed()) << errorOf(wall, "m");
  EXPECT_NEAR(areaOf(wall, "m"), 30 * 20, 1e-6);
}

/// Circles about z as curve bodies, drawn on the tops of blocks.
std::vector<Step> circlesAt(const std::vector<std::pair<double, double>>& heightAndRadius) {
  std::vector<Step> steps;
  int number = 0;
  for (const auto& [height, radius] : heightAndRadius) {
    const std::string n = std::to_string(++number), rod = "rod" + n;
    steps.push_back(step(rod, "cylinder",
                         {{"radius", Expression(std::to_string(radius) + " mm")},
                          {"height", Expression("1 mm")},
                          {"at", point("0", "0", std::to_string(height - 1) + " mm")}}));
    steps.push_back(step("c" + n, "curve",
                         {{"edges", std::vector<EdgeReference>{{rod, rod + ":top", rod + ":side", std::nullopt}}}}));
  }
  return steps;
}

std::vector<SectionPick> sectionsOf(int count) {
  std::vector<SectionPick> sections;
  for (int i = 1; i <= count; ++i) sections.push_back(SectionPick::ofCurve("c" + std::to_string(i)));
  return sections;
}

TEST(LoftStep, RuledBetweenCirclesIsAFrustum) {
  const Model model =
      with(circlesAt({{0, 10}, {20, 6}}), {step("l", "loft", {{"sections", sectionsOf(2)}, {"way", text("ruled")}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "l");
  EXPECT_NEAR(volume(model, "l"), pi * 20.0 / 3 * (100 + 60 + 36), 1e-2);
  EXPECT_TRUE(model.find("l")->shape().watertight());
  const Model surface = with(circlesAt({{0, 10}, {20, 6}}),
                             {step("l", "loft", {{"sections", sectionsOf(2)}, {"gives", text("a surface")}})});
  ASSERT_FALSE(surface.failed()) << errorOf(surface, "l");
  EXPECT_NEAR(areaOf(surface, "l"), pi * 16 * std::hypot(4, 20), 1e-3);
}

TEST(LoftStep, SmoothThroughThreePassesAllAndBeginsStraight) {
  const std::vector<Step> steps{
      drawing("d1", PlanePick::standard("xy"), {circle("c", "0", "0", "10")}),
      step("p", "plane", {{"from", PlanePick::standard("xy")}, {"offset", Expression("30 mm")}}),
      drawing("d2", PlanePick::ofStep("p"), {circle("c", "0", "0", "4")})};
  const std::vector<SectionPick> two{SectionPick::ofDrawing("d1"), SectionPick::ofDrawing("d2")};
  const Model straight = with(steps, {step("l", "loft",
                                           {{"sections", two},
                                            {"gives", text("a surface")},
                                            {"start", text("straight")},
                                            {"start_by", Expression("10 mm")},
                                            {"end", text("straight")},
                                            {"end_by", Expression("10 mm")}})});
  ASSERT_FALSE(straight.failed()) << errorOf(straight, "l");
  EXPECT_NEAR(radiusAt(straight, "l", 0.2), 10, 0.01) << "it leaves upright";
  EXPECT_NEAR(radiusAt(straight, "l", 29.8), 4, 0.01);
  const Model three = with(circlesAt({{0, 10}, {15, 14}, {30, 6}}), {step("l", "loft", {{"sections", sectionsOf(3)}})});
  ASSERT_FALSE(three.failed()) << errorOf(three, "l");
  EXPECT_NEAR(radiusAt(three, "l", 15), 14, 1e-3);
}

TEST(LoftStep, SquaresKeepCornersAndPlanesAndPointsClose) {
  const std::vector<Step> steps{block("a", "40", "40", "1", {"-20", "-20", "-1"}),
                                block("b", "20", "20", "1", {"-10", "-10", "30"})};
  const std::vector<SectionPick> sections{SectionPick::of(FaceReference{"a", "a:top", {}}),
                                          SectionPick::of(FaceReference{"b", "b:bottom", {}})};
  const Model model = with(steps, {step("l", "loft", {{"sections", sections}, {"way", text("ruled")}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "l");
  EXPECT_NEAR(volume(model, "l"), 30.0 / 3 * (1600 + 800 + 400), 1e-6);
  EXPECT_EQ(model.find("l")->shape().faceCount(), 6);
  for (const Face& face : facesOf(model.find("l")->shape())) EXPECT_TRUE(face.plane()) << face.origins().front();
  const std::vector<SectionPick> pyramid{
      SectionPick::of(FaceReference{"a", "a:top", {}}),
      SectionPick::of(PointReference{"b", {"b:back", "b:bottom", "b:left"}, std::nullopt})};
  const Model pointed = with(steps, {step("l", "loft", {{"sections", pyramid}, {"way", text("ruled")}})});
  ASSERT_FALSE(pointed.failed()) << errorOf(pointed, "l");
  EXPECT_NEAR(volume(pointed, "l"), 1600 * 30.0 / 3, 1e-3);
}

TEST(LoftStep, SaysWhatIsWrong) {
  EXPECT_THAT(errorOf(made(documentOf({step("l", "loft", {})})), "l"), HasSubstr("a loft needs"));
  const std::vector<Step> steps{drawing("d1", PlanePick::standard("xy"), {circle("c", "0", "0", "10")})};
  EXPECT_THAT(
      errorOf(with(steps, {step("l", "loft", {{"sections", std::vector<SectionPick>{SectionPick::ofDrawing("d1")}}})}),
              "l"),
      HasSubstr("two sections or more"));
  EXPECT_THAT(errorOf(with(steps, {step("l", "loft",
                                        {{"sections", std::vector<SectionPick>{SectionPick::ofDrawing("d1"),
                                                                               SectionPick::ofDrawing("d1")}}})}),
                      "l"),
              HasSubstr("two sections lie in one place"));
}

TEST(PatchStep, FillsLoopsPlanarOrNot) {
  const Model flat = with(tubes(), {step("p", "patch", {{"edges", edge("low", "a:side", {10, 0, 20})}})});
  ASSERT_FALSE(flat.failed()) << errorOf(flat, "p");
  EXPECT_NEAR(areaOf(flat, "p"), pi * 100, 1e-6);
  // A ball cut off at z = 6 leaves a round hole of radius 8; tangent, the patch bulges as the ball did.
  const std::vector<Step> bowl{
      step("ball", "sphere", {{"radius", Expression("10 mm")}}), lift("s", "ball", "ball:side"),
      step("p6", "plane", {{"from", PlanePick::standard("xy")}, {"offset", Expression("6 mm")}}),
      step("t", "trim",
           {{"stock", bodies({"s"})},
            {"outlines", std::vector<CutterPick>{CutterPick::of(PlanePick::ofStep("p6"))}},
            {"stays", text("all")}})};
  const FieldValue rim = edge("s/back", "ball:side", {8, 0, 6});
  const Model touch = with(bowl, {step("p", "patch", {{"edges", rim}})});
  ASSERT_FALSE(touch.failed()) << errorOf(touch, "t") << errorOf(touch, "p");
  EXPECT_NEAR(areaOf(touch, "p"), pi * 64, 1e-6);
  const Model tangent = with(bowl, {step("p", "patch", {{"edges", rim}, {"joint", text("tangent")}})});
  ASSERT_FALSE(tangent.failed()) << errorOf(tangent, "p");
  // It bulges as the ball did, more or less: by 4 mm then.
  EXPECT_NEAR(tangent.find("p")->shape().box().high.z, 10, 2);
  EXPECT_THAT(report(tangent, "p").result->audit.notes.front(), HasSubstr("angle off by at most"));
  EXPECT_THAT(
      errorOf(with(tubes(), {step("p", "patch",
                                  {{"edges", FieldValue(std::vector<EdgeReference>{{"a", "a:side", "a:top", {}}})},
                                   {"joint", text("tangent")}})}),
              "p"),
      HasSubstr("bounds no open surface"));
}

/// A straight, or the arc through three points, on an upright plane through z.
std::vector<Step> guideThrough(const char* id, double angle, double radius, double bulge) {
  const auto mm = [](double x) { return std::to_string(x) + " mm"; };
  std::vector<Step> steps;
  std::vector<PointReference> points;
  for (const auto& [r, z] : {std::pair(radius, 0.0), {bulge, 20.0}, {radius, 40.0}}) {
    const std::string name = std::string(id) + std::to_string(points.size());
    steps.push_back(step(name, "point", {{"at", point(mm(r * std::cos(angle)), mm(r * std::sin(angle)), mm(z))}}));
    points.push_back(PointReference::ofDatum(BodyId(name)));
  }
  steps.push_back(step(id, "through_points", {{"points", points}, {"kind", text("arc")}}));
  return steps;
}

TEST(LoftStep, FollowsItsGuides) {
  std::vector<Step> steps{step("up", "plane", {{"from", PlanePick::standard("xy")}, {"offset", Expression("40 mm")}}),
                          drawing("one", PlanePick::standard("xy"), {circle("o", "0", "0", "10")}),
                          drawing("two", PlanePick::ofStep(StepId("up")), {circle("o", "0", "0", "10")})};
  const auto loftWith = [&](std::vector<std::string> guides, double bulge) {
    std::vector<Step> all = steps;
    std::vector<BodyId> ids;
    for (std::size_t i = 0; i < guides.size(); ++i) {
      const double angle = 0.3 + 2 * pi * static_cast<double>(i) / static_cast<double>(guides.size());
      for (Step& each : guideThrough(guides[i].c_str(), angle, 10, bulge)) all.push_back(std::move(each));
      ids.emplace_back(guides[i]);
    }
    all.push_back(
        step("l", "loft",
             {{"sections", std::vector<SectionPick>{SectionPick::ofDrawing("one"), SectionPick::ofDrawing("two")}},
              {"guides", bodies(ids)}}));
    return made(documentOf(all));
  };
  const Model plain = loftWith({}, 0);
  ASSERT_FALSE(plain.failed()) << errorOf(plain, "l");
  EXPECT_NEAR(volume(plain, "l"), pi * 100 * 40, 1e-3);
  for (const std::vector<std::string>& guides :
       {std::vector<std::string>{"g"}, std::vector<std::string>{"g", "h"}, std::vector<std::string>{"g", "h", "k"}}) {
    const Model model = loftWith(guides, 13);
    ASSERT_FALSE(model.failed()) << errorOf(model, "l");
    const Shape body = model.find("l")->shape();
    for (std::size_t i = 0; i < guides.size(); ++i) {
      const double angle = 0.3 + 2 * pi * static_cast<double>(i) / static_cast<double>(guides.size());
      double nearest = 1e9;
      for (const Face& face : facesOf(body))
        nearest = std::min(nearest, face.distanceTo({13 * std::cos(angle), 13 * std::sin(angle), 20}));
      EXPECT_LT(nearest, 1e-4) << "through the middle of the guide";
    }
    // One guide moves all of it aside and keeps its volume; several widen it.
    if (guides.size() == 1)
      EXPECT_NEAR(volume(model, "l"), pi * 100 * 40, 1);
    else
      EXPECT_GT(volume(model, "l"), pi * 100 * 40 * 1.2);
    EXPECT_NEAR(body.box().low.z, 0, 1e-6);
    EXPECT_NEAR(body.box().high.z, 40, 1e-6);
  }
  const Model beside = [&] {
    std::vector<Step> all = steps;
    for (Step& each : guideThrough("g", 0.3, 12, 15)) all.push_back(std::move(each));
    all.push_back(
        step("l", "loft",
             {{"sections", std::vector<SectionPick>{SectionPick::ofDrawing("one"), SectionPick::ofDrawing("two")}},
              {"guides", bodies({"g"})}}));
    return made(documentOf(all));
  }();
  EXPECT_THAT(errorOf(beside, "l"), HasSubstr("passes section 1 at 2 mm"));
}

TEST(PatchStep, TakesCurvesAndDrawings) {
  const std::vector<Step> drawn{
      drawing("d", PlanePick::standard("xy"), {circle("o", "0", "0", "10"), circle("i", "0", "0", "4")}),
      drawing("e", PlanePick::standard("xy"), {circle("o", "0", "0", "7")}),
      step("c", "curve", {{"drawing", StepPick{"e"}}})};
  const Model planar =
      with(drawn, {step("p", "patch", {{"regions", RegionPick{.drawing = "d", .all = false, .regions = {"i-.o+"}}}})});
  ASSERT_FALSE(planar.failed()) << errorOf(planar, "p");
  EXPECT_NEAR(areaOf(planar, "p"), pi * (100 - 16), 1e-9);
  const Model filled = with(drawn, {step("p", "patch", {{"curves", bodies({"c"})}})});
  ASSERT_FALSE(filled.failed()) << errorOf(filled, "p");
  EXPECT_NEAR(areaOf(filled, "p"), pi * 49, 1e-9);
  EXPECT_THAT(errorOf(with(drawn, {step("p", "patch", {{"curves", bodies({"c"})}, {"regions", allOf("d")}})}), "p"),
              HasSubstr("as well as a drawing"));
}

TEST(SewStep, FindsTheFacesThatClose) {
  // The six faces of a block, one of another block that touches it, and a flap at an edge.
  std::vector<Step> steps{block("b", "10", "20", "30"),
                          block("o", "5", "5", "5", {"50", "0", "0"}),
                          step("u", "unsew", {{"bodies", bodies({"b"})}}),
                          lift("far", "o", "o:top"),
                          drawing("d", PlanePick::standard("yz"), {rectangle("r", "-5", "0", "5", "30")}),
                          step("flap", "patch", {{"regions", allOf("d")}}),
                          step("s", "sew", {{"surfaces", BodyPick::everything()}, {"closing", true}})};
  const Model model = made(documentOf(steps));
  // Solids are no surfaces: all of them is too much to ask.
  EXPECT_THAT(errorOf(model, "s"), HasSubstr("is no surface"));
  std::vector<BodyId> surfaces;
  for (const Body& body : model.bodies)
    if (body.shape().kind() == BodyKind::Surface) surfaces.push_back(body.id);
  ASSERT_EQ(surfaces.size(), 8u);
  steps.back() = step("s", "sew", {{"surfaces", bodies(surfaces)}, {"closing", true}});
  const Model closed = made(documentOf(steps));
  ASSERT_FALSE(closed.failed()) << errorOf(closed, "s");
  EXPECT_NEAR(volume(closed, "s"), 6000, 1e-6);
  EXPECT_TRUE(closed.find("s")->shape().watertight());
  EXPECT_NEAR(areaOf(closed, "far"), 25, 1e-9) << "left as it was";
  EXPECT_NEAR(areaOf(closed, "flap"), 150, 1e-9);
  EXPECT_THAT(report(closed, "s").result->audit.notes.back(), HasSubstr("2 faces close nothing"));
  // Without one of the six nothing closes.
  std::erase(surfaces, surfaces.front());
  steps.back() = step("s", "sew", {{"surfaces", bodies(surfaces)}, {"closing", true}});
  EXPECT_THAT(errorOf(made(documentOf(steps)), "s"), HasSubstr("no faces among them close"));
}

}  // namespace
}  // namespace kervo
