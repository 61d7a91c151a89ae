// Curve bodies: lifted, split, joined, lengthened, and their control points.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <numbers>

#include "geom/curves/curve_body.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

DrawnCurve byNumbers(const char* id, const char* kind, std::vector<const char*> numbers) {
  DrawnCurve curve{id, kind, {}};
  for (const char* number : numbers) curve.numbers.emplace_back(number);
  return curve;
}

/// Drawn on the ground and lifted as "c".
std::vector<Step> lifted(std::vector<DrawnCurve> curves) {
  return {drawing("d", PlanePick::standard("xy"), std::move(curves)), step("c", "curve", {{"drawing", StepPick{"d"}}})};
}

Model with(std::vector<Step> steps, std::vector<Step> more) {
  steps.insert(steps.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
  return made(documentOf(steps));
}

double lengthOf(const Model& model, const BodyId& body) {
  const Body* found = model.find(body);
  if (!found) ADD_FAILURE() << "no body " << body;
  return found ? lengthOfCurve(found->shape()) : 0;
}

const BodyPick theCurve = BodyPick::only({"c"});

TEST(CurveStep, LiftsEdgesAndDrawingsAndFollowsThem) {
  for (const double radius : {5.0, 8.0}) {
    Document document =
        documentOf({step("rod", "cylinder", {{"radius", Expression("r")}, {"height", Expression("20 mm")}}),
                    step("rim", "curve", {{"edges", std::vector<EdgeReference>{{"rod", "rod:top", "rod:side", {}}}}}),
                    drawing("d", PlanePick::standard("xy"), {byNumbers("l", "line", {"0", "0", "r", "0"})}),
                    step("line", "curve", {{"drawing", StepPick{"d"}}})});
    document.made.dimensions = {{"r", Expression(std::to_string(radius) + " mm")}};
    const Model model = made(document);
    ASSERT_FALSE(model.failed()) << errorOf(model, "rim");
    EXPECT_EQ(model.find("rim")->shape().kind(), BodyKind::Curve);
    EXPECT_NEAR(lengthOf(model, "rim"), 2 * pi * radius, 1e-7);
    EXPECT_EQ(closedChainCount(model.find("rim")->shape()), 1);
    EXPECT_NEAR(lengthOf(model, "line"), radius, 1e-9);
  }
  EXPECT_THAT(errorOf(made(documentOf({step("c", "curve", {})})), "c"), HasSubstr("no edge and no drawing is chosen"));
  EXPECT_THAT(errorOf(made(documentOf({step("c", "curve", {{"drawing", StepPick{"x"}}})})), "c"),
              HasSubstr("there is no drawing"));
}

Step splitBy(std::vector<CutterPick> cutters, std::map<std::string, FieldValue> more = {}) {
  more.try_emplace("stock", theCurve);
  more.try_emplace("cutters", std::move(cutters));
  return step("s", "split", std::move(more));
}

TEST(CurveStep, PlanesSplitACurveAndPiecesAreDropped) {
  // A circle of radius 10 about the origin: yz halves it.
  const std::vector<Step> circle = lifted({byNumbers("k", "circle", {"0", "0", "10"})});
  const CutterPick yz = CutterPick::of(PlanePick::standard("yz")), xz = CutterPick::of(PlanePick::standard("xz"));
  const Model halves = with(circle, {splitBy({yz})});
  ASSERT_FALSE(halves.failed()) << errorOf(halves, "s");
  EXPECT_NEAR(lengthOf(halves, "c/front"), 10 * pi, 1e-7);
  EXPECT_NEAR(lengthOf(halves, "c/back"), 10 * pi, 1e-7);
  EXPECT_GT(middleOfCurve(halves.find("c/front")->shape()).x, 9.9);
  const Model quarters = with(circle, {splitBy({yz, xz}, {{"keep", text("front")}})});
  ASSERT_FALSE(quarters.failed()) << errorOf(quarters, "s");
  double left = 0;
  for (const Body& body : quarters.bodies) left += lengthOfCurve(body.shape());
  EXPECT_NEAR(left, 5 * pi, 1e-7) << "one quarter stays";
  const Model trimmed = with(circle, {splitBy({yz}, {{"pieces", PieceChoice{{}, {"c/back"}, {}}}})});
  EXPECT_EQ(trimmed.bodies.size(), 1u);
  // A kerf divides no curve, and a plane beside it neither; both are said.
  EXPECT_THAT(errorOf(with(circle, {splitBy({yz}, {{"kerf", Expression("1 mm")}})}), "s"),
              HasSubstr("make the kerf 0"));
  EXPECT_THAT(errorOf(with(circle, {splitBy({xz}, {{"offset", Expression("30 mm")}})}), "s"),
              HasSubstr("no cutter meets"));
}

TEST(CurveStep, SolidsSurfacesAndCurvesSplitACurve) {
  std::vector<Step> steps = lifted({byNumbers("k", "line", {"-30", "0", "30", "0"})});
  steps.push_back(block("b", "20", "20", "20", {"-10", "-10", "-10"}));
  const Model solid = with(steps, {splitBy({CutterPick::ofBody("b")})});
  ASSERT_FALSE(solid.failed()) << errorOf(solid, "s");
  EXPECT_NEAR(lengthOf(solid, "c/inside"), 20, 1e-9);
  EXPECT_NEAR(lengthOf(solid, "c/outside 1"), 20, 1e-9);
  EXPECT_NEAR(lengthOf(solid, "c/outside 2"), 20, 1e-9);
  const Model sheet = with(steps, {step("f", "lift", {{"faces", std::vector{FaceReference{"b", "b:right", {}}}}}),
                                   splitBy({CutterPick::ofBody("f")}, {{"extent", text("finite")}})});
  ASSERT_FALSE(sheet.failed()) << errorOf(sheet, "s");
  EXPECT_NEAR(lengthOf(sheet, "c/part 1") + lengthOf(sheet, "c/part 2"), 60, 1e-9);
  EXPECT_NEAR(std::min(lengthOf(sheet, "c/part 1"), lengthOf(sheet, "c/part 2")), 20, 1e-9);
  // Another curve, which spares solids.
  const Model curve =
      with(steps, {drawing("e", PlanePick::standard("xz"), {byNumbers("k", "circle", {"5", "0", "15"})}),
                   step("o", "curve", {{"drawing", StepPick{"e"}}}),
                   splitBy({CutterPick::ofBody("o")}, {{"stock", BodyPick::everything()}})});
  ASSERT_FALSE(curve.failed()) << errorOf(curve, "s");
  EXPECT_NEAR(lengthOf(curve, "c/part 1") + lengthOf(curve, "c/part 3"), 30, 1e-7);
  EXPECT_NEAR(lengthOf(curve, "c/part 2"), 30, 1e-7);
  EXPECT_TRUE(curve.find("b"));
}

TEST(CurveStep, EndsAreJoinedWithinAGap) {
  std::vector<Step> steps{
      drawing("d", PlanePick::standard("xy"),
              {byNumbers("a", "line", {"0", "0", "10", "0"}), byNumbers("b", "line", {"10.05", "0", "10", "8"})}),
      step("c", "curve", {{"drawing", StepPick{"d"}}}),
      drawing("e", PlanePick::standard("xy"), {byNumbers("a", "line", {"10", "8", "0", "0.05"})}),
      step("o", "curve", {{"drawing", StepPick{"e"}}})};
  const auto joined = [&](const char* gap) {
    return with(steps, {step("j", "join", {{"curves", BodyPick::only({"c", "o"})}, {"gap", Expression(gap)}})});
  };
  const Model closed = joined("0.1 mm");
  ASSERT_FALSE(closed.failed()) << errorOf(closed, "j");
  EXPECT_EQ(closed.bodies.size(), 1u);
  EXPECT_EQ(closedChainCount(closed.find("c")->shape()), 1);
  EXPECT_NEAR(lengthOf(closed, "c"), 10 + std::hypot(0.05, 8) + std::hypot(10, 7.95) + 0.05 + 0.05, 1e-9);
  EXPECT_THAT(
      report(closed, "j").result->audit.notes,
      testing::ElementsAre("3 joints are made", "2 gaps are bridged with straight edges", "the curve is closed"));
  const Model open = joined("0.01 mm");
  ASSERT_FALSE(open.failed()) << errorOf(open, "j");
  EXPECT_EQ(chainCount(open.find("c")->shape()), 2) << "only the ends that touch";
  std::vector<Step> apart{steps[0], steps[1]};
  EXPECT_THAT(errorOf(with(apart, {step("j", "join", {{"curves", theCurve}, {"gap", Expression("0.01 mm")}})}), "j"),
              HasSubstr("no two ends are nearer than 0.01 mm"));
  EXPECT_THAT(errorOf(with({block("b", "1", "1", "1")}, {step("j", "join", {{"curves", BodyPick::only({"b"})}})}), "j"),
              HasSubstr("\"b\" is no curve"));
}

Step lengthen(std::map<std::string, FieldValue> fields) {
  fields.try_emplace("curves", theCurve);
  return step("l", "lengthen", std::move(fields));
}

TEST(CurveStep, CurvesGoOnByALengthOrUntilSomething) {
  const std::vector<Step> arc = lifted({byNumbers("k", "arc", {"0", "0", "10", "0", "90"})});
  const Model straight = with(arc, {lengthen({{"by", Expression("5 mm")}, {"ends", text("both ends")}})});
  ASSERT_FALSE(straight.failed()) << errorOf(straight, "l");
  EXPECT_NEAR(lengthOf(straight, "c"), 5 * pi + 10, 1e-7);
  EXPECT_NEAR(straight.find("c")->shape().roughBox().low.x, -5, 1e-6);
  EXPECT_NEAR(straight.find("c")->shape().roughBox().low.y, -5, 1e-6);
  EXPECT_EQ(report(straight, "l").result->gauges.size(), 1u);
  EXPECT_NEAR(report(straight, "l").result->pieces.front().length, 5 * pi + 10, 1e-7);
  const Model round = with(arc, {lengthen({{"by", Expression("5 mm")}, {"way", text("as it runs")}})});
  EXPECT_NEAR(lengthOf(round, "c"), 5 * pi + 5, 1e-7);
  EXPECT_NEAR(distance(middleOfCurve(round.find("c")->shape()), {}), 10, 1e-9);
  EXPECT_THAT(errorOf(with(arc, {lengthen({{"by", Expression("50 mm")}, {"way", text("as it runs")}})}), "l"),
              HasSubstr("go round more than once"));
  const std::vector<CutterPick> xz{CutterPick::of(PlanePick::standard("xz"))};
  const Model until = with(arc, {lengthen({{"reach", text("until")}, {"until", xz}, {"way", text("as it runs")}})});
  ASSERT_FALSE(until.failed()) << errorOf(until, "l");
  EXPECT_NEAR(lengthOf(until, "c"), 10 * pi, 1e-7);
  EXPECT_THAT(errorOf(with(arc, {lengthen({{"reach", text("until")}, {"until", xz}})}), "l"),
              HasSubstr("meets nothing"));
  EXPECT_THAT(errorOf(with(lifted({byNumbers("k", "circle", {"0", "0", "10"})}), {lengthen({})}), "l"),
              HasSubstr("a closed curve has no end"));
}

TEST(CurveStep, ASplineGoesOnAsItsLastSpan) {
  // v = u² / 10 from u = 0 to 10, on to the plane x = 15.
  const auto value = allStepKinds().find("drawing")->field("curves")->fromJson(
      nlohmann::json::parse(
          R"({"points": [{"id": "a", "at": [0, 0]}, {"id": "b", "at": [5, 0]}, {"id": "c", "at": [10, 10]}],
                     "curves": [{"id": "s", "control_spline": {"points": ["a", "b", "c"], "degree": 2}}]})"),
      "here");
  const Model model =
      made(documentOf({step("d", "drawing", {{"curves", value}}), step("c", "curve", {{"drawing", StepPick{"d"}}}),
                       step("p", "plane", {{"from", PlanePick::standard("yz")}, {"offset", Expression("15 mm")}}),
                       lengthen({{"reach", text("until")},
                                 {"until", std::vector<CutterPick>{CutterPick::of(PlanePick::ofStep("p"))}},
                                 {"way", text("as it runs")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "l");
  const Shape& curve = model.find("c")->shape();
  // The length of a parabola v = a u²: u/2 √(1+4a²u²) + asinh(2au) / 4a.
  const double a = 0.1, u = 15, root = std::sqrt(1 + 4 * a * a * u * u);
  EXPECT_NEAR(lengthOfCurve(curve), u / 2 * root + std::asinh(2 * a * u) / (4 * a), 1e-7);
  EXPECT_NEAR(curve.box().high.y, 22.5, 1e-6);
}

TEST(CurveStep, ControlPointsAreMovedAndRemoved) {
  // Two lines with a corner at (10, 0).
  const std::vector<Step> corner =
      lifted({byNumbers("a", "line", {"0", "0", "10", "0"}), byNumbers("b", "line", {"10", "0", "10", "10"})});
  const auto changed = [&](std::map<std::string, FieldValue> fields) {
    fields.try_emplace("curve", theCurve);
    return with(corner, {step("p", "control_point", std::move(fields))});
  };
  const Model moved = changed({{"number", Expression("2")}, {"x", Expression("-10 mm")}, {"z", Expression("5 mm")}});
  ASSERT_FALSE(moved.failed()) << errorOf(moved, "p");
  EXPECT_NEAR(lengthOf(moved, "c"), 5 + std::sqrt(100 + 100 + 25), 1e-9);
  EXPECT_EQ(controlPointsOf(moved.find("c")->shape()).at(0).size(), 3u);
  EXPECT_EQ(report(moved, "p").result->gauges.size(), 3u);
  const Model removed = changed({{"number", Expression("2")}, {"what", text("remove")}});
  EXPECT_NEAR(lengthOf(removed, "c"), std::sqrt(200), 1e-9);
  const Model shorter = changed({{"number", Expression("3")}, {"what", text("remove")}});
  EXPECT_NEAR(lengthOf(shorter, "c"), 10, 1e-9);
  EXPECT_THAT(errorOf(changed({{"number", Expression("4")}}), "p"), HasSubstr("there is no control point 4"));
  EXPECT_THAT(errorOf(changed({{"number", Expression("1")}, {"x", Expression("10 mm")}}), "p"),
              HasSubstr("an edge would have no length"));
}

TEST(CurveStep, AnArcWithAControlPointMovedIsASpline) {
  const std::vector<Step> arc = lifted({byNumbers("k", "arc", {"0", "0", "10", "0", "90"})});
  const Model moved = with(
      arc, {step("p", "control_point", {{"curve", theCurve}, {"number", Expression("2")}, {"z", Expression("3 mm")}})});
  ASSERT_FALSE(moved.failed()) << errorOf(moved, "p");
  const std::vector<Point> points = controlPointsOf(moved.find("c")->shape()).at(0);
  EXPECT_NEAR(points.at(1).z, 3, 1e-9);
  EXPECT_GT(moved.find("c")->shape().box().high.z, 0.5);
  // Its ends stay.
  EXPECT_NEAR(distance(points.front(), {10, 0, 0}), 0, 1e-9);
  EXPECT_NEAR(distance(points.back(), {0, 10, 0}), 0, 1e-9);
  const Model line = with(
      arc, {step("p", "control_point", {{"curve", theCurve}, {"number", Expression("2")}, {"what", text("remove")}})});
  EXPECT_NEAR(lengthOf(line, "c"), std::sqrt(200), 1e-9);
}

}  // namespace
}  // namespace kervo
