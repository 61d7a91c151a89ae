#include "geom/spline.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <numbers>

#include "geom/space_curve.h"

namespace kervo {
namespace {

constexpr double near = 1e-12;

void expectAt(PlanePoint point, double u, double v) {
  EXPECT_NEAR(point.u, u, near);
  EXPECT_NEAR(point.v, v, near);
}

/// The area that a closed one goes round, by differences of its outline.
double areaOf(const Spline& spline) {
  double area = 0;
  constexpr int steps = 20000;
  for (int i = 0; i < steps; ++i)
    area += cross(spline.at(static_cast<double>(i) / steps), spline.at(static_cast<double>(i + 1) / steps)) / 2;
  return area;
}

TEST(Spline, GoesOnAsItsLastSpanRuns) {
  const Spline spline = Spline::controlled(3, {{0, 0}, {1, 5}, {6, 5}, {7, 0}, {9, 1}}, {1, 2, 1, 3, 1}, false);
  const Spline longer = spline.lengthened(true, 0.25);
  EXPECT_EQ(longer.poles().size(), 5u);
  for (int i = 0; i <= 40; ++i) EXPECT_LT(distance(longer.at(i / 40.0 / 1.25), spline.at(i / 40.0)), 1e-12);
  const Spline before = spline.lengthened(false, 0.25);
  for (int i = 0; i <= 40; ++i) EXPECT_LT(distance(before.at((i / 40.0 + 0.25) / 1.25), spline.at(i / 40.0)), 1e-12);
  // Shortened again it is what it was.
  const Spline back = longer.part(0, 1 / 1.25);
  for (std::size_t i = 0; i < 5; ++i) EXPECT_LT(distance(back.poles()[i], spline.poles()[i]), 1e-11);
}

TEST(Spline, AClosedOneIsFollowedPastItsStart) {
  for (const bool through : {true, false}) {
    const std::vector<PlanePoint> points{{0, 0}, {8, -1}, {9, 6}, {3, 9}, {-2, 5}};
    const Spline spline = through ? Spline::through(points, true) : Spline::controlled(3, points, {}, true);
    const Spline part = spline.part(0.7, 1.4);
    for (int i = 0; i <= 40; ++i) {
      double at = 0.7 + 0.7 * i / 40.0;
      if (at > 1) at -= 1;
      EXPECT_LT(distance(part.at(i / 40.0), spline.at(at)), 1e-9);
    }
    EXPECT_EQ(std::count_if(part.knots().begin(), part.knots().end(),
                            [](double knot) { return std::abs(knot - 3.0 / 7) < 1e-9; }),
              1);
  }
}

TEST(Spline, StartsAndEndsOnThePolesWhateverItsKnots) {
  // The unclamped form of a uniform one.
  const Spline open = Spline::of(2, {0, 1, 2, 3, 4, 5, 6}, {{0, 0}, {2, 4}, {4, 0}, {6, 4}}, {}, false);
  expectAt(open.poles().front(), 1, 2);
  expectAt(open.poles().back(), 5, 2);
  expectAt(open.at(0.5), 3, 2);
  const Spline half = Spline::of(2, {0, 0, 0, 1, 2, 3, 4}, {{0, 0}, {2, 4}, {4, 0}, {6, 4}}, {}, false);
  expectAt(half.poles().front(), 0, 0);
  expectAt(half.poles().back(), 5, 2);
}

TEST(Spline, OfDegreeOneIsAChainOfLines) {
  const Spline spline = Spline::controlled(1, {{0, 0}, {10, 0}, {10, 6}}, {}, false);
  expectAt(spline.at(0.25), 5, 0);
  expectAt(spline.at(0.75), 10, 3);
  expectAt(spline.at(1), 10, 6);
}

TEST(Spline, WithWeightsIsACircleExactly) {
  // A quarter of a circle as a rational parabola.
  const Spline spline = Spline::controlled(2, {{5, 0}, {5, 5}, {0, 5}}, {1, std::numbers::sqrt2 / 2, 1}, false);
  for (const double t : {0.0, 0.2, 0.5, 0.9, 1.0}) {
    EXPECT_NEAR(length(spline.at(t)), 5, near);
    EXPECT_NEAR(spline.frame(t).curvature(), 0.2, near);
    EXPECT_NEAR(dot(spline.at(t), spline.frame(t).tangent()), 0, near);
  }
}

TEST(Spline, GoesThroughItsPoints) {
  const std::vector<PlanePoint> points{{0, 0}, {4, 3}, {9, 3}, {11, -2}, {20, 0}};
  for (const bool closed : {false, true}) {
    const Spline spline = Spline::through(points, closed);
    for (const PlanePoint point : points) EXPECT_LT(distance(spline.at(spline.nearest(point)), point), 1e-10);
    expectAt(spline.at(0), 0, 0);
    expectAt(spline.at(1), closed ? 0 : 20, 0);
    // Second derivatives do not jump anywhere.
    for (const double knot : spline.knots()) {
      if (knot <= 0 || knot >= 1) continue;
      const Spline::Frame before = spline.frame(knot - 1e-9), after = spline.frame(knot + 1e-9);
      EXPECT_NEAR(distance(before.second, after.second) / length(after.second), 0, 1e-5);
    }
  }
}

TEST(Spline, ThroughPointsOfAParabolaIsThatParabola) {
  // Knots lie as far apart as the points, which three symmetric points keep even.
  const Spline spline = Spline::through({{-2, 4}, {0, 0}, {2, 4}}, false);
  for (const double t : {0.1, 0.4, 0.8}) EXPECT_NEAR(spline.at(t).v, spline.at(t).u * spline.at(t).u, near);
}

TEST(Spline, ThatIsClosedGoesOnSmoothly) {
  const Spline through = Spline::through({{10, 0}, {0, 8}, {-7, 0}, {0, -9}}, true);
  const Spline controlled = Spline::controlled(3, {{10, 0}, {0, 8}, {-7, 0}, {0, -9}}, {1, 2, 1, 1}, true);
  for (const Spline& spline : {through, controlled}) {
    EXPECT_TRUE(spline.closed());
    const Spline::Frame from = spline.frame(0), to = spline.frame(1);
    EXPECT_LT(distance(from.at, to.at), near);
    EXPECT_NEAR(cross(from.tangent(), to.tangent()), 0, 1e-10);
    EXPECT_NEAR(from.curvature(), to.curvature(), 1e-10);
    EXPECT_GT(areaOf(spline), 50);
  }
}

TEST(Spline, OfManyPointsOnACircleIsNearlyOne) {
  std::vector<PlanePoint> points;
  for (int i = 0; i < 24; ++i)
    points.push_back({10 * std::cos(i * std::numbers::pi / 12), 10 * std::sin(i * std::numbers::pi / 12)});
  const Spline spline = Spline::through(points, true);
  EXPECT_NEAR(areaOf(spline), 100 * std::numbers::pi, 0.01);
  EXPECT_NEAR(SpaceCurve(SplineArc{Plane(), spline}).length(), 20 * std::numbers::pi, 1e-3);
  for (const double t : {0.01, 0.2, 0.77}) EXPECT_NEAR(spline.frame(t).curvature(), 0.1, 1e-3);
}

TEST(SpaceCurve, OfAnEllipseHasItsLength) {
  // Ramanujan's second formula is good to 1e-9 here.
  const double a = 5, b = 4, h = 1.0 / 81;
  const double around = std::numbers::pi * (a + b) * (1 + 3 * h / (10 + std::sqrt(4 - 3 * h)));
  const SpaceCurve ellipse(EllipticalArc{Plane(), a, b, 0, 2 * std::numbers::pi});
  EXPECT_NEAR(ellipse.length(), around, 1e-8);
  EXPECT_TRUE(ellipse.closed());
  EXPECT_NEAR(dot(ellipse.tangentAt(0.25), Vector{-1, 0, 0}), 1, near);
}

TEST(Spline, APartRunsAsTheWholeDoes) {
  const std::vector<PlanePoint> points{{0, 0}, {4, 3}, {9, 3}, {11, -2}, {20, 0}};
  for (const Spline& whole :
       {Spline::through(points, false), Spline::through(points, true), Spline::controlled(2, points, {}, false),
        Spline::controlled(3, points, {1, 2, 0.5, 1, 3}, true), Spline::controlled(1, points, {}, false)})
    for (const auto& [from, to] : {std::pair(0.1, 0.9),
                                   {0.0, 0.4},
                                   {0.45, 1.0},
                                   {0.5, 0.55},
                                   {0.25, 0.75},
                                   {0.0, 1.0},
                                   {whole.knots()[4], 0.98}}) {
      if (to <= from) continue;
      const Spline part = whole.part(from, to);
      for (const double t : {0.0, 0.3, 0.5, 0.8, 1.0})
        EXPECT_LT(distance(part.at(t), whole.at(from + (to - from) * t)), 1e-10);
    }
}

}  // namespace
}  // namespace kervo
