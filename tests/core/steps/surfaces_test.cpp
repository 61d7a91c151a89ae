// Surfaces trimmed, intersected, extended, offset, thickened, sewn, taken apart and turned over.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <numbers>

#include "geom/curves/curve_body.h"
#include "geom/surface/sewn.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

FieldValue face(const char* body, const char* name) {
  return std::vector<FaceReference>{{body, name, std::nullopt}};
}

Step lift(const char* id, const char* body, const char* name) {
  return step(id, "lift", {{"faces", face(body, name)}});
}

/// A rod of radius 10 and height 40 about z, its side lifted as "s".
std::vector<Step> rodSide() {
  return {step("rod", "cylinder", {{"radius", Expression("10 mm")}, {"height", Expression("40 mm")}}),
          lift("s", "rod", "rod:side")};
}

/// Upright, 30 mm in front of the rod: u is x, v is z.
Step inFront(std::vector<DrawnCurve> curves) {
  return drawing("d", PlanePick::standard("xz"), std::move(curves));
}

Model with(std::vector<Step> steps, std::vector<Step> more, const std::vector<DimensionRow>& dimensions = {}) {
  steps.insert(steps.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
  return made(documentOf(steps, dimensions));
}

double areaOf(const Model& model, const BodyId& body) {
  const Body* found = model.find(body);
  if (!found) ADD_FAILURE() << "no body " << body;
  return found ? found->shape().area() : 0;
}

double areaOfFamily(const Model& model, const BodyId& family) {
  double area = 0;
  for (const Body& body : model.bodies)
    if (body.id.isOfFamily(family)) area += body.shape().area();
  return area;
}

std::vector<CutterPick> by(const char* drawing) {
  return {CutterPick::of(RegionPick{.drawing = drawing})};
}

constexpr double rodArea = 2 * pi * 10 * 40;
/// Of a circle of radius r projected on a cylinder of radius R, across its axis: 2·∫ 2·sqrt(r²−x²)/sqrt(1−x²/R²) dx.
double windowArea(double r, double big) {
  double sum = 0;
  constexpr int parts = 20'000;
  for (int i = 0; i < parts; ++i) {
    // By angle, so that neither end is steep.
    const double t = (i + 0.5) * pi / parts, x = r * std::cos(t);
    sum += 2 * r * std::sin(t) / std::sqrt(1 - x * x / big / big) * r * std::sin(t) * pi / parts;
  }
  return sum;
}

TEST(TrimStep, AWindowIsCutOnTheNearSideOnly) {
  const double window = windowArea(4, 10);
  for (const auto& [hits, holes] : {std::pair{"near side", 1}, {"far side", 1}, {"right through", 2}}) {
    const Model model =
        with(rodSide(), {inFront({circle("c", "0", "20", "4")}),
                         step("t", "trim", {{"stock", bodies({"s"})}, {"outlines", by("d")}, {"hits", text(hits)}})});
    ASSERT_FALSE(model.failed()) << errorOf(model, "t");
    EXPECT_NEAR(areaOfFamily(model, "s"), rodArea - holes * window, 1e-5 * window) << hits;
  }
  // The near side is that where the plane's normal points: the drawing's plane goes through the rod.
  const Model near = with(
      rodSide(), {inFront({circle("c", "0", "20", "4")}),
                  step("t", "trim", {{"stock", bodies({"s"})}, {"outlines", by("d")}, {"stays", text("inside")}})});
  ASSERT_FALSE(near.failed()) << errorOf(near, "t");
  ASSERT_EQ(near.bodies.size(), 2u) << "the rod and the window";
  EXPECT_LT(near.bodies[1].shape().box().high.y, -9);
}

TEST(TrimStep, MovingTheDrawingMovesTheHole) {
  for (const double height : {12.0, 25.0}) {
    const Model model =
        with(rodSide(),
             {inFront({circle("c", "0", "h", "3")}),
              step("t", "trim", {{"stock", bodies({"s"})}, {"outlines", by("d")}, {"stays", text("inside")}})},
             {{"h", Expression(std::to_string(height) + " mm")}});
    ASSERT_FALSE(model.failed()) << errorOf(model, "t");
    EXPECT_NEAR(model.bodies.back().shape().box().centre().z, height, 1e-4);
    EXPECT_EQ(model.bodies.back().id, "s/c+");
  }
}

TEST(TrimStep, IslandsStayAndPiecesAreChosen) {
  const std::vector<DrawnCurve> rings{circle("o", "0", "20", "6"), circle("i", "0", "20", "3")};
  const RegionPick ring{.drawing = "d", .all = false, .regions = {"i-.o+"}};
  const Model all = with(
      rodSide(),
      {inFront(rings), step("t", "trim", {{"stock", bodies({"s"})}, {"outlines", by("d")}, {"stays", text("all")}})});
  ASSERT_FALSE(all.failed()) << errorOf(all, "t");
  EXPECT_EQ(report(all, "t").result->pieces.size(), 3u);
  EXPECT_NEAR(areaOfFamily(all, "s"), rodArea, 1e-6 * rodArea);
  std::set<std::string> names;
  for (const Piece& piece : report(all, "t").result->pieces) names.insert(piece.key);
  EXPECT_EQ(names, (std::set<std::string>{"s/i+", "s/i-.o+", "s/outside"})) << "called as the drawing's regions are";
  const Model model = with(
      rodSide(),
      {inFront(rings),
       step("t", "trim", {{"stock", bodies({"s"})}, {"outlines", std::vector<CutterPick>{CutterPick::of(ring)}}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "t");
  EXPECT_NEAR(areaOfFamily(model, "s"), rodArea - windowArea(6, 10) + windowArea(3, 10), 1e-4);
  EXPECT_EQ(report(model, "t").result->pieces.size(), 3u) << "the island is a piece of its own";
}

TEST(TrimStep, TheSeamOfTheSurfaceDividesNothing) {
  // The rod's seam is at x = 10: a window there, drawn on the plane across y.
  const Model model = with(rodSide(), {drawing("d", PlanePick::standard("yz"), {circle("c", "0", "20", "4")}),
                                       step("t", "trim",
                                            {{"stock", bodies({"s"})},
                                             {"outlines", by("d")},
                                             {"hits", text("right through")},
                                             {"stays", text("all")}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "t");
  EXPECT_EQ(report(model, "t").result->pieces.size(), 3u) << "two windows and what is round them";
  for (const Body& each : model.bodies)
    if (each.id.isOfFamily("s")) {
      EXPECT_EQ(each.shape().faceCount(), 1) << each.id << ": the seam is put aside";
    }
  EXPECT_NEAR(areaOfFamily(model, "s"), rodArea, 1e-6 * rodArea);
}

TEST(TrimStep, TheSeamsOfSeveralFacesDivideNothing) {
  // The rod's side with the round at its top: a window over both, where their seams are.
  std::vector<Step> steps{
      step("rod", "cylinder", {{"radius", Expression("10 mm")}, {"height", Expression("40 mm")}}),
      step("r", "round",
           {{"edges", std::vector<EdgeReference>{{"rod", "rod:side", "rod:top", {}}}}, {"radius", Expression("4 mm")}}),
      step("s", "lift",
           {{"faces", std::vector<FaceReference>{{"rod", "rod:side", std::nullopt},
                                                 {"rod", "r:blend:(rod:side|rod:top)", std::nullopt}}}})};
  steps.push_back(drawing("d", PlanePick::standard("yz"), {circle("c", "0", "36", "3")}));
  steps.push_back(
      step("t", "trim",
           {{"stock", bodies({"s"})}, {"outlines", by("d")}, {"hits", text("right through")}, {"stays", text("all")}}));
  const Model model = made(documentOf(steps));
  ASSERT_FALSE(model.failed()) << errorOf(model, "t");
  EXPECT_EQ(report(model, "t").result->pieces.size(), 3u);
  for (const Body& each : model.bodies)
    if (each.id.isOfFamily("s")) {
      EXPECT_EQ(each.shape().faceCount(), 2) << each.id << ": of the side and of the round";
    }
  const double round = 2 * pi * (pi / 2 * 4 * 6 + 16);  // Guldin: of a quarter of a circle about an axis 6 mm away
  EXPECT_NEAR(areaOfFamily(model, "s"), 2 * pi * 10 * 36 + round, 1e-6 * rodArea);
}

TEST(TrimStep, TheSeamOfASurfaceWithAWindowDividesNoMark) {
  // A window at the rod's far side; then a mark where the seam is.
  std::vector<Step> steps = rodSide();
  steps.push_back(drawing("e", PlanePick::standard("yz"), {circle("c", "0", "20", "3")}));
  steps.push_back(step(
      "w", "trim",
      {{"stock", bodies({"s"})}, {"outlines", by("e")}, {"stays", text("outside")}, {"hits", text("right through")}}));
  steps.push_back(drawing("d", PlanePick::standard("yz"), {circle("c", "0", "32", "4")}));
  steps.push_back(
      step("t", "trim",
           {{"stock", bodies({"s"})}, {"outlines", by("d")}, {"hits", text("right through")}, {"stays", text("all")}}));
  const Model model = made(documentOf(steps));
  ASSERT_FALSE(model.failed()) << errorOf(model, "w") << errorOf(model, "t");
  int marks = 0;
  for (const Body& each : model.bodies)
    if (each.id.isOfFamily("s")) {
      EXPECT_EQ(each.shape().faceCount(), 1) << each.id;
      ++marks;
    }
  EXPECT_EQ(marks, 3);
}

TEST(TrimStep, TakesPlanesBodiesAndFacesToo) {
  const Model byPlane = with(
      rodSide(), {step("t", "trim", {{"stock", bodies({"s"})}, {"outlines", cutBy("yz")}, {"stays", text("all")}})});
  ASSERT_FALSE(byPlane.failed()) << errorOf(byPlane, "t");
  EXPECT_NEAR(areaOf(byPlane, "s/front"), rodArea / 2, 1e-6);
  EXPECT_NEAR(areaOf(byPlane, "s/back"), rodArea / 2, 1e-6);
  const Model byBody = with(
      rodSide(),
      {block("b", "30", "30", "15", {"-15", "-15", "0"}),
       step("t", "trim", {{"stock", bodies({"s"})}, {"outlines", std::vector<CutterPick>{CutterPick::ofBody("b")}}})});
  ASSERT_FALSE(byBody.failed()) << errorOf(byBody, "t");
  EXPECT_NEAR(areaOfFamily(byBody, "s"), 2 * pi * 10 * 25, 1e-6);
  // A face of a solid becomes a surface of its own; the solid stays.
  const Model byFace =
      with(rodSide(), {inFront({circle("c", "0", "20", "4")}),
                       step("t", "trim", {{"faces", face("rod", "rod:side")}, {"outlines", by("d")}})});
  ASSERT_FALSE(byFace.failed()) << errorOf(byFace, "t");
  EXPECT_NEAR(volume(byFace, "rod"), pi * 100 * 40, 1e-6);
  EXPECT_NEAR(areaOfFamily(byFace, "t"), rodArea - windowArea(4, 10), 1e-4);
}

TEST(TrimStep, SaysWhyNothingIsTrimmed) {
  const auto told = [](std::vector<DrawnCurve> curves) {
    return errorOf(with(rodSide(), {inFront(std::move(curves)),
                                    step("t", "trim", {{"stock", bodies({"s"})}, {"outlines", by("d")}})}),
                   "t");
  };
  EXPECT_THAT(told({circle("c", "30", "20", "4")}), HasSubstr("the drawing misses \"s\""));
  DrawnCurve line{"l", "line", {}};
  for (const char* number : {"-3", "10", "3", "30"}) line.numbers.emplace_back(number);
  EXPECT_THAT(told({line}), HasSubstr("a curve ends inside \"s\""));
  EXPECT_THAT(
      errorOf(with(rodSide(), {step("t", "trim", {{"stock", bodies({"rod"})}, {"outlines", cutBy("yz")}})}), "t"),
      HasSubstr("\"rod\" is no surface"));
}

TEST(ProjectStep, LiesOnTheFacesAndWrapsWithTrueLengths) {
  DrawnCurve line{"l", "line", {}};
  for (const char* number : {"0", "10", "25", "30"}) line.numbers.emplace_back(number);
  const Model wrapped =
      with(rodSide(), {inFront({line}), step("p", "project",
                                             {{"drawing", StepPick{"d"}},
                                              {"how", text("wrapped")},
                                              {"face", FaceReference{"rod", "rod:side", std::nullopt}}})});
  ASSERT_FALSE(wrapped.failed()) << errorOf(wrapped, "p");
  EXPECT_NEAR(lengthOfCurve(wrapped.find("p")->shape()), std::hypot(25, 20), 1e-6) << "a helix as long as the line";
  const Model along =
      with(rodSide(),
           {inFront({circle("c", "0", "20", "4")}),
            step("p", "project", {{"drawing", StepPick{"d"}}, {"onto", bodies({"rod"})}, {"hits", text("all")}})});
  ASSERT_FALSE(along.failed()) << errorOf(along, "p");
  EXPECT_EQ(closedChainCount(along.find("p")->shape()), 2);
  // A line wider than the rod is near on half of the circle that it makes.
  DrawnCurve wide{"l", "line", {}};
  for (const char* number : {"-20", "20", "20", "20"}) wide.numbers.emplace_back(number);
  const Model half =
      with(rodSide(), {inFront({wide}), step("p", "project", {{"drawing", StepPick{"d"}}, {"onto", bodies({"rod"})}})});
  ASSERT_FALSE(half.failed()) << errorOf(half, "p");
  EXPECT_NEAR(lengthOfCurve(half.find("p")->shape()), pi * 10, 1e-4);
  EXPECT_LT(middleOfCurve(half.find("p")->shape()).y, -9.9);
  // An upright edge 20 mm beside the rod comes onto it as long as it is.
  const Model normals =
      with(rodSide(), {block("e", "5", "5", "20", {"-2.5", "-30", "10"}),
                       step("p", "project",
                            {{"edges", std::vector<EdgeReference>{{"e", "e:back", "e:left", Point{-2.5, -25, 20}}}},
                             {"how", text("along the faces' normals")},
                             {"onto", bodies({"s"})}})});
  ASSERT_FALSE(normals.failed()) << errorOf(normals, "p");
  EXPECT_NEAR(lengthOfCurve(normals.find("p")->shape()), 20, 1e-3);
  EXPECT_THAT(errorOf(with(rodSide(), {step("p", "project",
                                            {{"how", text("along the faces' normals")}, {"onto", bodies({"rod"})}})}),
                      "p"),
              HasSubstr("no curve, edge or drawing is chosen"));
}

TEST(IntersectStep, EachIsDividedByAllOthersAndSewnToASolid) {
  // Three planes' worth of surfaces off blocks cross each other: a cube is closed by six of them.
  std::vector<Step> steps{block("a", "40", "40", "10", {"-20", "-20", "0"}),
                          block("b", "40", "10", "40", {"-20", "0", "-20"}),
                          block("c", "10", "40", "40", {"0", "-20", "-20"})};
  for (const auto& [id, body, name] : {std::tuple{"a1", "a", "a:top"},
                                       {"a2", "a", "a:bottom"},
                                       {"b1", "b", "b:front"},
                                       {"b2", "b", "b:back"},
                                       {"c1", "c", "c:left"},
                                       {"c2", "c", "c:right"}})
    steps.push_back(lift(id, body, name));
  const BodyPick six = bodies({"a1", "a2", "b1", "b2", "c1", "c2"});
  steps.push_back(step("x", "intersect", {{"bodies", six}}));
  const Model parts = made(documentOf(steps));
  ASSERT_FALSE(parts.failed()) << errorOf(parts, "x");
  EXPECT_EQ(report(parts, "x").result->pieces.size(), 6u * 9) << "each by four others into nine";
  for (const char* id : {"a1", "b2", "c1"}) EXPECT_NEAR(areaOfFamily(parts, id), 1600, 1e-6);
  PieceChoice choice;
  for (const Piece& piece : report(parts, "x").result->pieces)
    if (piece.area > 100 + 1e-6 || distance(piece.place, {5, 5, 5}) > 6) choice.drop.push_back(piece.key);
  steps.back() = step("x", "intersect", {{"bodies", six}, {"sew", text("a solid")}, {"pieces", choice}});
  const Model solid = made(documentOf(steps));
  ASSERT_FALSE(solid.failed()) << errorOf(solid, "x");
  EXPECT_NEAR(volume(solid, "x"), 1000, 1e-6);
  EXPECT_EQ(solid.find("x")->shape().kind(), BodyKind::Solid);
  steps.back() = step("x", "intersect", {{"bodies", six}, {"gives", text("curves")}});
  const Model curves = made(documentOf(steps));
  ASSERT_FALSE(curves.failed()) << errorOf(curves, "x");
  EXPECT_NEAR(lengthOfCurve(curves.find("x")->shape()), 12 * 40, 1e-6);
}

TEST(ExtendStep, ByALengthAtEdgesAndUntilThrough) {
  const std::vector<Step> top{block("b", "20", "30", "10"), lift("s", "b", "b:top")};
  const Model one = with(top, {step("e", "extend",
                                    {{"surfaces", bodies({"s"})},
                                     {"edges", std::vector<EdgeReference>{{"s", "b:top", "", Point{20, 15, 10}}}},
                                     {"by", Expression("7 mm")}})});
  ASSERT_FALSE(one.failed()) << errorOf(one, "e");
  EXPECT_NEAR(areaOf(one, "s"), 27 * 30, 1e-6);
  // A channel of three faces with two corners reaches through a block in one step.
  const std::vector<Step> channel{
      block("b", "20", "30", "10"),
      step("s", "lift",
           {{"faces", std::vector<FaceReference>{{"b", "b:top", {}}, {"b", "b:left", {}}, {"b", "b:right", {}}}}}),
      block("stock", "40", "80", "40", {"-10", "-25", "-15"})};
  const Model through = with(
      channel, {step("e", "extend",
                     {{"surfaces", bodies({"s"})}, {"reach", text("until through")}, {"until", bodies({"stock"})}}),
                step("t", "split",
                     {{"stock", bodies({"stock"})}, {"cutters", std::vector<CutterPick>{CutterPick::ofBody("s")}}})});
  ASSERT_FALSE(through.failed()) << errorOf(through, "e") << errorOf(through, "t");
  double sum = 0;
  for (const Body& body : through.bodies)
    if (body.id.isOfFamily("stock")) sum += body.shape().volume();
  EXPECT_NEAR(sum, 40 * 80 * 40, 1e-3);
  EXPECT_GE(through.bodies.size(), 4u);
  // As it runs a cylinder stays one.
  const Model runs = with(
      rodSide(),
      {step("e", "extend", {{"surfaces", bodies({"s"})}, {"by", Expression("5 mm")}, {"way", text("as it runs")}})});
  ASSERT_FALSE(runs.failed()) << errorOf(runs, "e");
  EXPECT_NEAR(areaOf(runs, "s"), 2 * pi * 10 * 50, 1e-6);
  EXPECT_EQ(runs.find("s")->shape().faceCount(), 1);
}

TEST(OffsetStep, KeepsItsDistanceAndSaysWhereItWouldFold) {
  const Model out =
      with(rodSide(), {step("o", "offset_surface", {{"surface", bodies({"s"})}, {"by", Expression("3 mm")}})});
  ASSERT_FALSE(out.failed()) << errorOf(out, "o");
  EXPECT_NEAR(areaOf(out, "o"), 2 * pi * 13 * 40, 1e-6);
  const Model in =
      with(rodSide(),
           {step("o", "offset_surface", {{"surface", bodies({"s"})}, {"by", Expression("10 mm")}, {"flip", true}})});
  EXPECT_THAT(errorOf(in, "o"), HasSubstr("bent with a radius of 10 mm"));
  EXPECT_FALSE(report(in, "o").finding->gap.empty()) << "the place is shown";
}

TEST(ThickenStep, GivesSolidsToEitherSideOrBoth) {
  for (const auto& [side, inner, outer] : {std::tuple{"front", 10.0, 12.0}, {"back", 8.0, 10.0}, {"both", 9.0, 11.0}}) {
    const Model model = with(
        rodSide(),
        {step("t", "thicken", {{"surfaces", bodies({"s"})}, {"thickness", Expression("2 mm")}, {"side", text(side)}})});
    ASSERT_FALSE(model.failed()) << errorOf(model, "t");
    EXPECT_NEAR(volume(model, "s"), pi * (outer * outer - inner * inner) * 40, 1e-4) << side;
    EXPECT_TRUE(model.find("s")->shape().watertight());
  }
  EXPECT_THAT(
      errorOf(with(rodSide(),
                   {step("t", "thicken",
                         {{"surfaces", bodies({"s"})}, {"thickness", Expression("12 mm")}, {"side", text("back")}})}),
              "t"),
      HasSubstr("would fold at"));
}

TEST(SewStep, ClosesTellsWhatIsOpenAndComesApart) {
  std::vector<Step> steps{block("b", "20", "30", "10")};
  std::vector<BodyId> six;
  for (const char* name : {"top", "bottom", "left", "right", "front", "back"}) {
    steps.push_back(lift(name, "b", ("b:" + std::string(name)).c_str()));
    six.emplace_back(name);
  }
  const Model closed = with(steps, {step("x", "sew", {{"surfaces", bodies(six)}})});
  ASSERT_FALSE(closed.failed()) << errorOf(closed, "x");
  EXPECT_EQ(closed.find("top")->shape().kind(), BodyKind::Solid);
  EXPECT_NEAR(volume(closed, "top"), 6000, 1e-6);
  EXPECT_EQ(closed.bodies.size(), 2u);
  six.pop_back();
  const Model open = with(steps, {step("x", "sew", {{"surfaces", bodies(six)}})});
  ASSERT_FALSE(open.failed()) << errorOf(open, "x");
  EXPECT_EQ(open.find("top")->shape().kind(), BodyKind::Surface);
  EXPECT_THAT(report(open, "x").result->audit.notes.front(), HasSubstr("4 edges are open"));
  EXPECT_EQ(report(open, "x").finding->gap.size(), 4u);
  EXPECT_THAT(errorOf(with(steps, {step("x", "sew", {{"surfaces", bodies(six)}, {"gives", text("a solid")}})}), "x"),
              HasSubstr("4 edges are open"));
  const Model capped = with(steps, {step("x", "sew", {{"surfaces", bodies(six)}, {"cap", true}})});
  ASSERT_FALSE(capped.failed()) << errorOf(capped, "x");
  EXPECT_NEAR(volume(capped, "top"), 6000, 1e-6);
  const Model apart = with(steps, {step("u", "unsew", {{"bodies", bodies({"b"})}})});
  ASSERT_FALSE(apart.failed()) << errorOf(apart, "u");
  EXPECT_EQ(report(apart, "u").result->pieces.size(), 6u);
  EXPECT_NEAR(areaOf(apart, "b/top"), 600, 1e-9);
}

TEST(SewStep, AHollowStaysAHollow) {
  // In the hollow of a block lies another block.
  const Model model = with({block("b", "30", "30", "30"), block("c", "10", "10", "10", {"10", "10", "10"}),
                            step("h", "combine", {{"stock", bodies({"b"})}, {"cutters", bodies({"c"})}}),
                            block("d", "4", "4", "4", {"13", "13", "13"})},
                           {step("u", "unsew", {{"bodies", bodies({"b", "d"})}}),
                            step("x", "sew", {{"surfaces", bodies({"b", "d"})}, {"gives", text("a solid")}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "h") << errorOf(model, "u") << errorOf(model, "x");
  double sum = 0;
  for (const Body& body : model.bodies) sum += body.shape().volume();
  EXPECT_NEAR(sum, 27000 - 1000 + 64, 1e-6);
}

TEST(SewStep, ToleranceClosesAGapAndSaysSo) {
  // The lid lies 0.05 mm above the box.
  std::vector<Step> steps{block("b", "20", "30", "10"), block("l", "20", "30", "10", {"0", "0", "0.05"}),
                          step("box", "lift",
                               {{"faces", std::vector<FaceReference>{{"b", "b:bottom", {}},
                                                                     {"b", "b:left", {}},
                                                                     {"b", "b:right", {}},
                                                                     {"b", "b:front", {}},
                                                                     {"b", "b:back", {}}}}}),
                          lift("lid", "l", "l:top")};
  const Model tight = with(steps, {step("x", "sew", {{"surfaces", bodies({"box", "lid"})}})});
  ASSERT_FALSE(tight.failed()) << errorOf(tight, "x");
  EXPECT_THAT(report(tight, "x").result->audit.notes.front(), HasSubstr("8 edges are open"));
  EXPECT_THAT(report(tight, "x").result->audit.notes.front(), HasSubstr("0.05 mm"));
  const Model loose =
      with(steps, {step("x", "sew", {{"surfaces", bodies({"box", "lid"})}, {"tolerance", Expression("0.1 mm")}})});
  ASSERT_FALSE(loose.failed()) << errorOf(loose, "x");
  EXPECT_EQ(loose.find("box")->shape().kind(), BodyKind::Solid);
  EXPECT_NEAR(volume(loose, "box"), 6000, 600 * 0.06);
  EXPECT_FALSE(report(loose, "x").result->audit.warnings.empty()) << "that it is less exact";
}

TEST(FlipStep, TurnsTheFrontRound) {
  const Model model = with({block("b", "20", "30", "10"), lift("s", "b", "b:top")},
                           {step("f", "flip_surface", {{"surfaces", bodies({"s"})}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "f");
  EXPECT_NEAR(facesOf(model.find("s")->shape()).front().normal().z, -1, 1e-12);
  EXPECT_NEAR(areaOf(model, "s"), 600, 1e-9);
}

TEST(MakeSolidStep, TakesAClosedSurfaceEvenInsideOut) {
  const Model model = with({step("ball", "sphere", {{"radius", Expression("5 mm")}}),
                            step("s", "lift", {{"faces", face("ball", "ball:side")}})},
                           {step("f", "flip_surface", {{"surfaces", bodies({"s"})}}),
                            step("m", "make_solid", {{"surfaces", bodies({"s"})}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "s") << errorOf(model, "m");
  EXPECT_NEAR(volume(model, "s"), 4.0 / 3 * pi * 125, 1e-6);
  EXPECT_THAT(errorOf(with(rodSide(), {step("m", "make_solid", {{"surfaces", bodies({"s"})}})}), "m"),
              HasSubstr("2 edges are open"));
}

}  // namespace
}  // namespace kervo
