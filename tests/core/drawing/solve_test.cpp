#include "drawing/solve.h"

#include <gmock/gmock.h>

#include <numbers>

#include "base/error.h"
#include "core/drawing/drawing_builder.h"
#include "drawing/curve_kind.h"
#include "geom/planes.h"

namespace kervo {
namespace {

using testing::ElementsAre;
using testing::IsEmpty;

constexpr double near = 1e-9;
constexpr double degree = std::numbers::pi / 180;

void expectAt(PlanePoint point, double u, double v) {
  EXPECT_NEAR(point.u, u, near);
  EXPECT_NEAR(point.v, v, near);
}

TEST(Solve, LeavesAFreeDrawingAsItIs) {
  DrawingBuilder made;
  made.segment(1, 2, 4, 6);
  made.circle(made.point(0, 9), 3);
  const Solution solution = made.solved();
  EXPECT_EQ(solution.freedoms, 7);
  EXPECT_EQ(solution.points[1], (PlanePoint{4, 6}));
  EXPECT_EQ(solution.sizes[1], std::vector<double>{3});
  EXPECT_EQ(solution.directions[0].size(), 2u);
  EXPECT_THAT(solution.settled, ElementsAre(false, false));
}

TEST(Solve, SettlesARectangle) {
  DrawingBuilder made;
  made.rectangle(0.3, -0.2, 19, 11);
  for (const char* line : {"c1", "c3"}) made.hold("horizontal", {line});
  for (const char* line : {"c2", "c4"}) made.hold("vertical", {line});
  EXPECT_EQ(made.solved().freedoms, 4);
  made.hold("coincident", {"p1", originId});
  made.measure("length", {"c1"}, 20);
  const Solution halfWay = made.solved();
  EXPECT_EQ(halfWay.freedoms, 1);
  EXPECT_THAT(halfWay.directions[1], IsEmpty());
  ASSERT_EQ(halfWay.directions[2].size(), 1u);
  EXPECT_NEAR(std::abs(halfWay.directions[2][0].v), 1, near);
  EXPECT_THAT(halfWay.settled, ElementsAre(true, false, false, false));
  made.measure("distance", {"c1", "c3"}, 12);
  const Solution solution = made.solved();
  EXPECT_EQ(solution.freedoms, 0);
  EXPECT_TRUE(solution.holds());
  expectAt(solution.points[0], 0, 0);
  expectAt(solution.points[2], 20, 12);
  EXPECT_THAT(solution.settled, ElementsAre(true, true, true, true));
}

TEST(Solve, KeepsTheSideOfATriangle) {
  for (const double height : {4.0, -4.0}) {
    DrawingBuilder made;
    const std::string a = made.point(0, 0), b = made.point(6, 0), c = made.point(3, height);
    made.line(a, b);
    made.line(b, c);
    made.line(c, a);
    made.hold("fixed", {a});
    made.hold("horizontal", {"c1"});
    made.measure("length", {"c1"}, 60);
    made.measure("length", {"c2"}, 34);
    made.measure("length", {"c3"}, 34);
    const Solution solution = made.solved();
    EXPECT_EQ(solution.freedoms, 0);
    expectAt(solution.points[2], 30, height < 0 ? -16 : 16);
  }
}

TEST(Solve, HoldsEveryKindOfConstraintOnLines) {
  DrawingBuilder made;
  const std::string fixed = made.fixedLine(0, 0, 10, 10);
  const std::string a = made.point(3, 1), b = made.point(9, 5), c = made.point(1, 8);
  const std::string along = made.line(a, b), across = made.line(a, c);
  made.hold("parallel", {fixed, along});
  made.hold("perpendicular", {fixed, across});
  made.hold("equal", {along, across});
  made.measure("distance", {a, fixed}, 2);
  made.measure("length", {along}, 5);
  made.hold("on", {a, "u_axis"});
  const Solution solution = made.solved();
  ASSERT_TRUE(solution.holds());
  EXPECT_EQ(solution.freedoms, 0);
  expectAt(solution.points[0], 2 * std::numbers::sqrt2, 0);
  const PlanePoint way = solution.points[1] - solution.points[0], other = solution.points[2] - solution.points[0];
  EXPECT_NEAR(way.u, way.v, near);
  EXPECT_NEAR(dot(way, other), 0, near);
  EXPECT_NEAR(length(other), 5, near);
  EXPECT_GT(cross(way, other), 0);
}

TEST(Solve, HoldsMiddlesAndMirrors) {
  DrawingBuilder made;
  const std::string a = made.point(1, 1), b = made.point(8, 3), m = made.point(3, 3), n = made.point(-2, 7);
  const std::string line = made.line(a, b);
  made.hold("midpoint", {m, line});
  made.hold("symmetric", {m, n, "v_axis"});
  made.hold("fixed", {line});
  const Solution solution = made.solved();
  expectAt(solution.points[2], 4.5, 2);
  expectAt(solution.points[3], -4.5, 2);
  EXPECT_EQ(solution.freedoms, 0);
}

TEST(Solve, HoldsTangentsOnTheSideWhereTheyAre) {
  for (const double side : {1.0, -1.0}) {
    DrawingBuilder made;
    const std::string circle = made.circle(made.point(5, 7 * side), 4);
    made.hold("tangent", {circle, "u_axis"});
    made.measure("radius", {circle}, 6);
    made.measure("distance", {"p1", "v_axis"}, 5);
    const Solution solution = made.solved();
    expectAt(solution.points[0], 5, 6 * side);
    EXPECT_EQ(solution.freedoms, 0);
  }
}

TEST(Solve, RoundsACornerWithATangentArc) {
  // A slot: two lines and two arcs that share their ends.
  DrawingBuilder made;
  const std::string left = made.point(0, 0), right = made.point(29, 1);
  const std::string a = made.point(0, -5), b = made.point(30, -4), c = made.point(30, 6), d = made.point(-1, 5);
  const std::string bottom = made.line(a, b), top = made.line(c, d);
  const std::string first = made.curve("arc", {right, b, c}), second = made.curve("arc", {left, d, a});
  for (const std::string& line : {bottom, top})
    for (const std::string& arc : {first, second}) made.hold("tangent", {line, arc});
  made.hold("fixed", {left});
  made.hold("horizontal", {left, right});
  made.measure("distance", {left, right}, 30);
  made.measure("diameter", {first}, 8);
  EXPECT_EQ(made.solved().freedoms, 1);
  made.hold("equal", {first, second});
  const Solution solution = made.solved();
  ASSERT_TRUE(solution.holds());
  EXPECT_EQ(solution.freedoms, 0);
  expectAt(solution.points[2], 0, -4);
  expectAt(solution.points[4], 30, 4);
}

TEST(Solve, HoldsAnglesBothWaysRound) {
  for (const double side : {1.0, -1.0}) {
    DrawingBuilder made;
    const std::string line = made.segment(0, 0, 10, side * 3);
    made.hold("fixed", {"p1"});
    made.measure("angle", {line}, 30 * degree);
    made.measure("length", {line}, 20);
    expectAt(made.solved().points[1], 10 * std::sqrt(3), side * 10);
  }
}

TEST(Solve, HoldsPointsOnEllipsesAndTangentsToThem) {
  DrawingBuilder made;
  const std::string ellipse = made.curve("ellipse", {made.point(0, 0), made.point(10, 0)}, {4});
  made.hold("fixed", {ellipse});
  const std::string on = made.point(5, 4);
  made.hold("on", {on, ellipse});
  made.measure("distance", {on, "v_axis"}, 6);
  const std::string tangent = made.segment(-8, 5, 9, 6);
  made.hold("tangent", {tangent, ellipse});
  made.hold("horizontal", {tangent});
  const Solution solution = made.solved();
  ASSERT_TRUE(solution.holds());
  expectAt(solution.points[2], 6, 3.2);
  EXPECT_NEAR(solution.points[3].v, 4, near);
  EXPECT_NEAR(solution.points[4].v, 4, near);
}

TEST(Solve, MakesSplinesTangentAndSmooth) {
  DrawingBuilder made;
  const std::string a = made.point(0, 0), b = made.point(3, 4), c = made.point(8, 3), d = made.point(10, -2);
  const std::string spline = made.curve("control_spline", {a, b, c, d});
  made.drawing.curves.back().degree = 3;
  const std::string before = made.point(-5, -1), line = made.line(before, a);
  made.hold("fixed", {line});
  made.hold("fixed", {d});
  made.hold("tangent", {spline, line});
  EXPECT_EQ(made.solved().freedoms, 3);
  made.drawing.constraints.back().kind = "smooth";
  const Solution smooth = made.solved();
  ASSERT_TRUE(smooth.holds());
  EXPECT_EQ(smooth.freedoms, 2);
  const Spline now =
      Spline::controlled(3, {smooth.points[0], smooth.points[1], smooth.points[2], smooth.points[3]}, {}, false);
  EXPECT_NEAR(cross(now.frame(0).tangent(), PlanePoint{5, 1}), 0, 1e-8);
  EXPECT_NEAR(now.frame(0).curvature(), 0, 1e-9);
}

TEST(Solve, MakesASplineThroughPointsSmoothToAnArc) {
  DrawingBuilder made;
  const std::string end = made.point(5, 0);
  made.curve("arc", {made.point(0, 0), made.point(0, -5), end});
  const std::string spline = made.curve("spline", {end, made.point(6, 6), made.point(2, 9), made.point(-3, 8)});
  made.hold("fixed", {"c1"});
  made.hold("fixed", {"p5"});
  made.hold("smooth", {spline, "c1"});
  const Solution solution = made.solved();
  ASSERT_TRUE(solution.holds());
  EXPECT_EQ(solution.freedoms, 2);
  const Spline now =
      Spline::through({solution.points[0], solution.points[3], solution.points[4], solution.points[5]}, false);
  EXPECT_NEAR(now.frame(0).tangent().v, 1, 1e-8);
  EXPECT_NEAR(now.frame(0).curvature(), 0.2, 1e-8);
}

TEST(Solve, PutsPointsOnSplines) {
  DrawingBuilder made;
  const std::string spline = made.curve("spline", {made.point(0, 0), made.point(5, 4), made.point(12, 1)});
  const std::string on = made.point(7, 7);
  made.hold("fixed", {spline});
  made.hold("on", {on, spline});
  const Solution solution = made.solved();
  ASSERT_TRUE(solution.holds());
  EXPECT_EQ(solution.freedoms, 1);
  const Spline now = Spline::through({{0, 0}, {5, 4}, {12, 1}}, false);
  EXPECT_LT(distance(now.at(now.nearest(solution.points[3])), solution.points[3]), near);
}

TEST(Solve, SaysWhatSaysNothingNew) {
  DrawingBuilder made;
  made.rectangle(0, 0, 20, 10);
  for (const char* line : {"c1", "c3"}) made.hold("horizontal", {line});
  for (const char* line : {"c2", "c4"}) made.hold("vertical", {line});
  const std::string parallel = made.hold("parallel", {"c1", "c3"});
  const std::string corner = made.hold("perpendicular", {"c1", "c2"});
  made.measure("length", {"c1"}, 20);
  const std::string again = made.measure("length", {"c3"}, 20);
  const Solution solution = made.solved();
  EXPECT_TRUE(solution.holds());
  EXPECT_THAT(solution.alreadyTrue, ElementsAre(parallel, corner, again));
}

TEST(Solve, NamesTheSmallestContradiction) {
  DrawingBuilder made;
  made.rectangle(0, 0, 20, 10);
  const std::string k1 = made.hold("horizontal", {"c1"});
  made.hold("horizontal", {"c3"});
  const std::string k3 = made.hold("vertical", {"c2"});
  made.hold("vertical", {"c4"});
  made.measure("length", {"c1"}, 25);
  const std::string angle = made.measure("angle", {"c1", "c2"}, 80 * degree);
  const Solution solution = made.solved();
  ASSERT_EQ(solution.conflicts.size(), 1u);
  EXPECT_EQ(solution.conflicts[0].constraint, angle);
  EXPECT_THAT(solution.conflicts[0].with, ElementsAre(k1, k3));
  // The drawing stays as it was, although the width alone could have changed.
  EXPECT_EQ(solution.points[1], (PlanePoint{20, 0}));
}

TEST(Solve, LeavesOtherPartsFreeOfAContradiction) {
  DrawingBuilder made;
  const std::string line = made.segment(0, 0, 10, 0);
  made.measure("length", {line}, 12);
  made.measure("length", {line}, 13);
  const std::string other = made.segment(0, 5, 10, 5);
  made.measure("length", {other}, 30);
  const Solution solution = made.solved();
  ASSERT_EQ(solution.conflicts.size(), 1u);
  EXPECT_EQ(distance(solution.points[0], solution.points[1]), 10);
  EXPECT_NEAR(distance(solution.points[2], solution.points[3]), 30, near);
}

TEST(Solve, RefusesANegativeRadiusByItself) {
  DrawingBuilder made;
  const std::string circle = made.circle(made.point(0, 0), 5);
  const std::string radius = made.measure("radius", {circle}, -2);
  const Solution solution = made.solved();
  ASSERT_EQ(solution.conflicts.size(), 1u);
  EXPECT_EQ(solution.conflicts[0].constraint, radius);
  EXPECT_THAT(solution.conflicts[0].reason, testing::HasSubstr("not greater than zero"));
  EXPECT_EQ(solution.sizes[0][0], 5);
}

TEST(Solve, MeasuresReferencesAndDrivesNothingByThem) {
  DrawingBuilder made;
  const std::string line = made.segment(0, 0, 3, 4);
  made.measure("length", {line}, 100, true);
  const Solution solution = made.solved();
  EXPECT_EQ(solution.freedoms, 4);
  EXPECT_NEAR(solution.measured[0], 5, near);
}

TEST(Solve, DragsWhatIsFreeAndKeepsTheRest) {
  DrawingBuilder made;
  made.rectangle(0, 0, 20, 10);
  for (const char* line : {"c1", "c3"}) made.hold("horizontal", {line});
  for (const char* line : {"c2", "c4"}) made.hold("vertical", {line});
  made.hold("coincident", {"p1", originId});
  made.measure("length", {"c1"}, 20);
  const Solution solution = dragged(made.drawing, made.values, {{2}, {7, 5}});
  expectAt(solution.points[2], 20, 15);
  expectAt(solution.points[3], 0, 15);
}

TEST(Solve, DragsAnArmAboutItsJoint) {
  DrawingBuilder made;
  const std::string line = made.segment(0, 0, 10, 0);
  made.hold("fixed", {"p1"});
  made.measure("length", {line}, 10);
  const Solution solution = dragged(made.drawing, made.values, {{1}, {0, 10}});
  EXPECT_NEAR(length(solution.points[1]), 10, near);
  EXPECT_GT(solution.points[1].v, 5);
}

TEST(Solve, TakesLargeStepsWithoutTurningOver) {
  // A linkage whose apex would turn over if the long side jumped at once.
  DrawingBuilder made;
  const std::string a = made.point(0, 0), b = made.point(10, 0), c = made.point(5, 0.5), d = made.point(15, 0.5);
  made.line(a, c);
  made.line(c, b);
  made.line(b, d);
  made.line(d, c);
  made.hold("fixed", {a});
  made.hold("horizontal", {a, b});
  made.measure("length", {"c1"}, 5);
  made.measure("length", {"c2"}, 5.2);
  made.measure("length", {"c3"}, 6);
  made.measure("length", {"c4"}, 10);
  made.measure("distance", {a, b}, 2);
  const Solution solution = made.solved();
  ASSERT_TRUE(solution.holds());
  EXPECT_GT(solution.points[2].v, 0);
  EXPECT_LT(cross(solution.points[1] - solution.points[2], solution.points[3] - solution.points[2]) *
                cross(PlanePoint{5, -0.5}, PlanePoint{10, 0}),
            1e9);
}

TEST(Solve, IsTheSameEveryTime) {
  DrawingBuilder made;
  made.rectangle(0.1, 0.2, 7, 5);
  made.hold("perpendicular", {"c1", "c2"});
  made.hold("parallel", {"c1", "c3"});
  made.measure("length", {"c1"}, 8);
  EXPECT_EQ(made.solved().points, made.solved().points);
}

TEST(RequireSound, NamesWhatIsWrong) {
  const auto whatIsWrong = [](const std::function<void(DrawingBuilder&)>& spoil) {
    DrawingBuilder made;
    made.rectangle(0, 0, 2, 1);
    made.hold("horizontal", {"c1"});
    spoil(made);
    try {
      requireSound(made.drawing);
    } catch (const Error& error) {
      return std::string(error.what());
    }
    return std::string();
  };
  EXPECT_EQ(whatIsWrong([](DrawingBuilder&) {}), "");
  EXPECT_THAT(whatIsWrong([](DrawingBuilder& made) { made.drawing.points[1].id = "p1"; }),
              testing::HasSubstr("comes twice"));
  EXPECT_THAT(whatIsWrong([](DrawingBuilder& made) { made.drawing.points[1].id = "origin"; }),
              testing::HasSubstr("cannot be an id"));
  EXPECT_THAT(whatIsWrong([](DrawingBuilder& made) { made.line("p1", "p9"); }), testing::HasSubstr("no point \"p9\""));
  EXPECT_THAT(whatIsWrong([](DrawingBuilder& made) { made.line("p1", "p1"); }),
              testing::HasSubstr("comes twice in it"));
  EXPECT_THAT(whatIsWrong([](DrawingBuilder& made) {
                made.hold("parallel", {"c1", "p2"});
              }),
              testing::HasSubstr("it can be on: line, line"));
  EXPECT_THAT(whatIsWrong([](DrawingBuilder& made) { made.hold("loose", {"c1"}); }),
              testing::HasSubstr("no kind of constraint"));
  EXPECT_THAT(whatIsWrong([](DrawingBuilder& made) { made.hold("length", {"c1"}); }),
              testing::HasSubstr("has no value"));
  EXPECT_THAT(whatIsWrong([](DrawingBuilder& made) {
                made.hold("parallel", {"c1", "c17"});
              }),
              testing::HasSubstr("no point or curve \"c17\""));
}

TEST(Solve, ParallelLinesCanBeTurnedToARightAngle) {
  // Where they start, no small movement brings them any nearer.
  DrawingBuilder made;
  made.segment(20, 10, 60, 17);
  made.segment(20, 30, 60, 37);
  made.hold("perpendicular", {"c1", "c2"});
  const Solution solution = made.solved();
  ASSERT_TRUE(solution.holds());
  EXPECT_NEAR(dot(solution.points[1] - solution.points[0], solution.points[3] - solution.points[2]), 0, 1e-6);
  for (const double v : {37.0, 45.0, 60.0, -20.0}) {
    DrawingBuilder turned;
    turned.segment(20, 10, 60, 17);
    turned.segment(20, 30, 60, v);
    turned.hold("parallel", {"c1", "c2"});
    turned.drawing = moved(turned.drawing, turned.solved());
    turned.drawing.constraints[0].kind = "perpendicular";
    EXPECT_TRUE(turned.solved().holds()) << v;
  }
  // With what keeps them parallel, both are named.
  DrawingBuilder both;
  both.segment(20, 10, 60, 17);
  both.segment(20, 30, 60, 37);
  both.hold("parallel", {"c1", "c2"});
  both.hold("perpendicular", {"c1", "c2"});
  const Solution none = both.solved();
  ASSERT_EQ(none.conflicts.size(), 1u);
  EXPECT_EQ(none.conflicts[0].constraint, "k2");
  EXPECT_THAT(none.conflicts[0].with, ElementsAre("k1"));
}

}  // namespace
}  // namespace kervo
