#include "drawing/features.h"

#include <gmock/gmock.h>

#include <numbers>

#include "base/error.h"
#include "core/drawing/drawing_builder.h"
#include "drawing/drawing_result.h"
#include "geom/planes.h"

namespace kervo {
namespace {

using testing::DoubleNear;
using testing::ElementsAre;

constexpr double pi = std::numbers::pi;

/// Values of dimensions by their kind; what is not named is zero.
DrawingValues valuesOf(const Drawing& drawing, const std::map<std::string, double>& byKind) {
  DrawingValues values{std::vector<std::vector<double>>(drawing.curves.size()), {}};
  for (const DrawnConstraint& constraint : drawing.constraints) {
    const auto found = byKind.find(constraint.kind);
    values.constraints.push_back(found == byKind.end() ? 0 : found->second);
  }
  return values;
}

std::vector<double> areasOf(const Drawing& drawing, const DrawingValues& values) {
  requireSound(drawing);
  const Solution solution = solve(drawing, values);
  EXPECT_TRUE(solution.holds());
  EXPECT_TRUE(solution.alreadyTrue.empty());
  Progress progress;
  std::vector<double> areas;
  for (const Region& region : DrawingResult::of({}, drawing, values, solution, progress).regions)
    areas.push_back(region.area());
  return areas;
}

TEST(Features, AllCornersOfARectangleAreRounded) {
  DrawingBuilder made;
  made.rectangle(0, 0, 40, 20);
  Drawing drawing = made.drawing;
  for (const char* corner : {"p1", "p2", "p3", "p4"})
    drawing = withRoundCorner(drawing, corner, Expression("3 mm"), 3).drawing;
  EXPECT_THAT(areasOf(drawing, valuesOf(drawing, {{"radius", 3}})),
              ElementsAre(DoubleNear(800 - 4 * 9 + 9 * pi, 1e-7)));
  // The radius drives them.
  EXPECT_THAT(areasOf(drawing, valuesOf(drawing, {{"radius", 5}})).size(), 1u);
}

TEST(Features, ACornerIsChamferedAndWhatMeasuredTheSideGoesOnTo) {
  DrawingBuilder made;
  made.rectangle(0, 0, 40, 20);
  made.measure("length", {"c1"}, 40);
  const Trimmed cut = withChamferedCorner(made.drawing, "p2", Expression("4 mm"), 4);
  EXPECT_TRUE(cut.lost.empty());
  EXPECT_EQ(cut.drawing.constraints[0].kind, "distance");
  EXPECT_THAT(cut.drawing.constraints[0].on, ElementsAre("p1", "p2"));
  DrawingValues values = valuesOf(cut.drawing, {{"distance", 4}});
  values.constraints[0] = 40;
  EXPECT_THAT(areasOf(cut.drawing, values), ElementsAre(DoubleNear(800 - 8, 1e-7)));
  EXPECT_EQ(sizeForCorner(made.drawing, "p2"), 2);
}

TEST(Features, WhatIsNoCornerSaysSo) {
  DrawingBuilder made;
  made.rectangle(0, 0, 40, 20);
  made.circle(made.point(5, 5), 2);
  EXPECT_THROW(withRoundCorner(made.drawing, "p5", Expression("1 mm"), 1), Error);
  EXPECT_THROW(withRoundCorner(made.drawing, "p1", Expression("30 mm"), 30), Error);
  EXPECT_THROW(withChamferedCorner(made.drawing, "p1", Expression("-1 mm"), -1), Error);
  EXPECT_THROW(sizeForCorner(made.drawing, "nothing"), Error);
}

TEST(Features, AMirroredOutlineIsClosedAndFollows) {
  // Half of an outline with both ends on the axis, and a hole.
  DrawingBuilder made;
  const std::string a = made.point(0, 0), b = made.point(20, 0), c = made.point(20, 15), d = made.point(0, 15);
  made.line(a, b);
  made.line(b, c);
  made.line(c, d);
  made.circle(made.point(10, 6), 3);
  for (const std::string& end : {a, d}) made.hold("on", {end, vAxisId});
  const Solution solution = made.solved();
  Drawing both = withMirrored(made.drawing, {"c1", "c2", "c3", "c4"}, vAxisId, made.values, solution);
  EXPECT_EQ(both.points.size(), 5u + 3u);
  EXPECT_EQ(both.curves.size(), 8u);
  const double hole = 9 * pi;
  EXPECT_THAT(
      areasOf(both, valuesOf(both, {})),
      testing::UnorderedElementsAre(DoubleNear(600 - 2 * hole, 1e-7), DoubleNear(hole, 1e-7), DoubleNear(hole, 1e-7)));
  // What is dragged on one side moves on the other.
  const Solution now = dragged(both, valuesOf(both, {}), {{2}, {5, 0}});
  const auto twin = std::find_if(both.constraints.begin(), both.constraints.end(), [&](const DrawnConstraint& each) {
    return each.kind == "symmetric" && each.on[1] == c;
  });
  ASSERT_NE(twin, both.constraints.end());
  const PlanePoint there = now.points[*both.point(twin->on[2])];
  EXPECT_NEAR(there.u, -now.points[2].u, 1e-9);
  EXPECT_NEAR(now.points[2].u, 25, 0.01);
  // An arc keeps its bulge.
  DrawingBuilder arcs;
  const std::string arc = arcs.curve("arc", {arcs.point(10, 0), arcs.point(14, 0), arcs.point(10, 4)});
  const Drawing two = withMirrored(arcs.drawing, {arc}, vAxisId, arcs.values, arcs.solved());
  const Solution solved = solve(two, valuesOf(two, {}));
  const auto curves = curvesOf(two, valuesOf(two, {}), solved, true);
  EXPECT_NEAR(curves[1].geometry->at(0.5).u, -curves[0].geometry->at(0.5).u, 1e-9);
  EXPECT_NEAR(curves[1].geometry->at(0.5).v, curves[0].geometry->at(0.5).v, 1e-9);
}

}  // namespace
}  // namespace kervo
