// How far cuts reach: next wall, bodies, two depths, draft, depths of single regions.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

/// A U: floor 60 × 20 × 10 with walls of 10 at both ends, drawn on from the left.
std::vector<Step> bracket() {
  return {
      block("floor", "60", "20", "10"), block("l", "10", "20", "30", {"0", "0", "10"}),
      block("r", "10", "20", "30", {"50", "0", "10"}),
      step("u", "combine", {{"verb", text("union")}, {"stock", bodies({"floor"})}, {"cutters", bodies({"l", "r"})}}),
      drawing("d", onFace("floor", "l:left"), {circle("c", "-10", "25", "3")})};
}

double removed(const std::map<std::string, FieldValue>& fields, std::vector<Step> steps = bracket()) {
  std::map<std::string, FieldValue> all = fields;
  all.try_emplace("profiles", allOf("d"));
  const Model model = made(documentOf(steps).withStep(step("cut", "cut", all)));
  EXPECT_EQ(errorOf(model, "cut"), "no error");
  const auto& result = report(model, "cut").result;
  return result ? result->audit.volumeRemoved : NAN;
}

TEST(CutReach, NextWallStopsBehindTheFirstWall) {
  EXPECT_NEAR(removed({{"to", text("through")}}), 2 * pi * 9 * 10, 1e-6);
  EXPECT_NEAR(removed({{"to", text("next wall")}}), pi * 9 * 10, 1e-6);
}

TEST(CutReach, NextWallOfSeveralBodiesIsTheNearest) {
  const std::vector<Step> steps{block("a", "10", "20", "20"), block("b", "10", "20", "20", {"30", "0", "0"}),
                                drawing("d", onFace("a", "a:left"), {circle("c", "-10", "10", "3")})};
  std::vector<Step> more = steps;
  EXPECT_NEAR(removed({{"to", text("next wall")}}, steps), pi * 9 * 10, 1e-6);
}

TEST(CutReach, NextWallThatTouchesTheOneBehindIsCutAlone) {
  const std::vector<Step> steps{block("a", "10", "20", "20"), block("b", "15", "20", "20", {"10", "0", "0"}),
                                drawing("d", onFace("a", "a:left"), {circle("c", "-10", "10", "3")})};
  EXPECT_NEAR(removed({{"to", text("next wall")}}, steps), pi * 9 * 10, 1e-6);
}

TEST(CutReach, BodyEndsTheCutWhereItIsMetFirst) {
  std::vector<Step> steps{block("a", "40", "20", "20"),
                          drawing("d", onFace("a", "a:top"), {circle("c", "20", "10", "3")}),
                          step("s", "cylinder",
                               {{"radius", Expression("8")},
                                {"height", Expression("40")},
                                {"plane", PlanePick{PlanePick::Kind::Standard, "yz", {}}},
                                {"at", point("10", "0", "0")}})};
  // Down to the cylinder along x through (y, z) = (10, 0): depth 20 − √(64 − (y − 10)²) within the circle.
  double expected = 0;
  const int n = 4000;
  for (int i = 0; i < n; ++i) {
    const double y = -3 + 6 * (i + 0.5) / n;
    expected += 2 * std::sqrt(9 - y * y) * (20 - std::sqrt(64 - y * y)) * 6 / n;
  }
  EXPECT_NEAR(removed({{"stock", bodies({"a"})}, {"to", text("body")}, {"to_body", bodies({"s"})}}, steps), expected,
              1e-2);
}

TEST(CutReach, TwoDepthsGoDifferentlyFarEachWay) {
  const std::vector<Step> steps{
      block("a", "20", "20", "20", {"-10", "-10", "-10"}),
      drawing("d", {PlanePick::Kind::Standard, "xy", {}}, {rectangle("r", "-1", "-1", "2", "2")})};
  EXPECT_NEAR(removed({{"way", text("two depths")},
                       {"to", text("distance")},
                       {"depth", Expression("3")},
                       {"out_depth", Expression("5")}},
                      steps),
              4 * 8, 1e-9);
}

TEST(CutReach, DraftLeansTheSides) {
  const std::vector<Step> steps{block("a", "40", "40", "20"),
                                drawing("d", onFace("a", "a:top"), {rectangle("r", "15", "15", "10", "10")})};
  const double lean = 5 * std::tan(10 * pi / 180), small = 10 - 2 * lean;
  // A frustum: h/3 (A + a + √(A a)).
  EXPECT_NEAR(removed({{"to", text("distance")}, {"depth", Expression("5")}, {"draft", Expression("10 deg")}}, steps),
              5.0 / 3 * (100 + small * small + 10 * small), 1e-6);
  const double large = 10 + 2 * lean;
  EXPECT_NEAR(removed({{"to", text("distance")}, {"depth", Expression("5")}, {"draft", Expression("-10 deg")}}, steps),
              5.0 / 3 * (100 + large * large + 10 * large), 1e-6);
}

TEST(CutReach, DraftThatClosesBeforeTheEndIsAnError) {
  const Model model = made(documentOf({block("a", "40", "40", "20"),
                                       drawing("d", onFace("a", "a:top"), {rectangle("r", "15", "15", "4", "4")}),
                                       step("cut", "cut",
                                            {{"profiles", allOf("d")},
                                             {"to", text("distance")},
                                             {"depth", Expression("15")},
                                             {"draft", Expression("20 deg")}})}));
  EXPECT_THAT(errorOf(model, "cut"), HasSubstr("meet before the end"));
}

TEST(CutReach, SingleRegionsHaveDepthsOfTheirOwn) {
  const std::vector<Step> steps{
      block("a", "40", "40", "20"),
      drawing("d", onFace("a", "a:top"),
              {circle("c1", "10", "10", "3"), circle("c2", "20", "20", "2"), circle("c3", "30", "30", "1")})};
  RegionPick pick = allOf("d");
  pick.depths = {{"c2+", Expression("7 mm")}, {"c3+", Expression("2 * 4 mm")}};
  EXPECT_NEAR(removed({{"profiles", pick}, {"to", text("distance")}, {"depth", Expression("5")}}, steps),
              pi * (9 * 5 + 4 * 7 + 1 * 8), 1e-6);
}

}  // namespace
}  // namespace kervo
