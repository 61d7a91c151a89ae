#include "drawing/trims.h"

#include <gmock/gmock.h>

#include <cmath>
#include <numbers>
#include <random>

#include "base/error.h"
#include "core/drawing/drawing_builder.h"
#include "drawing/crossings.h"
#include "drawing/drawing_result.h"
#include "geom/planes.h"

namespace kervo {
namespace {

using testing::ElementsAre;

constexpr double pi = std::numbers::pi;

class TrimsTest : public testing::Test {
 protected:
  /// The drawing solved again after a cut: nothing may move, and nothing may contradict.
  Solution settled(const Trimmed& trimmed) {
    EXPECT_NO_THROW(requireSound(trimmed.drawing));
    values = {};
    for (const DrawnCurve& curve : trimmed.drawing.curves) values.numbers.emplace_back(curve.numbers.size());
    values.constraints.assign(trimmed.drawing.constraints.size(), 0);
    for (std::size_t i = 0; i < trimmed.drawing.constraints.size(); ++i)
      if (const auto found = measures.find(trimmed.drawing.constraints[i].id); found != measures.end())
        values.constraints[i] = found->second;
    const Solution solution = solve(trimmed.drawing, values);
    EXPECT_TRUE(solution.holds());
    for (std::size_t i = 0; i < trimmed.drawing.points.size(); ++i)
      EXPECT_LT(distance(solution.points[i], trimmed.drawing.points[i].last), 1e-7);
    return solution;
  }
  double lengthOf(const Trimmed& trimmed) {
    const Solution solution = settled(trimmed);
    double sum = 0;
    for (const PlanarCurve& curve : curvesOf(trimmed.drawing, values, solution, true))
      sum += lengthBetween(*curve.geometry, 0, 1);
    return sum;
  }
  std::vector<double> areas(const Trimmed& trimmed) {
    const Solution solution = settled(trimmed);
    Progress progress;
    std::vector<double> result;
    for (const Region& region : DrawingResult::of({}, trimmed.drawing, values, solution, progress).regions)
      result.push_back(region.area());
    return result;
  }
  std::vector<std::string> kinds(const Trimmed& trimmed) {
    std::vector<std::string> result;
    for (const DrawnConstraint& constraint : trimmed.drawing.constraints) result.push_back(constraint.kind);
    return result;
  }

  DrawingBuilder made;
  DrawingValues values;
  std::map<std::string, double> measures;
};

TEST_F(TrimsTest, ALineLosesTheStretchThatIsPointedAt) {
  const std::string line = made.segment(0, 0, 30, 0);
  made.segment(10, -5, 10, 5);
  made.segment(20, -5, 20, 5);
  const Solution solution = made.solved();
  const auto pieces = piecesOf(made.drawing, made.values, solution, line);
  ASSERT_EQ(pieces.size(), 3u);
  EXPECT_NEAR(pieces[1].to, 2.0 / 3, 1e-12);
  EXPECT_NEAR(lengthOf(trimmed(made.drawing, made.values, solution, line, {15, 1})), 20 + 20, 1e-9);
  EXPECT_NEAR(lengthOf(trimmed(made.drawing, made.values, solution, line, {2, 0})), 20 + 20, 1e-9);
  const Trimmed middle = trimmed(made.drawing, made.values, solution, line, {15, 1});
  // Two stretches, which stay parallel, with ends on what cut them.
  EXPECT_EQ(middle.drawing.curves.size(), 4u);
  EXPECT_EQ(middle.drawing.curves[0].id, line);
  EXPECT_THAT(kinds(middle), ElementsAre("on", "on", "parallel"));
  // One that none meets goes as a whole.
  DrawingBuilder alone;
  const std::string only = alone.segment(0, 0, 3, 4);
  EXPECT_TRUE(trimmed(alone.drawing, alone.values, alone.solved(), only, {1, 1}).drawing.curves.empty());
}

TEST_F(TrimsTest, ACircleOpensIntoAnArc) {
  const std::string round = made.circle(made.point(0, 0), 5);
  made.segment(-10, 3, 10, 3);
  const Solution solution = made.solved();
  const Trimmed low = trimmed(made.drawing, made.values, solution, round, {0, 5});
  EXPECT_EQ(low.drawing.curves[0].kind, "arc");
  const double half = std::acos(3.0 / 5);
  EXPECT_NEAR(lengthOf(low), 20 + 5 * (2 * pi - 2 * half), 1e-9);
  // What is left and the line enclose the larger segment.
  EXPECT_THAT(areas(low), ElementsAre(testing::DoubleNear(25 * pi - (25 * half - 12), 1e-7)));
  const Trimmed both = split(made.drawing, made.values, solution, round);
  EXPECT_EQ(both.drawing.curves.size(), 3u);
  EXPECT_NEAR(lengthOf(both), 20 + 10 * pi, 1e-9);
  EXPECT_EQ(areas(both).size(), 2u);
}

TEST_F(TrimsTest, WhatHeldGoesOnToHold) {
  const std::string line = made.segment(0, 0, 30, 0);
  const std::string across = made.segment(12, -5, 12, 5);
  made.hold("horizontal", {line});
  made.measure("length", {line}, 30);
  measures["k2"] = 30;
  made.hold("perpendicular", {line, across});
  const Solution solution = made.solved();
  const Trimmed two = split(made.drawing, made.values, solution, line);
  EXPECT_THAT(kinds(two), ElementsAre("horizontal", "distance", "perpendicular", "on", "parallel"));
  EXPECT_TRUE(two.lost.empty());
  settled(two);
  const Trimmed rest = trimmed(made.drawing, made.values, solution, line, {29, 0});
  EXPECT_THAT(rest.lost, ElementsAre("k2"));
  EXPECT_NEAR(lengthOf(rest), 12 + 10, 1e-9);
}

TEST_F(TrimsTest, AnEndThatLiesOnItBecomesTheSharedPoint) {
  const std::string line = made.segment(0, 0, 30, 0);
  const std::string foot = made.point(12, 0), top = made.point(12, 9);
  made.line(foot, top);
  made.hold("on", {foot, line});
  const Trimmed two = split(made.drawing, made.values, made.solved(), line);
  EXPECT_EQ(two.drawing.points.size(), 4u);
  EXPECT_THAT(kinds(two), ElementsAre("parallel"));
  EXPECT_EQ(two.drawing.curves[0].points[1], foot);
  settled(two);
}

TEST_F(TrimsTest, AnEndGoesOnToTheNextCurve) {
  const std::string line = made.segment(0, 0, 10, 0);
  made.segment(20, -5, 20, 5);
  made.segment(40, -5, 40, 5);
  const Solution solution = made.solved();
  EXPECT_NEAR(lengthOf(lengthened(made.drawing, made.values, solution, line, {9, 0})), 20 + 20, 1e-9);
  EXPECT_THROW(lengthened(made.drawing, made.values, solution, line, {1, 0}), Error);
  // An arc goes round.
  DrawingBuilder arcs;
  const std::string arc = arcs.curve("arc", {arcs.point(0, 0), arcs.point(5, 0), arcs.point(0, 5)});
  arcs.segment(-10, -3, 0, -3);
  made = arcs;
  const Trimmed longer = lengthened(arcs.drawing, arcs.values, arcs.solved(), arc, {0, 5});
  EXPECT_NEAR(lengthOf(longer), 10 + 5 * (pi + std::asin(3.0 / 5)), 1e-9);
}

TEST_F(TrimsTest, StretchesOfSplinesAreExact) {
  const std::string spline =
      made.curve("spline", {made.point(0, 0), made.point(10, 8), made.point(20, -6), made.point(30, 3)});
  made.segment(5, -20, 5, 20);
  made.segment(25, -20, 25, 20);
  const Solution solution = made.solved();
  const auto before = curvesOf(made.drawing, made.values, solution, true).front().geometry;
  const Trimmed two = trimmed(made.drawing, made.values, solution, spline, {15, 0});
  const Solution there = settled(two);
  const auto curves = curvesOf(two.drawing, values, there, true);
  ASSERT_EQ(curves.size(), 4u);
  EXPECT_EQ(two.drawing.curves[0].id, spline);
  EXPECT_EQ(two.drawing.curves[0].kind, "control_spline");
  EXPECT_THAT(kinds(two), ElementsAre("on", "on"));
  for (const PlanarCurve& curve : {curves[0], curves[3]})
    for (int i = 0; i <= 50; ++i) {
      const PlanePoint at = curve.geometry->at(i / 50.0);
      EXPECT_LT(distance(before->at(nearestOn(*before, at)), at), 1e-9);
    }
  EXPECT_NEAR(distance(curves[0].geometry->at(1), curves[3].geometry->at(0)),
              distance(before->at(piecesOf(made.drawing, made.values, solution, spline)[1].from),
                       before->at(piecesOf(made.drawing, made.values, solution, spline)[1].to)),
              1e-9);
}

TEST_F(TrimsTest, AClosedSplineOpensAndStaysSmooth) {
  std::vector<std::string> points;
  for (int k = 0; k < 6; ++k) points.push_back(made.point(10 * std::cos(k), 10 * std::sin(k)));
  const std::string spline = made.curve("control_spline", points);
  made.drawing.curves.back().degree = 3;
  made.drawing.curves.back().closed = true;
  made.segment(-20, 1, 20, 1);
  const Solution solution = made.solved();
  const auto before = curvesOf(made.drawing, made.values, solution, true).front().geometry;
  for (const double v : {9.0, -9.0}) {
    const Trimmed open = trimmed(made.drawing, made.values, solution, spline, {0, v});
    const Solution there = settled(open);
    const auto curve = curvesOf(open.drawing, values, there, true).front().geometry;
    EXPECT_FALSE(curve->closed());
    for (int i = 0; i <= 50; ++i) {
      const PlanePoint at = curve->at(i / 50.0);
      EXPECT_LT(distance(before->at(nearestOn(*before, at)), at), 1e-9);
    }
    // No knot comes twice inside: it is as smooth as it was, where its start was too.
    const std::vector<double>& knots = open.drawing.curves.front().knots;
    for (std::size_t i = 4; i + 4 < knots.size(); ++i) EXPECT_LT(knots[i - 1], knots[i] - 1e-9);
  }
}

TEST_F(TrimsTest, ASplineThatCrossesItselfLosesItsLoop) {
  const std::string spline =
      made.curve("control_spline", {made.point(0, 0), made.point(30, 30), made.point(-20, 30), made.point(10, 0)});
  made.drawing.curves.back().degree = 3;
  const Solution solution = made.solved();
  const Trimmed three = split(made.drawing, made.values, solution, spline);
  EXPECT_EQ(three.drawing.curves.size(), 3u);
  EXPECT_NEAR(lengthOf(three),
              lengthBetween(*curvesOf(made.drawing, made.values, solution, true).front().geometry, 0, 1), 1e-6);
  const Trimmed open = trimmed(made.drawing, made.values, solution, spline, {5, 22});
  ASSERT_EQ(open.drawing.curves.size(), 2u);
  // Both go on to the one point where the loop was.
  EXPECT_EQ(open.drawing.curves[0].points.back(), open.drawing.curves[1].points.front());
  settled(open);
}

TEST_F(TrimsTest, ASplineGoesOnAsItRuns) {
  // v = u² from u = 0 to 2, to the lines u = 3 and u = −1.
  const std::string parabola = made.curve("control_spline", {made.point(0, 0), made.point(1, 0), made.point(2, 4)});
  made.drawing.curves.back().degree = 2;
  made.segment(3, -20, 3, 20);
  made.segment(-1, -20, -1, 20);
  made.segment(50, -20, 50, 20);
  const Solution solution = made.solved();
  const auto check = [&](PlanePoint near, PlanePoint reached) {
    const Trimmed longer = lengthened(made.drawing, made.values, solution, parabola, near);
    const Solution there = settled(longer);
    const auto curve = curvesOf(longer.drawing, values, there, true).front().geometry;
    EXPECT_LT(std::min(distance(curve->at(0), reached), distance(curve->at(1), reached)), 1e-9);
    for (int i = 0; i <= 20; ++i) EXPECT_NEAR(curve->at(i / 20.0).v, std::pow(curve->at(i / 20.0).u, 2), 1e-9);
    EXPECT_EQ(longer.drawing.curves.front().points.size(), 3u);
  };
  check({2, 4}, {3, 9});
  check({0, 0}, {-1, 1});
}

TEST_F(TrimsTest, PartOfAnEllipseGoesOnAlongIt) {
  const std::string arc =
      made.curve("elliptical_arc", {made.point(0, 0), made.point(10, 0), made.point(10, 0), made.point(0, 5)}, {5});
  made.segment(-20, -2, 20, -2);
  const Solution solution = made.solved();
  for (const PlanePoint near : {PlanePoint{0, 5}, PlanePoint{10, 0}}) {
    const Trimmed longer = lengthened(made.drawing, made.values, solution, arc, near);
    const Solution there = settled(longer);
    const auto curve = curvesOf(longer.drawing, values, there, true).front().geometry;
    const bool atStart = near.u > 5;
    const PlanePoint reached{(atStart ? 10 : -10) * std::sqrt(1 - 4.0 / 25), -2};
    EXPECT_LT(distance(curve->at(atStart ? 0 : 1), reached), 1e-9);
  }
}

TEST_F(TrimsTest, EndsWithAGapAreJoined) {
  made.segment(0, 0, 10, 0);
  made.segment(10.3, 0, 10, 8);
  made.segment(10, 8, 0.2, 0.1);
  const Solution solution = made.solved();
  EXPECT_THROW(joined(made.drawing, made.values, solution, 0.1), Error);
  const Trimmed closed = joined(made.drawing, made.values, solution, 0.5);
  EXPECT_EQ(areas(closed).size(), 1u);
}

TEST_F(TrimsTest, WhatCannotBeCutSaysWhy) {
  const std::string fixed = made.fixedLine(0, 0, 10, 0);
  const std::string spline = made.curve("spline", {made.point(0, 1), made.point(5, 5), made.point(10, 1)});
  const Solution solution = made.solved();
  EXPECT_THROW(split(made.drawing, made.values, solution, fixed), Error);
  EXPECT_THROW(split(made.drawing, made.values, solution, spline), Error);
  EXPECT_THROW(split(made.drawing, made.values, solution, "nothing"), Error);
}

/// 500 random trims: the stretches of a curve make up its length, and a trim takes exactly the stretch it names.
TEST_F(TrimsTest, RandomTrimsTakeExactlyTheirStretch) {
  std::mt19937 random(14401);
  std::uniform_real_distribution<double> at(-50, 50), radius(5, 30);
  int done = 0;
  for (int round = 0; done < 500; ++round) {
    ASSERT_LT(round, 200);
    made = {};
    for (int i = 0; i < 6; ++i) {
      const double u = at(random), v = at(random), r = radius(random);
      switch (random() % 6) {
        case 0:
          made.circle(made.point(u, v), r);
          break;
        case 1: {
          const double from = at(random), sweep = 0.5 + std::abs(at(random)) / 10;
          const std::string centre = made.point(u, v);
          const std::string start = made.point(u + r * std::cos(from), v + r * std::sin(from));
          const std::string end = made.point(u + r * std::cos(from + sweep), v + r * std::sin(from + sweep));
          made.curve("arc", {centre, start, end});
          break;
        }
        case 2: {
          const std::string centre = made.point(u, v);
          made.curve("ellipse", {centre, made.point(u + r, v + r / 3)}, {r / 2});
          break;
        }
        case 3: {
          // A spline about a place, through its points or controlled by them, open or closed.
          const bool controlled = random() % 2 == 0;
          std::vector<std::string> points;
          for (int k = 0; k < 5; ++k)
            points.push_back(made.point(u + r * std::cos(1.2 * k), v + r * std::sin(1.2 * k) * (1 + 0.1 * k)));
          made.curve(controlled ? "control_spline" : "spline", points);
          if (controlled) made.drawing.curves.back().degree = 1 + static_cast<int>(random() % 4);
          if (controlled && random() % 2 == 0) made.drawing.curves.back().weights = {1, 2, 0.5, 1, 3};
          made.drawing.curves.back().closed = random() % 2 == 0;
          break;
        }
        default:
          made.segment(u, v, at(random), at(random));
      }
    }
    const Solution solution = made.solved();
    const std::vector<PlanarCurve> curves = curvesOf(made.drawing, made.values, solution, true);
    double all = 0;
    for (const PlanarCurve& curve : curves) all += lengthBetween(*curve.geometry, 0, 1);
    for (const PlanarCurve& curve : curves) {
      const auto pieces = piecesOf(made.drawing, made.values, solution, curve.id);
      double sum = 0;
      for (const CurvePiece& piece : pieces)
        sum += lengthBetween(*curve.geometry, piece.from, std::min(piece.to, 1.0)) +
               (piece.to > 1 ? lengthBetween(*curve.geometry, 0, piece.to - 1) : 0);
      EXPECT_NEAR(sum, lengthBetween(*curve.geometry, 0, 1), 1e-8 * all);
      const CurvePiece& gone = pieces[random() % pieces.size()];
      double middle = (gone.from + gone.to) / 2;
      if (middle > 1) middle -= 1;
      const double size = lengthBetween(*curve.geometry, gone.from, std::min(gone.to, 1.0)) +
                          (gone.to > 1 ? lengthBetween(*curve.geometry, 0, gone.to - 1) : 0);
      const Trimmed left = trimmed(made.drawing, made.values, solution, curve.id, curve.geometry->at(middle));
      EXPECT_NEAR(lengthOf(left), all - size, 1e-7 * all) << "round " << round << ", " << curve.id;
      ++done;
    }
  }
}

}  // namespace
}  // namespace kervo
