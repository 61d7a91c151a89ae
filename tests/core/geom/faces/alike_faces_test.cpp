// Faces of two versions of a body, matched.
#include "geom/faces/alike_faces.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "support/meshes.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;
using testing::Each;
using testing::ElementsAre;
using testing::UnorderedElementsAre;

Shape plate(double length, double thickness, const std::vector<Point>& holes = {}, double from = 0) {
  Progress progress;
  Shape result = makeBlock("plate", at(from, 0, 0), length, 60, thickness);
  std::vector<Shape> drills;
  for (const Point& hole : holes) drills.push_back(makeCylinder("hole", at(hole.x, hole.y, -1), 4, thickness + 2));
  if (!drills.empty()) result = divide(result, drills, progress).outside;
  return renamed(result, "f");
}

/// The number of the face that looks that way, from 1.
int faceAlong(const Shape& shape, Vector direction) {
  const auto faces = facesOf(shape);
  for (std::size_t i = 0; i < faces.size(); ++i)
    if (faces[i].plane() && dot(faces[i].normal(), direction) > 0.999) return static_cast<int>(i) + 1;
  return 0;
}

int holeAt(const Shape& shape, double x, double y) {
  const auto faces = facesOf(shape);
  for (std::size_t i = 0; i < faces.size(); ++i)
    if (const auto axis = faces[i].axis(); axis && std::hypot(axis->point.x - x, axis->point.y - y) < 1e-6)
      return static_cast<int>(i) + 1;
  return 0;
}

int foundAs(const std::vector<int>& alike, int face) {
  return alike.at(static_cast<std::size_t>(face) - 1);
}

TEST(FacesAlike, AreTheSameOfTheSameBody) {
  const Shape one = plate(100, 10, {{20, 20, 0}, {50, 30, 0}});
  EXPECT_THAT(facesAlike(one, one), ElementsAre(1, 2, 3, 4, 5, 6, 7, 8));
}

TEST(FacesAlike, FollowALongerThickerPlateAndTellANewHole) {
  const Shape before = plate(100, 10, {{20, 20, 0}}), now = plate(130, 14, {{20, 20, 0}, {70, 30, 0}});
  const std::vector<int> alike = facesAlike(before, now);
  for (const Vector way :
       {Vector{1, 0, 0}, Vector{-1, 0, 0}, Vector{0, 1, 0}, Vector{0, -1, 0}, Vector{0, 0, 1}, Vector{0, 0, -1}})
    EXPECT_EQ(foundAs(alike, faceAlong(now, way)), faceAlong(before, way)) << way.x << way.y << way.z;
  EXPECT_EQ(foundAs(alike, holeAt(now, 20, 20)), holeAt(before, 20, 20));
  EXPECT_EQ(foundAs(alike, holeAt(now, 70, 30)), 0);
}

TEST(FacesAlike, TakeTheOnlyHoleThatMovedAndNoneOfTwo) {
  const Shape before = plate(100, 10, {{20, 20, 0}, {50, 30, 0}});
  const Shape oneMoved = plate(100, 10, {{20, 20, 0}, {60, 30, 0}});
  EXPECT_EQ(foundAs(facesAlike(before, oneMoved), holeAt(oneMoved, 60, 30)), holeAt(before, 50, 30));
  const Shape bothMoved = plate(100, 10, {{25, 20, 0}, {60, 30, 0}});
  const std::vector<int> alike = facesAlike(before, bothMoved);
  EXPECT_EQ(foundAs(alike, holeAt(bothMoved, 25, 20)), 0) << "which is which nobody can say";
  EXPECT_EQ(foundAs(alike, holeAt(bothMoved, 60, 30)), 0);
}

TEST(FacesAlike, AreFoundOnABodyThatStandsElsewhere) {
  const Shape before = plate(100, 10, {{20, 20, 0}}), now = plate(100, 10, {{520, 20, 0}}, 500);
  EXPECT_THAT(facesAlike(before, now), ElementsAre(1, 2, 3, 4, 5, 6, 7));
}

TEST(FacesAlike, TellTopFromBottomOfALidThatWasLifted) {
  Progress progress;
  const Shape before = renamed(makeBlock("lid", at(0, 0, 120), 100, 60, 10), "f");
  const Shape now = renamed(makeBlock("lid", at(0, 0, 124), 100, 60, 14), "g");
  EXPECT_THAT(facesAlike(before, now), ElementsAre(1, 2, 3, 4, 5, 6));
}

TEST(FacesAlike, GiveBothPartsOfADividedFaceTheOldNumber) {
  Progress progress;
  const Shape before = plate(100, 10);
  const Shape slot = makeBlock("slot", at(40, -1, 6), 20, 62, 5);
  const Shape now = renamed(divide(before, {slot}, progress).outside, "g");
  const std::vector<int> alike = facesAlike(before, now);
  int parts = 0;
  const auto faces = facesOf(now);
  for (std::size_t i = 0; i < faces.size(); ++i)
    if (faces[i].plane() && faces[i].normal().z > 0.9 && faces[i].samplePoint().z > 9) {
      ++parts;
      EXPECT_EQ(alike[i], faceAlong(before, {0, 0, 1}));
    }
  EXPECT_EQ(parts, 2);
  EXPECT_EQ(std::count(alike.begin(), alike.end(), 0), 3) << "floor and sides of the slot are new";
}

TEST(FacesAlike, OfAMeshAreNone) {
  EXPECT_THAT(facesAlike(plate(10, 10), Shape(boxMesh({0, 0, 0}, {1, 1, 1}))), testing::IsEmpty());
}

// 100 plates with random holes, changed at random: what is matched is the same side, or a hole at the same place, or
// the only one whose place is not known.
TEST(FacesAlike, NeverTakeAnotherFace) {
  std::mt19937 random(7);
  const auto pick = [&](int from, int to) { return std::uniform_int_distribution(from, to)(random); };
  for (int round = 0; round < 100; ++round) {
    std::vector<Point> holes, later;
    for (int i = pick(0, 5); i > 0; --i) holes.push_back({10.0 * pick(1, 9), 15.0 * pick(1, 3), 0});
    std::sort(holes.begin(), holes.end(), [](Point a, Point b) { return std::pair(a.x, a.y) < std::pair(b.x, b.y); });
    holes.erase(std::unique(holes.begin(), holes.end(),
                            [](Point a, Point b) { return std::abs(a.x - b.x) + std::abs(a.y - b.y) < 1; }),
                holes.end());
    std::size_t moved = 0;
    for (const Point& hole : holes)
      if (pick(0, 3) > 0)
        later.push_back(hole);
      else
        ++moved;
    if (pick(0, 1)) later.push_back({104, 52, 0});
    const Shape before = plate(110 + pick(0, 1) * 20, 10, holes),
                now = plate(110 + pick(0, 1) * 20, 10 + pick(0, 1), later);
    const std::vector<int> alike = facesAlike(before, now);
    ASSERT_EQ(alike.size(), facesOf(now).size());
    for (const Vector way : {Vector{1, 0, 0}, Vector{-1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}, Vector{0, 0, -1}})
      EXPECT_EQ(foundAs(alike, faceAlong(now, way)), faceAlong(before, way)) << round;
    for (const Point& hole : later) {
      const int was = holeAt(before, hole.x, hole.y), is = foundAs(alike, holeAt(now, hole.x, hole.y));
      if (was != 0) {
        EXPECT_EQ(is, was) << round;
      } else if (moved != 1) {
        EXPECT_EQ(is, 0) << round;
      }
    }
  }
}

}  // namespace
}  // namespace kervo
