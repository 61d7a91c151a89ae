#include "geom/measure/approach.h"

#include <gtest/gtest.h>

#include <cmath>

#include "base/error.h"
#include "geom/divide/score.h"
#include "geom/primitives.h"
#include "geom/surface/sheet.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

TEST(ApproachTest, TouchingIsHavingAPointInCommon) {
  const Shape block = makeBlock("a", {}, 10, 10, 10);
  EXPECT_TRUE(touches(block, makeBlock("b", at(10, 0, 0), 5, 5, 5)));
  EXPECT_TRUE(touches(block, makeBlock("b", at(10, 10, 10), 5, 5, 5)));
  EXPECT_FALSE(touches(block, makeBlock("b", at(10.001, 0, 0), 5, 5, 5)));
  EXPECT_FALSE(touches(block, Shape()));
}

TEST(ApproachTest, ExtentIsExactAlongAnyDirection) {
  const Shape ball = makeSphere("s", at(1, 2, 3), 4);
  const Vector way = normalized({1, 1, 1});
  const auto [low, high] = extentAlong(ball, way);
  EXPECT_NEAR(low, 6 / std::sqrt(3) - 4, 1e-6);
  EXPECT_NEAR(high, 6 / std::sqrt(3) + 4, 1e-6);
}

TEST(ApproachTest, FirstOfSeveralShapesStopsThemAll) {
  Progress progress;
  const Shape wall = makeBlock("w", at(50, -50, -50), 5, 100, 100);
  const std::vector<Shape> shapes{makeBlock("a", {}, 10, 10, 10), makeBlock("b", at(0, 20, 0), 25, 10, 10)};
  EXPECT_NEAR(*distanceUntilMet(shapes, {1, 0, 0}, faceNamed(wall, "w:left"), progress), 25, 1e-9);
  EXPECT_FALSE(distanceUntilMet(shapes, {-1, 0, 0}, faceNamed(wall, "w:left"), progress));
  EXPECT_FALSE(distanceUntilMet(shapes, {0, 1, 0}, faceNamed(wall, "w:left"), progress));
  // Aslant the way is longer.
  const Vector aslant = normalized({1, 1, 0});
  EXPECT_NEAR(*distanceUntilMet({shapes.front()}, aslant, faceNamed(wall, "w:left"), progress), 40 * std::sqrt(2),
              1e-6);
}

TEST(ApproachTest, BallsMeetWhereTheirCentresAreTheSumOfRadiiApart) {
  Progress progress;
  const Shape a = makeSphere("a", {}, 3), b = makeSphere("b", at(40, 4, 0), 2);
  EXPECT_NEAR(*distanceUntilMet({a}, {1, 0, 0}, faceNamed(b, "b:side"), progress), 40 - std::sqrt(25 - 16), 1e-5);
  const Shape beside = makeSphere("b", at(40, 5.5, 0), 2);
  EXPECT_FALSE(distanceUntilMet({a}, {1, 0, 0}, faceNamed(beside, "b:side"), progress));
}

TEST(ScoreTest, MarksFromSeveralCuttersKeepVolumeAreaAndNames) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 10, 10, 10);
  const Shape rod = makeCylinder("r", at(5, 5, -5), 2, 20);
  const Shape sheet = planarSheet(at(0, 0, 3), block.box(), "p");
  const Shape marked = scored(block, {rod, sheet}, progress);
  // Two round marks on top and bottom, four sides in two.
  EXPECT_EQ(marked.faceCount(), 6 + 2 + 4);
  EXPECT_NEAR(marked.volume(), 1000, 1e-9);
  EXPECT_NEAR(marked.area(), 600, 1e-9);
  EXPECT_TRUE(marked.watertight());
  EXPECT_TRUE(marked.valid());
  for (const Face& face : facesOf(marked)) EXPECT_EQ(face.origins().front().rfind("b:", 0), 0u);
}

TEST(ScoreTest, CutterThatCoincidesWithAFaceMarksNothingTwice) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 10, 10, 10);
  const Shape beside = makeBlock("c", at(2, 2, 10), 4, 4, 4);
  const Shape marked = scored(block, {beside}, progress);
  EXPECT_EQ(marked.faceCount(), 7);
  EXPECT_NEAR(marked.volume(), 1000, 1e-9);
  EXPECT_EQ(&scored(block, {makeBlock("far", at(50, 0, 0), 1, 1, 1)}, progress).body(), &block.body());
}

TEST(ScoreTest, SharedFacesAreCountedAndBodiesAloneAreNamed) {
  Progress progress;
  const SharedFaces shared =
      withSharedFaces({makeBlock("a", {}, 10, 10, 10), makeBlock("b", at(10, 0, 0), 10, 10, 10),
                       makeBlock("c", at(0, 0, 10), 20, 10, 5), makeSphere("d", at(0, 50, 0), 3)},
                      progress);
  EXPECT_EQ(shared.count, 3);
  EXPECT_EQ(shared.alone, std::vector<std::size_t>{3});
  double sum = 0;
  for (const Shape& solid : shared.solids) sum += solid.volume();
  EXPECT_NEAR(sum, 1000 + 1000 + 1000 + 36 * std::acos(-1.0), 1e-6);
  EXPECT_THROW(withSharedFaces({makeBlock("a", {}, 10, 10, 10), makeBlock("b", at(9, 0, 0), 10, 10, 10)}, progress),
               Error);
}

TEST(ScoreTest, IntersectionOfAPlaneAndABallIsACircle) {
  Progress progress;
  const Shape ball = makeSphere("s", {}, 5);
  const Shape curves = intersectionCurves(ball, {planarSheet(at(0, 0, 3), ball.box(), "p")}, progress);
  ASSERT_EQ(curves.kind(), BodyKind::Curve);
  double length = 0;
  for (const Edge& edge : edgesOf(curves)) length += edge.length();
  EXPECT_NEAR(length, 2 * std::acos(-1.0) * 4, 1e-6);
  EXPECT_TRUE(intersectionCurves(ball, {planarSheet(at(0, 0, 9), ball.box(), "p")}, progress).empty());
}

}  // namespace
}  // namespace kervo
