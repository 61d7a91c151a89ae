#include "geom/measure/mesh_wall.h"

#include <gtest/gtest.h>

#include "support/meshes.h"

namespace kervo {
namespace {

using namespace test;

TEST(MeshWall, OfAHollowBoxIsTheThinnestOfItsSides) {
  Progress progress;
  // Walls of 4 mm, but 2.5 mm at the right and 3 mm at the top.
  const Mesh hollow = together({boxMesh({0, 0, 0}, {40, 30, 20}), turnedOver(boxMesh({4, 4, 4}, {37.5, 26, 17}))});
  ASSERT_TRUE(hollow.watertight());
  const auto wall = thinnestWallOf(hollow, 100, progress);
  ASSERT_TRUE(wall);
  EXPECT_NEAR(wall->thickness, 2.5, 1e-9);
  EXPECT_NEAR(std::min(wall->from.x, wall->to.x), 37.5, 1e-9);
  EXPECT_NEAR(std::max(wall->from.x, wall->to.x), 40, 1e-9);
  EXPECT_FALSE(thinnestWallOf(hollow, 2, progress)) << "none is thinner than that";
}

TEST(MeshWall, OfAShellBetweenTwoBalls) {
  Progress progress;
  // The inner one is off its middle by 1 mm: 4 mm where it is thinnest.
  const Mesh shell = together({ballMesh({0, 0, 0}, 20, 40), turnedOver(ballMesh({0, 0, 1}, 15, 40))});
  const auto wall = thinnestWallOf(shell, 100, progress);
  ASSERT_TRUE(wall);
  EXPECT_NEAR(wall->thickness, 4, 0.08) << "balls of flat triangles";
  EXPECT_GT(wall->from.z, 13);
}

TEST(MeshWall, IsNotBetweenTrianglesThatMeet) {
  Progress progress;
  const auto wall = thinnestWallOf(boxMesh({0, 0, 0}, {40, 30, 20}), 100, progress);
  ASSERT_TRUE(wall);
  EXPECT_NEAR(wall->thickness, 20, 1e-9) << "edges are no walls";
  EXPECT_FALSE(thinnestWallOf(withHoles(ballMesh({0, 0, 0}, 20), 5, 50), 100, progress)) << "nothing is inside";
}

}  // namespace
}  // namespace kervo
