#include "geom/motion.h"

#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/divide/plane_split.h"
#include "geom/measure/thinnest_wall.h"
#include "geom/primitives.h"
#include "geom/topology.h"
#include "support/shapes.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

void expectNear(Point a, Point b) {
  EXPECT_NEAR(a.x, b.x, 1e-9);
  EXPECT_NEAR(a.y, b.y, 1e-9);
  EXPECT_NEAR(a.z, b.z, 1e-9);
}

TEST(MotionTest, TurnsCounterClockwiseAboutAnAxisThroughAPoint) {
  expectNear(Motion::turn({1, 0, 5}, {0, 0, 2}, pi / 2)({2, 0, 7}), {1, 1, 7});
}

TEST(MotionTest, MirrorsAndScalesFromAPoint) {
  expectNear(Motion::mirror(Plane::through({3, 0, 0}, {1, 0, 0}))({5, 1, 2}), {1, 1, 2});
  expectNear(Motion::scale({1, 1, 1}, 3)({2, 1, 0}), {4, 1, -2});
  EXPECT_NEAR(Motion::mirror({}).factor(), -1, 1e-12);
  EXPECT_THROW(Motion::scale({}, 0), Error);
}

TEST(MotionTest, OntoTakesAxesToAxes) {
  const Plane from = Plane::through({1, 2, 3}, {1, 0, 0}), to = Plane::through({-4, 0, 9}, {0.3, 0.4, 1});
  const Motion motion = Motion::onto(from, to);
  expectNear(motion(from.at(2, 3, 4)), to.at(2, 3, 4));
}

TEST(MotionTest, ThenDoesTheFirstFirst) {
  const Motion both = Motion::by({1, 0, 0}).then(Motion::turn({}, {0, 0, 1}, pi / 2));
  expectNear(both({1, 0, 0}), {0, 2, 0});
}

TEST(MotionTest, MovedShapesKeepVolumeNamesAndSoundness) {
  const Shape cone = makeCone("c", {}, 4, 2, 10);
  const Shape turned = moved(cone, Motion::turn({1, 2, 3}, {1, 1, 0}, 0.7).then(Motion::by({5, 6, 7})));
  EXPECT_NEAR(turned.volume(), cone.volume(), 1e-9 * cone.volume());
  EXPECT_TRUE(turned.valid());
  EXPECT_TRUE(turned.watertight());
  const Shape mirrored = moved(cone, Motion::mirror(Plane::through({9, 0, 0}, {1, 0, 0})), "copy");
  EXPECT_NEAR(mirrored.volume(), cone.volume(), 1e-9 * cone.volume());
  EXPECT_TRUE(mirrored.valid());
  for (const Face& face : facesOf(mirrored)) EXPECT_EQ(face.origins().front().rfind("copy:c:", 0), 0u);
  EXPECT_NEAR(moved(cone, Motion::scale({}, 2)).volume(), 8 * cone.volume(), 1e-8 * cone.volume());
}

TEST(ThinnestWallTest, FindsTheWallBetweenAHoleAndTheSide) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 15, 10);
  Plane place;
  place.origin = {6, 7.5, -1};
  const Shape cut = divide(block, {makeCylinder("h", place, 5, 12)}, progress).outside;
  const auto wall = thinnestWall(block, {cut}, 100, progress);
  ASSERT_TRUE(wall);
  EXPECT_NEAR(wall->thickness, 1, 1e-9);
  EXPECT_NEAR(std::min(wall->from.x, wall->to.x), 0, 1e-6);
  EXPECT_FALSE(thinnestWall(block, {cut}, 0.9, progress));
}

TEST(ThinnestWallTest, BetweenPlatesWithManyHoles) {
  Progress progress;
  std::vector<Shape> drills;
  for (int i = 0; i < 60; ++i)
    drills.push_back(makeCylinder("h", test::at(i % 10 * 10 + 5, i / 10 * 10 + 5, -1), 3, 12));
  const Shape plate = divide(makeBlock("b", {}, 100, 60, 10), drills, progress).outside;
  // The kernel alone takes seconds for two faces of 64 edges.
  const PlaneSplit split = splitByPlane("s", plate, test::at(0, 0, 6), Kerf::centred(1), progress);
  std::vector<Shape> sides{split.front.at(0), split.back.at(0)};
  const auto wall = thinnestWall(plate, sides, 200, progress);
  ASSERT_TRUE(wall);
  EXPECT_NEAR(wall->thickness, 3.5, 1e-9);
  EXPECT_NEAR(wall->from.x, wall->to.x, 1e-9);
  EXPECT_NEAR(std::max(wall->from.z, wall->to.z), 10, 1e-9);
  progress.requestStop();
  EXPECT_THROW(thinnestWall(plate, sides, 200, progress), Stopped);
}

TEST(ThinnestWallTest, GapsAreNoWalls) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 20, 20);
  Plane place;
  place.origin = {9.5, -1, 10};
  // A slot 1 mm wide leaves walls of 9.5 mm; the slot itself is no wall.
  const Shape cut = divide(block, {makeBlock("s", place, 1, 22, 11)}, progress).outside;
  const auto wall = thinnestWall(block, {cut}, 100, progress);
  ASSERT_TRUE(wall);
  EXPECT_NEAR(wall->thickness, 9.5, 1e-9);
}

TEST(ThinnestWall, CountsFacesThatMovedOnRequest) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 100, 20, 50);
  const auto holeAt = [&](double x) {
    const Plane corner{{x, -1, 20}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
    return divide(block, {makeBlock("h", corner, 10, 22, 10)}, progress).outside;
  };
  const Shape before = holeAt(40), after = holeAt(85);
  EXPECT_FALSE(thinnestWall(before, {after}, 100, progress)) << "no face is new";
  const auto wall = thinnestWall(before, {after}, 100, progress, NewFaces::AlsoMoved);
  ASSERT_TRUE(wall);
  EXPECT_NEAR(wall->thickness, 5, 1e-9);
}

}  // namespace
}  // namespace kervo
