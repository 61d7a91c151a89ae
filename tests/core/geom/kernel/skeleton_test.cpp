#include "geom/kernel/skeleton.h"

#include <gtest/gtest.h>

#include <thread>

#include "geom/divide/boolean.h"
#include "geom/divide/checked_intersection.h"

#include "geom/divide/partition.h"
#include "geom/primitives.h"
#include "geom/surface/sheet.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

std::size_t visibleEdges(const Skeleton& skeleton) {
  std::size_t count = 0;
  for (const Skeleton::EdgePart& part : skeleton.edges) count += part.visible;
  return count;
}

TEST(SkeletonOf, BlockHasEveryPartOnce) {
  const Shape block = makeBlock("b", {}, 3, 4, 5);
  const Skeleton& skeleton = skeletonOf(block);
  EXPECT_EQ(skeleton.faces.size(), 6u);
  EXPECT_EQ(skeleton.edges.size(), 12u);
  EXPECT_EQ(skeleton.vertices.size(), 8u);
  for (const Skeleton::EdgePart& part : skeleton.edges) {
    EXPECT_EQ(part.faces.size(), 2u);
    EXPECT_TRUE(part.visible);
  }
  for (const Skeleton::VertexPart& part : skeleton.vertices) {
    EXPECT_EQ(part.faces.size(), 3u);
    EXPECT_EQ(part.edgeCount, 3u);
  }
}

TEST(SkeletonOf, SeamsAndEdgesWithoutLengthAreNotSeen) {
  const Shape cylinder = makeCylinder("c", {}, 3, 10), ball = makeSphere("s", {}, 3), ring = makeTorus("t", {}, 5, 1);
  EXPECT_EQ(skeletonOf(cylinder).edges.size(), 3u);
  EXPECT_EQ(visibleEdges(skeletonOf(cylinder)), 2u);
  EXPECT_EQ(visibleEdges(skeletonOf(ball)), 0u);
  EXPECT_EQ(visibleEdges(skeletonOf(ring)), 0u);
  EXPECT_EQ(edgesOf(cylinder).size(), 2u);
  // The corners of a cylinder are the ends of its seam, where two edges meet; a ball has none to pick.
  EXPECT_EQ(cornersOf(cylinder).size(), 2u);
}

TEST(SkeletonOf, FacesThatBodiesShareAreMetOnce) {
  Progress progress;
  const Partition halves = partition({makeBlock("a", {}, 10, 10, 10)},
                                     {planarSheet(Plane{}.moved(4), {{-1, -1, -1}, {11, 11, 11}}, "p")}, progress);
  ASSERT_EQ(halves.parts.size(), 2u);
  std::vector<TopoDS_Shape> solids;
  FaceTable table;
  for (const Part& part : halves.parts) {
    solids.push_back(part.shape.body().topology);
    for (const auto& entry : part.shape.body().faces) table.insert(entry);
  }
  const Shape both = makeShape(compoundOf(solids), std::move(table), "face:");
  const Skeleton& skeleton = skeletonOf(both);
  EXPECT_EQ(skeleton.faces.size(), 11u);
  EXPECT_EQ(skeleton.edges.size(), 20u);
  EXPECT_EQ(skeleton.vertices.size(), 12u);
  std::size_t threeFaces = 0;
  for (const Skeleton::EdgePart& part : skeleton.edges) threeFaces += part.faces.size() == 3;
  EXPECT_EQ(threeFaces, 4u);
}

TEST(SkeletonOf, IsOneForAllWhoAskAtOnce) {
  const Shape shape = makeBlock("b", {}, 3, 4, 5);
  const Skeleton* first = nullptr;
  const Skeleton* second = nullptr;
  std::thread one([&] { first = &skeletonOf(shape); });
  std::thread other([&] { second = &skeletonOf(shape); });
  one.join();
  other.join();
  EXPECT_EQ(first, second);
  const Shape copy = shape;
  EXPECT_EQ(&skeletonOf(copy), first);
}

}  // namespace
}  // namespace kervo
