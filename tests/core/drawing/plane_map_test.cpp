#include "drawing/plane_map.h"

#include <gtest/gtest.h>

#include <numbers>

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

/// The largest distance of the mapped curve from points of the curve that were mapped one by one.
double off(const PlaneCurve& curve, const PlaneMap& map) {
  const auto result = mapped(curve, map);
  if (!result) return 1e9;
  double most = 0;
  for (int i = 0; i <= 40; ++i) {
    const PlanePoint wanted = map(curve.at(i / 40.0));
    double nearest = 1e9;
    for (int k = 0; k <= 20000; ++k) nearest = std::min(nearest, distance(result->at(k / 20000.0), wanted));
    most = std::max(most, nearest);
  }
  return most;
}

const PlaneMap shear{{1.5, 0.4}, {-0.7, 0.9}, {3, -2}};
const PlaneMap mirror{{-1, 0}, {0, 1}, {5, 0}};

TEST(PlaneMap, MapsEveryKindOfCurve) {
  const Spline spline = Spline::controlled(3, {{0, 0}, {1, 5}, {6, 5}, {7, 0}, {9, 1}}, {1, 2, 1, 3, 1}, false);
  for (const PlaneMap& map : {shear, mirror, PlaneMap::turn(0.3), PlaneMap::scale(2, -3)}) {
    EXPECT_LT(off(LineCurve({1, 2}, {4, -1}), map), 1e-3);
    EXPECT_LT(off(ArcCurve({1, 2}, 3, 0.2, 4), map), 2e-3);
    EXPECT_LT(off(CircleCurve({1, 2}, 3), map), 2e-3);
    EXPECT_LT(off(EllipseCurve({1, 1}, {4, 2}, 1.5, 0.5, 5), map), 2e-3);
    EXPECT_LT(off(SplineCurve(spline), map), 2e-3);
  }
}

TEST(PlaneMap, EndsOfArcsStayTheirEnds) {
  const ArcCurve arc({1, 2}, 3, 0.2, 4);
  for (const PlaneMap& map : {shear, mirror}) {
    const auto result = mapped(arc, map);
    const double straight = distance(result->at(0), map(arc.at(0))), turned = distance(result->at(0), map(arc.at(1)));
    EXPECT_LT(std::min(straight, turned), 1e-12);
  }
}

TEST(PlaneMap, WhatIsRoundStaysRoundWhereItCan) {
  const auto circle = mapped(CircleCurve({1, 0}, 2), PlaneMap::turn(1).after(PlaneMap::scale(-3, 3)));
  ASSERT_TRUE(circle->carrier());
  EXPECT_NEAR(circle->carrier()->radius, 6, 1e-12);
  EXPECT_TRUE(circle->closed());
  const auto ellipse = mapped(CircleCurve({1, 0}, 2), PlaneMap::scale(1, 3));
  const auto* is = dynamic_cast<const EllipseCurve*>(ellipse.get());
  ASSERT_TRUE(is);
  EXPECT_NEAR(is->other() * length(is->end() - is->centre()), 12, 1e-12);
  // An ellipse can become a circle.
  const auto back = mapped(EllipseCurve({0, 0}, {4, 0}, 2, 0, 2 * pi), PlaneMap::scale(0.5, 1));
  ASSERT_TRUE(back->carrier());
  EXPECT_NEAR(back->carrier()->radius, 2, 1e-12);
}

TEST(PlaneMap, NothingIsLeftOfWhatIsFlat) {
  EXPECT_FALSE(mapped(CircleCurve({1, 0}, 2), PlaneMap::scale(1, 0)));
  EXPECT_FALSE(mapped(LineCurve({1, 0}, {1, 3}), PlaneMap::scale(1, 0)));
}

TEST(PlaneMap, OneAfterAnother) {
  const PlaneMap both = shear.after(mirror);
  const PlanePoint at{0.3, -4};
  EXPECT_LT(distance(both(at), shear(mirror(at))), 1e-14);
}

}  // namespace
}  // namespace kervo
