#include "drawing/offset.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "base/error.h"
#include "drawing/crossings.h"
#include "drawing/regions.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

std::vector<PlanarCurve> polygon(const std::vector<PlanePoint>& corners) {
  std::vector<PlanarCurve> lines;
  for (std::size_t i = 0; i < corners.size(); ++i)
    lines.emplace_back("l" + std::to_string(i + 1), LineCurve(corners[i], corners[(i + 1) % corners.size()]));
  return lines;
}

/// Of all regions together: islands are regions of their own.
double areaIn(const std::vector<PlanarCurve>& curves) {
  Progress progress;
  double area = 0;
  for (const Region& region : findRegions({}, curves, progress)) area += region.area();
  return area;
}

double areaOf(const std::vector<PlanarCurve>& curves, double distance, OffsetSide side, OffsetCorners corners) {
  return areaIn(offset("o", curves, distance, side, corners));
}

TEST(Offset, GrowsByTheFormulaOfParallelBodies) {
  // Whichever way it runs: area + perimeter·d + π·d² with round corners; sharp ones of a rectangle add 4·d² instead.
  const auto rectangle = polygon({{0, 0}, {30, 0}, {30, 20}, {0, 20}});
  const auto backwards = polygon({{0, 20}, {30, 20}, {30, 0}, {0, 0}});
  for (const auto& each : {rectangle, backwards}) {
    EXPECT_NEAR(areaOf(each, 2, OffsetSide::Out, OffsetCorners::Round), 600 + 200 + pi * 4, 1e-9);
    EXPECT_NEAR(areaOf(each, 2, OffsetSide::Out, OffsetCorners::Sharp), 34 * 24, 1e-9);
    for (const OffsetCorners corners : {OffsetCorners::Round, OffsetCorners::Sharp})
      EXPECT_NEAR(areaOf(each, 2, OffsetSide::In, corners), 26 * 16, 1e-9);
  }
}

TEST(Offset, OnBothSidesTheNamesTellInsideFromOutside) {
  const auto both =
      offset("o", polygon({{0, 0}, {30, 0}, {30, 20}, {0, 20}}), 1, OffsetSide::Both, OffsetCorners::Sharp);
  std::vector<std::string> ids;
  for (const PlanarCurve& curve : both) ids.push_back(curve.id);
  EXPECT_THAT(ids, testing::IsSupersetOf({"o.l1", "o.l1.corner", "o.in.l1", "o.in.l4"}));
  Progress progress;
  std::vector<double> areas;
  for (const Region& region : findRegions({}, both, progress)) areas.push_back(region.area());
  EXPECT_THAT(areas, testing::UnorderedElementsAre(testing::DoubleNear(32 * 22 - 28 * 18, 1e-9),
                                                   testing::DoubleNear(28 * 18, 1e-9)));
}

TEST(Offset, WhatGetsTooNarrowFallsApartOrVanishes) {
  // Two squares of 10 joined by a neck of 2.
  const auto bone = polygon(
      {{0, 0}, {10, 0}, {10, 4}, {20, 4}, {20, 0}, {30, 0}, {30, 10}, {20, 10}, {20, 6}, {10, 6}, {10, 10}, {0, 10}});
  Progress progress;
  const auto regions = findRegions({}, offset("o", bone, 2, OffsetSide::In, OffsetCorners::Sharp), progress);
  ASSERT_EQ(regions.size(), 2u);
  for (const Region& region : regions) EXPECT_NEAR(region.area(), 36, 1e-6);
  EXPECT_THROW(offset("o", bone, 5.1, OffsetSide::In, OffsetCorners::Round), Error);
  // Outwards by 3 the two notches, 10 wide, are 4 wide and as deep as before.
  EXPECT_NEAR(areaOf(bone, 3, OffsetSide::Out, OffsetCorners::Sharp), 36 * 16 - 2 * 4 * 4, 1e-6);
}

TEST(Offset, CirclesArcsAndSlots) {
  const std::vector<PlanarCurve> circle{{"c", CircleCurve({3, 4}, 5)}};
  EXPECT_NEAR(areaOf(circle, 0.2, OffsetSide::Out, OffsetCorners::Round), pi * 5.2 * 5.2, 1e-9);
  EXPECT_NEAR(areaOf(circle, 0.2, OffsetSide::In, OffsetCorners::Round), pi * 4.8 * 4.8, 1e-9);
  EXPECT_THROW(offset("o", circle, 5, OffsetSide::In, OffsetCorners::Round), Error);
  const std::vector<PlanarCurve> slot{{"a", LineCurve({0, -3}, {10, -3})},
                                      {"b", ArcCurve({10, 0}, 3, -pi / 2, pi / 2)},
                                      {"c", LineCurve({10, 3}, {0, 3})},
                                      {"d", ArcCurve({0, 0}, 3, pi / 2, 3 * pi / 2)}};
  for (const double d : {0.5, 2.9}) {
    EXPECT_NEAR(areaOf(slot, d, OffsetSide::Out, OffsetCorners::Sharp), 20 * (3 + d) + pi * (3 + d) * (3 + d), 1e-6);
    EXPECT_NEAR(areaOf(slot, d, OffsetSide::In, OffsetCorners::Sharp), 20 * (3 - d) + pi * (3 - d) * (3 - d), 1e-6);
  }
}

TEST(Offset, EllipsesAndSplinesAreFollowedToAMicrometre) {
  const std::vector<PlanarCurve> ellipse{{"e", EllipseCurve({0, 0}, {10, 0}, 6, 0, 2 * pi)}};
  const double perimeter = lengthBetween(*ellipse.front().geometry, 0, 1);
  for (const double d : {1.0, 3.5})
    EXPECT_NEAR(areaOf(ellipse, d, OffsetSide::Out, OffsetCorners::Round), pi * 60 + perimeter * d + pi * d * d, 1e-4);
  EXPECT_NEAR(areaOf(ellipse, 1, OffsetSide::In, OffsetCorners::Round), pi * 60 - perimeter + pi, 1e-4);
  // It bends with a radius of 3.6 at its ends.
  EXPECT_THROW(offset("o", ellipse, 3.7, OffsetSide::In, OffsetCorners::Round), Error);
  const std::vector<PlanarCurve> wave{{"s", SplineCurve(Spline::through({{0, 0}, {10, 5}, {20, 0}, {30, 4}}, false))}};
  for (const PlanarCurve& beside : offset("o", wave, 2, OffsetSide::Both, OffsetCorners::Round))
    for (const double t : {0.0, 0.11, 0.5, 0.93, 1.0}) {
      const PlanePoint at = beside.geometry->at(t);
      EXPECT_NEAR(distance(at, wave.front().geometry->at(nearestOn(*wave.front().geometry, at))), 2, 2e-6);
    }
}

TEST(Offset, OpenChainsGoToTheirLeftAndRight) {
  const std::vector<PlanarCurve> corner{{"a", LineCurve({0, 0}, {10, 0})}, {"b", LineCurve({10, 10}, {10, 0})}};
  const auto left = offset("o", corner, 2, OffsetSide::Out, OffsetCorners::Round);
  ASSERT_EQ(left.size(), 2u);
  EXPECT_NEAR(distance(left[0].geometry->at(1), {8, 2}), 0, 1e-9);
  const auto right = offset("o", corner, 2, OffsetSide::In, OffsetCorners::Round);
  ASSERT_EQ(right.size(), 3u);
  EXPECT_NEAR(distance(right[0].geometry->at(0), {0, -2}), 0, 1e-9);
  const std::vector<PlanarCurve> star{
      {"a", LineCurve({0, 0}, {10, 0})}, {"b", LineCurve({0, 0}, {0, 10})}, {"c", LineCurve({0, 0}, {-10, 0})}};
  EXPECT_THROW(offset("o", star, 1, OffsetSide::Out, OffsetCorners::Round), Error);
}

TEST(Offset, OfRandomStarsIsNowhereNearerThanTheDistanceAndHasTheAreaOfTheFormula) {
  // Seeds 1 to 400. Outwards from a polygon whose corners lie around a centre; when it is convex the formula holds.
  for (unsigned seed = 1; seed <= 400; ++seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> radius(8, seed % 2 ? 8.5 : 25), far(0.3, 4);
    std::vector<PlanePoint> corners;
    const int count = 5 + static_cast<int>(seed % 4);
    for (int i = 0; i < count; ++i) {
      const double r = radius(random), angle = 2 * pi * i / count;
      corners.push_back({r * std::cos(angle), r * std::sin(angle)});
    }
    const auto source = polygon(corners);
    const double d = far(random);
    for (const OffsetSide side : {OffsetSide::Out, OffsetSide::In}) {
      std::vector<PlanarCurve> made;
      try {
        made = offset("o", source, d, side, OffsetCorners::Round);
      } catch (const Error&) {
        EXPECT_EQ(side, OffsetSide::In) << seed;
        continue;
      }
      Progress progress;
      const auto regions = findRegions({}, made, progress);
      EXPECT_FALSE(regions.empty()) << seed;
      std::set<std::string> bounding;
      for (const Region& region : regions) bounding.merge(region.curves());
      for (const PlanarCurve& curve : made) {
        EXPECT_TRUE(bounding.contains(curve.id)) << seed << " " << curve.id;
        for (const double t : {0.0, 0.25, 0.5, 1.0}) {
          const PlanePoint at = curve.geometry->at(t);
          double least = 1e9;
          for (const PlanarCurve& line : source)
            least = std::min(least, distance(line.geometry->at(nearestOn(*line.geometry, at)), at));
          EXPECT_NEAR(least, d, 1e-5) << seed << " " << curve.id;
        }
      }
      if (seed % 2 && side == OffsetSide::Out) {
        double perimeter = 0;
        for (const PlanarCurve& line : source) perimeter += lengthBetween(*line.geometry, 0, 1);
        EXPECT_NEAR(areaIn(made), areaIn(source) + perimeter * d + pi * d * d, 1e-6) << seed;
      }
    }
  }
}

}  // namespace
}  // namespace kervo
