// Curves in a plane: points, tangents, boxes, where they meet, and what they are in space.
#include "drawing/plane_curve.h"

#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"
#include "drawing/crossings.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

std::vector<PlanarCurve> oneOfEach() {
  return {{"l", LineCurve({1, 2}, {4, 6})}, {"a", ArcCurve({3, -1}, 5, 0.4, 2.9)}, {"c", CircleCurve({-2, 7}, 3)}};
}

TEST(PlaneCurves, TangentsFollowTheirPoints) {
  constexpr double step = 1e-6;
  for (const PlanarCurve& curve : oneOfEach())
    for (const double t : {0.1, 0.35, 0.8}) {
      const PlanePoint before = curve.geometry->at(t - step), after = curve.geometry->at(t + step);
      const double size = distance(before, after);
      const PlanePoint tangent = curve.geometry->tangentAt(t);
      EXPECT_NEAR(tangent.u, (after.u - before.u) / size, 1e-8) << curve.id;
      EXPECT_NEAR(tangent.v, (after.v - before.v) / size, 1e-8) << curve.id;
    }
}

TEST(PlaneCurves, LieInTheirBoxesAndAreTheSameInSpace) {
  const Plane tilted = Plane::through({10, 20, 30}, {1, 2, 3});
  for (const PlanarCurve& curve : oneOfEach()) {
    const PlaneBox box = curve.geometry->box();
    const NamedCurve inSpace = curve.on(tilted);
    EXPECT_EQ(inSpace.name, curve.id);
    EXPECT_EQ(inSpace.curve.closed(), curve.geometry->closed());
    for (int i = 0; i <= 10; ++i) {
      const PlanePoint p = curve.geometry->at(0.1 * i), tangent = curve.geometry->tangentAt(0.1 * i);
      EXPECT_TRUE(p.u >= box.low.u && p.u <= box.high.u && p.v >= box.low.v && p.v <= box.high.v) << curve.id;
      EXPECT_TRUE(curve.geometry->holds(p)) << curve.id;
      EXPECT_NEAR(distance(inSpace.curve.at(0.1 * i), tilted.at(p.u, p.v)), 0, 1e-12) << curve.id;
      EXPECT_NEAR(length(inSpace.curve.tangentAt(0.1 * i) - (tilted.x * tangent.u + tilted.y * tangent.v)), 0, 1e-12);
    }
  }
  EXPECT_NEAR(oneOfEach()[0].on(tilted).curve.length(), 5, 1e-12);
  EXPECT_NEAR(oneOfEach()[1].on(tilted).curve.length(), 5 * 2.5, 1e-12);
  EXPECT_NEAR(oneOfEach()[2].on(tilted).curve.length(), 6 * pi, 1e-12);
}

TEST(PlaneCurves, MeetWhereTheirCarriersDo) {
  const LineCurve flat({0, 0}, {10, 0}), steep({5, -5}, {5, 5}), level({0, 3}, {10, 3});
  const CircleCurve circle({5, 0}, 3);
  const auto of = [](const PlaneCurve& a, const PlaneCurve& b) { return meetings(*a.carrier(), *b.carrier()); };
  EXPECT_EQ(of(flat, steep).points, (std::vector<PlanePoint>{{5, 0}}));
  EXPECT_TRUE(of(flat, LineCurve({20, 0}, {30, 0})).overlap);
  EXPECT_TRUE(of(flat, level).points.empty());
  ASSERT_EQ(of(flat, circle).points.size(), 2u);
  EXPECT_EQ(of(circle, level).points, (std::vector<PlanePoint>{{5, 3}})) << "they touch";
  const Meetings round = of(circle, CircleCurve({9, 0}, 3));
  ASSERT_EQ(round.points.size(), 2u);
  for (const PlanePoint p : round.points) {
    EXPECT_NEAR(p.u, 7, 1e-12);
    EXPECT_NEAR(std::abs(p.v), std::sqrt(5), 1e-12);
  }
  EXPECT_TRUE(of(circle, CircleCurve({5, 0}, 3)).overlap);
  EXPECT_TRUE(of(circle, CircleCurve({50, 0}, 3)).points.empty());
}

/// A curve of a kind to come, for which there are no formulas.
class Unknown : public LineCurve {
 public:
  using LineCurve::LineCurve;
  std::optional<Carrier> carrier() const override { return std::nullopt; }
};

TEST(PlaneCurves, CrossWhereTheyMeetOtherThanEndOnEnd) {
  const LineCurve flat({0, 0}, {10, 0});
  EXPECT_TRUE(mayCross(flat, LineCurve({5, -5}, {5, 5})));
  EXPECT_FALSE(mayCross(flat, LineCurve({5, 1}, {5, 5}))) << "their carriers meet beyond the end of one";
  EXPECT_FALSE(mayCross(flat, LineCurve({10, 0}, {10, 8}))) << "end on end";
  EXPECT_TRUE(mayCross(flat, LineCurve({5, 0}, {5, 8}))) << "an end on the middle of another";
  EXPECT_TRUE(mayCross(flat, LineCurve({4, 0}, {14, 0}))) << "along each other";
  EXPECT_FALSE(mayCross(flat, LineCurve({10, 0}, {14, 0}))) << "one goes on where the other ends";
  EXPECT_TRUE(mayCross(ArcCurve({0, 0}, 5, 0, pi / 2), ArcCurve({0, 0}, 5, 1, 2)));
  EXPECT_FALSE(mayCross(ArcCurve({0, 0}, 5, 0, 1), ArcCurve({0, 0}, 5, 1, 2)));
  EXPECT_FALSE(mayCross(ArcCurve({0, 0}, 5, 0.1, pi - 0.1), flat));
  EXPECT_TRUE(mayCross(ArcCurve({5, 0}, 2, -0.1, 1), flat));
  EXPECT_FALSE(mayCross(flat, Unknown({0, 5}, {10, 5})));
  EXPECT_TRUE(mayCross(flat, Unknown({1, 5}, {9, -5})));
  EXPECT_FALSE(mayCross(flat, Unknown({10, 0}, {9, -5})));
  EXPECT_TRUE(mayCross(flat, Unknown({5, 0}, {9, -5})));
  EXPECT_TRUE(mayCross(flat, Unknown({10, 0}, {0, 0}))) << "one on the other";
  const SplineCurve bow(Spline::through({{0, 0}, {5, 3}, {10, 0}}, false));
  EXPECT_FALSE(mayCross(flat, bow)) << "they share both ends";
}

TEST(PlaneCurves, WithoutSizeAreNamed) {
  const auto errorOf = [](const PlaneCurve& curve) -> std::string {
    try {
      curve.require("curve \"x\"");
    } catch (const Error& error) {
      return error.what();
    }
    return "";
  };
  EXPECT_EQ(errorOf(LineCurve({0, 0}, {1, 0})), "");
  EXPECT_NE(errorOf(LineCurve({1, 1}, {1, 1})).find("the line has no length"), std::string::npos);
  EXPECT_NE(errorOf(ArcCurve({0, 0}, 2, 1, 1)).find("the arc spans no angle"), std::string::npos);
  EXPECT_NE(errorOf(ArcCurve({0, 0}, 0, 1, 2)).find("radius"), std::string::npos);
  EXPECT_NE(errorOf(CircleCurve({0, NAN}, 2)).find("not finite"), std::string::npos);
}

}  // namespace
}  // namespace kervo
