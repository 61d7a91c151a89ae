#include "drawing/crossings.h"

#include <gmock/gmock.h>

#include <cmath>
#include <numbers>
#include <random>

#include "geom/planes.h"

namespace kervo {
namespace {

constexpr double turn = 2 * std::numbers::pi;

void expectOnBoth(const PlaneCurve& a, const PlaneCurve& b, const std::vector<Crossing>& found) {
  for (const Crossing& each : found) {
    EXPECT_LT(distance(a.at(each.onA), each.at), 1e-9);
    EXPECT_LT(distance(b.at(each.onB), each.at), 2e-9);
  }
}

TEST(Crossings, OfLinesAndCircles) {
  const LineCurve line({-10, 3}, {10, 3});
  const CircleCurve round({0, 0}, 5);
  const auto found = crossings(line, round);
  ASSERT_EQ(found.size(), 2u);
  EXPECT_NEAR(found[0].at.u, -4, 1e-12);
  EXPECT_NEAR(found[1].at.u, 4, 1e-12);
  EXPECT_NEAR(found[1].onA, 0.7, 1e-12);
  expectOnBoth(line, round, found);
  EXPECT_EQ(crossings(LineCurve({-10, 5}, {10, 5}), round).size(), 1u);
  EXPECT_TRUE(crossings(LineCurve({-10, 5.1}, {10, 5.1}), round).empty());
}

TEST(Crossings, OfStretchesThatAreSharedTheEnds) {
  const auto lines = crossings(LineCurve({0, 0}, {10, 0}), LineCurve({4, 0}, {20, 0}));
  ASSERT_EQ(lines.size(), 2u);
  EXPECT_EQ(lines[0].at, (PlanePoint{4, 0}));
  EXPECT_EQ(lines[1].at, (PlanePoint{10, 0}));
  const auto arcs = crossings(ArcCurve({0, 0}, 5, 0, 2), ArcCurve({0, 0}, 5, 1, 3));
  ASSERT_EQ(arcs.size(), 2u);
  EXPECT_NEAR(arcs[0].onA, 0.5, 1e-12);
  const EllipseCurve one({0, 0}, {10, 0}, 4, 0, 2), other({0, 0}, {10, 0}, 4, 1, 3);
  const auto shared = crossings(one, other);
  ASSERT_EQ(shared.size(), 2u);
  EXPECT_NEAR(shared[0].onA, 0.5, 1e-9);
  EXPECT_NEAR(shared[1].onA, 1, 1e-9);
}

TEST(Crossings, OfTwoEllipsesFour) {
  const EllipseCurve wide({0, 0}, {10, 0}, 4, 0, turn), high({0, 0}, {0, 10}, 4, 0, turn);
  const auto found = crossings(wide, high);
  ASSERT_EQ(found.size(), 4u);
  const double at = 40 / std::sqrt(116.0);
  for (const Crossing& each : found) {
    EXPECT_NEAR(std::abs(each.at.u), at, 1e-9);
    EXPECT_NEAR(std::abs(each.at.v), at, 1e-9);
  }
  expectOnBoth(wide, high, found);
}

TEST(Crossings, ATouchIsFoundToTheSamePrecision) {
  const EllipseCurve oval({0, 0}, {10, 0}, 4, 0, turn);
  const auto found = crossings(oval, LineCurve({-7, 4}, {9, 4}));
  ASSERT_EQ(found.size(), 1u);
  EXPECT_NEAR(found[0].at.u, 0, 1e-7);
  EXPECT_NEAR(found[0].at.v, 4, 1e-9);
  // From the inside: a circle with the curvature radius 1.6 at the end of the long axis, and a smaller one.
  const auto inside = crossings(oval, CircleCurve({9, 0}, 1));
  ASSERT_EQ(inside.size(), 1u);
  EXPECT_NEAR(inside[0].at.u, 10, 1e-9);
  const SplineCurve bow(Spline::controlled(2, {{0, 0}, {5, 10}, {10, 0}}, {}, false));
  const auto top = crossings(bow, LineCurve({0, 5}, {10, 5}));
  ASSERT_EQ(top.size(), 1u);
  EXPECT_NEAR(top[0].at.u, 5, 1e-7);
}

TEST(Crossings, OfSplinesAndLinesAgainstTheFormula) {
  // A parabola: v = 2 u (1 - u / 10), so that at height h: u = 5 ± √(25 - 5 h).
  const SplineCurve bow(Spline::controlled(2, {{0, 0}, {5, 10}, {10, 0}}, {}, false));
  std::mt19937 random(20261);
  std::uniform_real_distribution<double> height(0.05, 4.95);
  for (int i = 0; i < 100; ++i) {
    const double h = height(random);
    const auto found = crossings(LineCurve({-1, h}, {11, h}), bow);
    ASSERT_EQ(found.size(), 2u) << h;
    EXPECT_NEAR(found[0].at.u, 5 - std::sqrt(25 - 5 * h), 1e-9);
    EXPECT_NEAR(found[1].at.u, 5 + std::sqrt(25 - 5 * h), 1e-9);
  }
}

TEST(Crossings, LengthsOfPieces) {
  EXPECT_NEAR(lengthBetween(LineCurve({0, 0}, {3, 4}), 0.2, 0.8), 3, 1e-12);
  EXPECT_NEAR(lengthBetween(CircleCurve({1, 1}, 2), 0, 0.25), std::numbers::pi, 1e-12);
  EXPECT_NEAR(lengthBetween(ArcCurve({1, 1}, 2, 1, 2), 0, 1), 2, 1e-12);
  // Of a parabola, in closed form.
  const SplineCurve bow(Spline::controlled(2, {{0, 0}, {5, 10}, {10, 0}}, {}, false));
  const double slope = 2;
  const double exact = 2 * 2.5 * (slope * std::sqrt(1 + slope * slope) + std::asinh(slope)) / 2;
  EXPECT_NEAR(lengthBetween(bow, 0, 1), exact, 1e-8 * exact);
}

}  // namespace
}  // namespace kervo
