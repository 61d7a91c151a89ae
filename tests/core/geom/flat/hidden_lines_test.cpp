// Edges and outlines that one sees, and those that lie behind something, by known lengths.
#include <gtest/gtest.h>

#include <numbers>

#include "geom/flat/hidden_lines.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

double sum(const std::vector<SpaceCurve>& curves) {
  double result = 0;
  for (const SpaceCurve& curve : curves) result += curve.length();
  return result;
}

const Plane fromTheFront{{}, {1, 0, 0}, {0, 0, 1}, {0, -1, 0}};

/// From (1, 1, 1), z up: a cube's edges are all seen √(2/3) as long.
Plane fromACorner() {
  const Vector eye = normalized(Vector{1, 1, 1}), up = normalized(Vector{0, 0, 1} - eye * eye.z);
  return {{}, cross(up, eye), up, eye};
}

TEST(HiddenLines, OfACubeNineEdgesAreSeenAndThreeHidden) {
  Progress progress;
  const Shape cube = makeBlock("c", {}, 30, 30, 30);
  for (const SeenBy by : {SeenBy::Faces, SeenBy::Triangles}) {
    const AllSeen seen = linesSeen({cube}, fromACorner(), by, progress);
    ASSERT_EQ(seen.lines.size(), 1u);
    const double edge = 30 * std::sqrt(2.0 / 3);
    EXPECT_NEAR(sum(seen.lines[0].visible), 9 * edge, 1e-4);
    EXPECT_NEAR(sum(seen.lines[0].hidden), 3 * edge, 1e-4);
  }
}

TEST(HiddenLines, OutlinesOfRoundBodiesAreExact) {
  Progress progress;
  const AllSeen ball = linesSeen({makeSphere("s", {}, 20)}, fromACorner(), progress);
  EXPECT_EQ(ball.by, SeenBy::Faces);
  EXPECT_NEAR(sum(ball.lines[0].visible), 2 * pi * 20, 1e-6);
  const AllSeen tube = linesSeen({makeCylinder("c", {}, 10, 50)}, fromTheFront, progress);
  EXPECT_NEAR(sum(tube.lines[0].visible), 2 * 20 + 2 * 50, 1e-5) << "two circles from their edges, two outlines";
}

TEST(HiddenLines, OneBodyHidesTheOther) {
  Progress progress;
  const Shape front = makeBlock("a", Plane{{0, -50, 0}}, 40, 10, 40), behind = makeBlock("b", {}, 20, 10, 20);
  const AllSeen seen = linesSeen({front, behind}, fromTheFront, progress);
  EXPECT_NEAR(sum(seen.lines[0].visible), 160, 1e-5);
  EXPECT_NEAR(sum(seen.lines[1].visible), 0, 1e-5);
  EXPECT_GT(sum(seen.lines[1].hidden), 80 - 1e-5);
  const AllSeen alone = linesSeen({behind}, fromTheFront, progress);
  EXPECT_NEAR(sum(alone.lines[0].visible), 80, 1e-5);
}

TEST(HiddenLines, APointIsSeenUnlessSomethingStandsBeforeIt) {
  const Shape front = makeBlock("a", Plane{{0, -50, 0}}, 40, 10, 40), behind = makeBlock("b", {}, 20, 10, 60);
  EXPECT_FALSE(isSeen({10, 0, 10}, {0, -1, 0}, {front, behind}));
  EXPECT_TRUE(isSeen({10, 0, 50}, {0, -1, 0}, {front, behind}));
  EXPECT_TRUE(isSeen({10, 10, 10}, {0, 1, 0}, {front, behind}));
}

}  // namespace
}  // namespace kervo
