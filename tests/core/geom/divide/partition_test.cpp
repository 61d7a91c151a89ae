#include "geom/divide/partition.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/surface/placed_face.h"
#include "geom/surface/sheet.h"
#include "geom/topology.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

double volumeIn(const Partition& partition, const std::vector<std::size_t>& in) {
  double volume = 0;
  for (const Part& part : partition.parts)
    if (part.in == in) volume += part.shape.volume();
  return volume;
}

/// A square sheet of half size `half` at a height.
Shape sheetAt(double height, double half) {
  const Shape block = makeBlock("s", at(-half, -half, height - 1), 2 * half, 2 * half, 1);
  return lifted({faceNamed(block, "s:top")});
}

class PartitionTest : public testing::Test {
 protected:
  Progress progress;
};

TEST_F(PartitionTest, OverlappingBlocksGiveThreeRegionsWithTheirMembers) {
  const Shape a = makeBlock("a", {}, 10, 10, 10), b = makeBlock("b", at(6, 0, 0), 10, 10, 10);
  const Partition result = partition({a, b}, {}, progress);
  ASSERT_EQ(result.parts.size(), 3u);
  EXPECT_NEAR(volumeIn(result, {0}), 600, 1e-9);
  EXPECT_NEAR(volumeIn(result, {1}), 600, 1e-9);
  EXPECT_NEAR(volumeIn(result, {0, 1}), 400, 1e-9);
}

TEST_F(PartitionTest, ThreeBodiesThroughEachOtherGiveEveryRegionOnce) {
  const Shape x = makeBlock("x", at(-10, -2, -2), 20, 4, 4), y = makeBlock("y", at(-2, -10, -2), 4, 20, 4),
              z = makeBlock("z", at(-2, -2, -10), 4, 4, 20);
  const Partition result = partition({x, y, z}, {}, progress);
  ASSERT_EQ(result.parts.size(), 7u);
  EXPECT_NEAR(volumeIn(result, {0, 1, 2}), 64, 1e-9);
  EXPECT_NEAR(volumeIn(result, {2}), 256, 1e-9);
  double sum = 0;
  for (const Part& part : result.parts) {
    EXPECT_TRUE(part.shape.watertight());
    sum += part.shape.volume();
  }
  EXPECT_NEAR(sum, 3 * 320 - 2 * 64, 1e-9);
}

TEST_F(PartitionTest, SurfacesDivideAndSayTheirSides) {
  const Shape block = makeBlock("b", at(-5, -5, 0), 10, 10, 10);
  const Partition result = partition({block}, {sheetAt(3, 20)}, progress);
  ASSERT_EQ(result.parts.size(), 2u);
  for (const Part& part : result.parts) {
    const bool upper = part.shape.box().centre().z > 3;
    EXPECT_NEAR(part.shape.volume(), upper ? 700 : 300, 1e-9);
    EXPECT_EQ(part.sides.front(), upper ? SheetSide::Front : SheetSide::Back);
  }
}

TEST_F(PartitionTest, TiltedCylinderFaceDividesABlockIntoKnownVolumes) {
  const Shape block = makeBlock("b", at(-20, -20, -20), 40, 40, 40);
  const Shape rod = makeCylinder("r", Plane::through({0, 0, -1}, {0, 0, 1}), 7, 2);
  Box box = block.box();
  const Shape wall = enlarged(faceNamed(rod, "r:side"), box, "cut");
  const Partition result = partition({block}, {wall}, progress);
  ASSERT_EQ(result.parts.size(), 2u);
  const auto [small, large] = std::minmax({result.parts[0].shape.volume(), result.parts[1].shape.volume()});
  EXPECT_NEAR(small, pi * 49 * 40, 1e-6);
  EXPECT_NEAR(large, 64000 - pi * 49 * 40, 1e-6);
}

TEST_F(PartitionTest, SurfaceThatEndsInsideLeavesTheBodyUnmarked) {
  const Shape block = makeBlock("b", at(-5, -5, 0), 10, 10, 10);
  const Partition result = partition({block}, {sheetAt(3, 2)}, progress);
  ASSERT_EQ(result.parts.size(), 1u);
  EXPECT_EQ(result.parts[0].shape.faceCount(), 6);
  EXPECT_EQ(result.parts[0].sides.front(), SheetSide::None);
}

TEST_F(PartitionTest, SurfaceThatDividesOneEarOnlyMarksNothingElse) {
  // Two ears on a bar; the sheet goes right through one ear and ends inside the other.
  const Shape bar = makeBlock("bar", {}, 50, 10, 5);
  const Shape left = makeBlock("left", at(0, 0, 5), 10, 10, 20), right = makeBlock("right", at(40, 0, 5), 10, 10, 20);
  const Shape body = unite({bar, left, right}, progress).shape;
  const Shape source = makeBlock("s", at(-5, -5, 14), 50, 20, 1);
  const Partition result = partition({body}, {lifted({faceNamed(source, "s:top")})}, progress);
  ASSERT_EQ(result.parts.size(), 2u);
  const auto [small, large] = std::minmax({result.parts[0].shape.volume(), result.parts[1].shape.volume()});
  EXPECT_NEAR(small, 10 * 10 * 10, 1e-9);
  EXPECT_NEAR(large, 2500 + 4000 - 1000, 1e-9);
  for (const Part& part : result.parts)
    for (const Face& face : facesOf(part.shape)) EXPECT_NE(face.origins().front(), "") << "every face keeps a name";
  // No mark on the right ear: its inner face is one.
  int inner = 0;
  for (const Part& part : result.parts)
    for (const Face& face : facesOf(part.shape)) inner += face.origins().front() == "right:left";
  EXPECT_EQ(inner, 1);
}

TEST_F(PartitionTest, ThreePlanesAndABodyInOneOperation) {
  const Shape block = makeBlock("b", at(-10, -10, -10), 20, 20, 20);
  const Shape ball = makeSphere("s", {}, 5);
  std::vector<Shape> planes;
  for (const Vector normal : {Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}}) {
    const Shape slab = makeBlock("p", Plane::through(normal * -1, normal), 1, 1, 1);
    planes.push_back(enlarged(faceNamed(slab, "p:top"), block.box(), "cut"));
  }
  const Partition result = partition({block, ball}, planes, progress);
  ASSERT_EQ(result.parts.size(), 16u);
  for (const Part& part : result.parts) {
    const double octant = pi * 125 * 4 / 3 / 8;
    EXPECT_NEAR(part.shape.volume(), part.isIn(1) ? octant : 1000 - octant, 1e-6);
    EXPECT_TRUE(part.isIn(0));
  }
}

TEST_F(PartitionTest, OneAndTheSameBodyTwiceIsInItself) {
  const Shape block = makeBlock("b", {}, 3, 4, 5);
  const Division cut = divide(block, {block}, progress);
  EXPECT_TRUE(cut.outside.empty());
  EXPECT_NEAR(cut.inside.volume(), 60, 1e-9);
  EXPECT_EQ(cut.remedy, "");
  EXPECT_NEAR(unite({block, block}, progress).shape.volume(), 60, 1e-9);
  const Partition result = partition({block, block}, {}, progress);
  ASSERT_EQ(result.parts.size(), 1u);
  EXPECT_EQ(result.parts.front().in, (std::vector<std::size_t>{0, 1}));
}

TEST_F(PartitionTest, SurfaceIsNoSolid) {
  EXPECT_THROW(partition({sheetAt(0, 1)}, {}, progress), Error);
}

TEST_F(PartitionTest, StopsOnRequest) {
  progress.requestStop();
  EXPECT_THROW(partition({makeBlock("b", {}, 1, 1, 1)}, {}, progress), Stopped);
}

}  // namespace
}  // namespace kervo
