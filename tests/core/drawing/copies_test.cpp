#include "drawing/copies.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"
#include "drawing/drawing_edits.h"
#include "drawing/drawing_result.h"
#include "drawing_builder.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

DrawingResult resultOf(const DrawingBuilder& made) {
  Progress progress;
  return DrawingResult::of({}, made.drawing, made.values, made.solved(), progress);
}

TEST(Copies, ARingOfCirclesFollowsTheFirst) {
  DrawingBuilder made;
  const std::string centre = made.point(30, 0), hole = made.circle(centre, 3);
  made.drawing = withCopies(made.drawing, "ring", {hole}, originId);
  made.values.copies = {{6, 2 * pi}};
  EXPECT_EQ(made.drawing.copies.front().id, "ring1");
  DrawingResult result = resultOf(made);
  ASSERT_EQ(result.regions.size(), 6u);
  std::set<std::string> names;
  for (const Region& region : result.regions) {
    names.insert(region.name());
    EXPECT_NEAR(region.area(), 9 * pi, 1e-9);
  }
  // More of them leave the names of those that were there.
  EXPECT_TRUE(names.contains("c1+") && names.contains("ring1:4:c1+"));
  made.values.copies = {{8, 2 * pi}};
  result = resultOf(made);
  for (const Region& region : result.regions) names.erase(region.name());
  EXPECT_TRUE(names.empty());
  // The first one moved: all of them did.
  made.drawing.points.front().last = {20, 0};
  const auto curves = curvesOf(made.drawing, made.values, made.solved(), true);
  for (const PlanarCurve& curve : curves) EXPECT_NEAR(length(curve.geometry->carrier()->centre), 20, 1e-9);
}

TEST(Copies, PartOfATurnEndsAtItsAngle) {
  DrawingBuilder made;
  made.circle(made.point(10, 0), 1);
  made.drawing = withCopies(made.drawing, "ring", {"c1"}, originId);
  made.values.copies = {{3, pi / 2}};
  const auto curves = curvesOf(made.drawing, made.values, made.solved(), true);
  ASSERT_EQ(curves.size(), 3u);
  EXPECT_NEAR(distance(curves[2].geometry->carrier()->centre, {0, 10}), 0, 1e-9);
}

TEST(Copies, ARowOfARowIsAGridAndConstructionBoundsNothing) {
  DrawingBuilder made;
  made.rectangle(0, 0, 4, 2);
  made.drawing = withCopies(made.drawing, "row", {"c1", "c2", "c3", "c4"}, "");
  made.drawing = withCopies(made.drawing, "row", {"c1", "c2", "c3", "c4", "row1"}, "");
  made.values.copies = {{5, 6, 0}, {3, 4, pi / 2}};
  const DrawingResult result = resultOf(made);
  ASSERT_EQ(result.regions.size(), 15u);
  for (const Region& region : result.regions) EXPECT_NEAR(region.area(), 8, 1e-9);
  made.drawing.copies[1].construction = true;
  EXPECT_EQ(resultOf(made).regions.size(), 5u);
}

TEST(Copies, MirroredCurvesOfEveryKindEncloseTheSame) {
  DrawingBuilder made;
  const std::string a = made.point(5, 0), b = made.point(15, 0), c = made.point(10, 6), d = made.point(10, 0);
  made.curve("elliptical_arc", {d, made.point(15, 0), b, a}, {4});
  made.curve("spline", {a, made.point(8, -3), made.point(12, -4), b});
  made.drawing = withCopies(made.drawing, "mirror", {"c1", "c2"}, vAxisId);
  made.values.copies = {{}};
  const DrawingResult result = resultOf(made);
  ASSERT_EQ(result.regions.size(), 2u);
  EXPECT_NEAR(result.regions[0].area(), result.regions[1].area(), 1e-9);
  EXPECT_GT(result.regions[0].area(), pi * 5 * 4 / 2);
  for (const PlanarCurve& curve : curvesOf(made.drawing, made.values, made.solved(), true))
    EXPECT_EQ(curve.id.starts_with("mirror1"), curve.geometry->box().high.u < 0) << curve.id;
}

TEST(Copies, AnOffsetOfCopiesAndOfWhatWasTakenAlong) {
  DrawingBuilder made;
  made.values.taken.push_back({PlanarCurve("taken1", CircleCurve({0, 0}, 8)), true});
  made.drawing = withCopies(made.drawing, "offset", {"taken1"}, "", {Expression("0.2 mm")}, made.values.taken);
  made.values.copies = {{0.2}};
  Progress progress;
  requireSound(made.drawing, made.values.taken);
  const DrawingResult result =
      DrawingResult::of({}, made.drawing, made.values, solve(made.drawing, made.values), progress);
  ASSERT_EQ(result.regions.size(), 1u);
  EXPECT_EQ(result.regions.front().name(), "offset1+");
  EXPECT_NEAR(result.regions.front().area(), pi * 8.2 * 8.2, 1e-9);
}

TEST(Copies, ConstraintsHoldOnToWhatWasTakenAlong) {
  DrawingBuilder made;
  made.values.taken.push_back({PlanarCurve("taken1", CircleCurve({10, 5}, 8))});
  made.values.taken.push_back({PlanarCurve("taken2.left", LineCurve({-20, 0}, {-20, 9}))});
  made.values.taken.push_back({PlanarCurve("taken3", EllipseCurve({0, 0}, {10, 0}, 5, 0, 2 * pi))});
  made.values.taken.push_back(
      {PlanarCurve("taken4", SplineCurve(Spline::through({{0, 30}, {10, 33}, {20, 30}}, false)))});
  const std::string line = made.segment(0, 0, 5, 1), circle = made.circle(made.point(9, 4), 2);
  made.hold("concentric", {circle, "taken1"});
  made.hold("parallel", {line, "taken2.left"});
  made.hold("on", {"p1", "taken3"});
  made.hold("coincident", {"p2", "taken4.from"});
  const std::string free = made.point(11, 40);
  made.drawing.curves.push_back({.id = "l9", .kind = "line", .numbers = {}, .points = {free, "p2"}});
  made.values.numbers.emplace_back();
  made.hold("on", {free, "taken4"});
  requireSound(made.drawing, made.values.taken);
  const Solution solved = solve(made.drawing, made.values);
  ASSERT_TRUE(solved.holds());
  EXPECT_NEAR(distance(solved.points[2], {10, 5}), 0, 1e-9);
  EXPECT_NEAR(distance(solved.points[1], {0, 30}), 0, 1e-9);
  EXPECT_NEAR(solved.points[0].u, 0, 1e-9);
  EXPECT_NEAR(std::abs(solved.points[0].v), 5, 1e-9);
  const Spline spline = Spline::through({{0, 30}, {10, 33}, {20, 30}}, false);
  EXPECT_NEAR(distance(spline.at(spline.nearest(solved.points[3])), solved.points[3]), 0, 1e-9);
  // Without it the drawing is not sound.
  EXPECT_THROW(requireSound(made.drawing), Error);
}

TEST(Copies, WhatCannotBeIsRefusedWithItsPlace) {
  DrawingBuilder made;
  made.circle(made.point(10, 0), 1);
  EXPECT_THROW(withCopies(made.drawing, "ring", {"c7"}, originId), Error);
  EXPECT_THROW(withCopies(made.drawing, "spiral", {"c1"}, originId), Error);
  made.drawing = withCopies(made.drawing, "ring", {"c1"}, originId);
  for (const std::vector<double>& numbers :
       std::vector<std::vector<double>>{{0, 2 * pi}, {2.5, 2 * pi}, {1e6, 2 * pi}, {4, 0}, {4, 7}}) {
    made.values.copies = {numbers};
    try {
      curvesOf(made.drawing, made.values, made.solved(), true);
      ADD_FAILURE() << numbers[0];
    } catch (const Error& error) {
      EXPECT_NE(std::string(error.what()).find("ring1"), std::string::npos);
    }
  }
  // One is only the curve itself.
  made.values.copies = {{1, 2 * pi}};
  EXPECT_EQ(curvesOf(made.drawing, made.values, made.solved(), true).size(), 1U);
  // Constraints cannot be put on copies, and say so.
  EXPECT_THROW(withConstraint(made.drawing, "radius", {"ring1:2:c1"}, Expression("1 mm")), Error);
  // Copies go with what they were made of.
  EXPECT_TRUE(withoutCurve(made.drawing, "c1").copies.empty());
  EXPECT_TRUE(withoutCurve(made.drawing, "ring1").copies.empty());
}

}  // namespace
}  // namespace kervo
