// Curves through points, in space and on faces; curves refitted; control points added.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/curves/curve_body.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

/// Points made by steps, called p1, p2 …
std::vector<Step> pointsAt(const std::vector<Point>& places) {
  std::vector<Step> steps;
  for (const Point& place : places) {
    const auto mm = [](double x) { return std::to_string(x) + " mm"; };
    steps.push_back(
        step("p" + std::to_string(steps.size() + 1), "point", {{"at", point(mm(place.x), mm(place.y), mm(place.z))}}));
  }
  return steps;
}

std::vector<PointReference> picked(std::size_t count) {
  std::vector<PointReference> points;
  for (std::size_t i = 1; i <= count; ++i) points.push_back(PointReference::ofDatum(BodyId("p" + std::to_string(i))));
  return points;
}

Model through(const std::vector<Point>& places, std::map<std::string, FieldValue> fields,
              std::vector<Step> before = {}) {
  std::vector<Step> steps = std::move(before);
  for (Step& each : pointsAt(places)) steps.push_back(std::move(each));
  fields.insert_or_assign("points", picked(places.size()));
  steps.push_back(step("c", "through_points", std::move(fields)));
  return made(documentOf(steps));
}

double lengthIn(const Model& model, const BodyId& body) {
  const Body* found = model.find(body);
  if (!found) ADD_FAILURE() << "no body " << body;
  return found ? lengthOfCurve(found->shape()) : 0;
}

TEST(ThroughPointsStep, LinesArcsAndSplines) {
  const Model lines = through({{0, 0, 0}, {30, 0, 0}, {30, 40, 0}}, {{"kind", text("lines")}});
  ASSERT_FALSE(lines.failed()) << errorOf(lines, "c");
  EXPECT_NEAR(lengthIn(lines, "c"), 70, 1e-9);
  const Model closed = through({{0, 0, 0}, {30, 0, 0}, {30, 40, 0}}, {{"kind", text("lines")}, {"closed", true}});
  EXPECT_NEAR(lengthIn(closed, "c"), 120, 1e-9);
  const Model arc = through({{10, 0, 5}, {0, 10, 5}, {-10, 0, 5}}, {{"kind", text("arc")}});
  ASSERT_FALSE(arc.failed()) << errorOf(arc, "c");
  EXPECT_NEAR(lengthIn(arc, "c"), 10 * pi, 1e-9);
  const Model circle = through({{10, 0, 5}, {0, 10, 5}, {-10, 0, 5}}, {{"kind", text("arc")}, {"closed", true}});
  EXPECT_NEAR(lengthIn(circle, "c"), 20 * pi, 1e-9);
  std::vector<Point> round;
  for (int i = 0; i < 16; ++i) round.push_back({10 * std::cos(i * pi / 8), 10 * std::sin(i * pi / 8), 0});
  const Model spline = through(round, {{"closed", true}});
  ASSERT_FALSE(spline.failed()) << errorOf(spline, "c");
  EXPECT_NEAR(lengthIn(spline, "c"), 20 * pi, 1e-2) << "nearly a circle";
  EXPECT_EQ(closedChainCount(spline.find("c")->shape()), 1);
}

TEST(ThroughPointsStep, LiesOnAFace) {
  const std::vector<Step> rod{
      step("rod", "cylinder", {{"radius", Expression("10 mm")}, {"height", Expression("40 mm")}})};
  const FaceReference side{"rod", "rod:side", std::nullopt};
  // Two points a quarter turn and 20 mm apart: a helix is the spline of two points in the parameters.
  const Model helix = through({{10, 0, 10}, {0, 10, 30}}, {{"lies", text("on a face")}, {"face", side}}, rod);
  ASSERT_FALSE(helix.failed()) << errorOf(helix, "c");
  EXPECT_NEAR(lengthIn(helix, "c"), std::hypot(10 * pi / 2, 20), 1e-5);
  // Over the seam, all round.
  const Model ring = through({{10, 0, 10}, {0, 10, 14}, {-10, 0, 10}, {0, -10, 14}},
                             {{"lies", text("on a face")}, {"face", side}, {"closed", true}}, rod);
  ASSERT_FALSE(ring.failed()) << errorOf(ring, "c");
  EXPECT_EQ(closedChainCount(ring.find("c")->shape()), 1);
  EXPECT_GT(lengthIn(ring, "c"), 20 * pi);
}

TEST(ThroughPointsStep, SaysWhatCannotBe) {
  EXPECT_THAT(errorOf(through({{0, 0, 0}}, {}), "c"), HasSubstr("too few"));
  EXPECT_THAT(errorOf(through({{0, 0, 0}, {0, 0, 0}}, {}), "c"), HasSubstr("in one place"));
  EXPECT_THAT(errorOf(through({{0, 0, 0}, {1, 0, 0}, {2, 0, 0}}, {{"kind", text("arc")}}), "c"),
              HasSubstr("lie on a line"));
}

Model refitOf(const char* degree, const char* count) {
  return made(documentOf(
      {drawing("d", PlanePick::standard("xy"), {circle("o", "0", "0", "10")}),
       step("c", "curve", {{"drawing", StepPick{"d"}}}),
       step("r", "refit", {{"curves", bodies({"c"})}, {"degree", Expression(degree)}, {"count", Expression(count)}})}));
}

TEST(RefitStep, MorePointsComeNearer) {
  double before = 1e9;
  for (const char* count : {"6", "10", "20", "40"}) {
    const Model model = refitOf("3", count);
    ASSERT_FALSE(model.failed()) << errorOf(model, "r");
    const double off = std::abs(lengthIn(model, "c") - 20 * pi);
    EXPECT_LT(off, before);
    before = off;
    std::size_t points = 0;
    for (const auto& each : controlPointsOf(model.find("c")->shape())) points += each.size();
    EXPECT_EQ(points + 1, std::stoul(count)) << "the first one is the last one";
    EXPECT_THAT(report(model, "r").result->audit.notes.front(), HasSubstr("mm off"));
  }
  EXPECT_LT(before, 1e-3);
  EXPECT_THAT(errorOf(refitOf("3", "3"), "r"), HasSubstr("too few for degree 3"));
  EXPECT_THAT(errorOf(refitOf("12", "20"), "r"), HasSubstr("cannot be had"));
}

TEST(ControlPointStep, AddedOnesChangeNothing) {
  for (const bool round : {true, false}) {
    DrawnCurve line{"l", "line", {}};
    for (const char* number : {"0", "0", "30", "40"}) line.numbers.emplace_back(number);
    const std::vector<Step> before{
        drawing("d", PlanePick::standard("xy"), {round ? circle("o", "0", "0", "10") : line}),
        step("c", "curve", {{"drawing", StepPick{"d"}}})};
    std::vector<Step> steps = before;
    steps.push_back(step("a", "control_point", {{"curve", bodies({"c"})}, {"what", text("add")}}));
    const Model without = made(documentOf(before)), model = made(documentOf(steps));
    ASSERT_FALSE(model.failed()) << errorOf(model, "a");
    const auto count = [](const Model& of) { return controlPointsOf(of.find("c")->shape()).front().size(); };
    EXPECT_EQ(count(model), count(without) + 1);
    EXPECT_NEAR(lengthIn(model, "c"), lengthIn(without, "c"), 1e-9);
  }
}

}  // namespace
}  // namespace kervo
