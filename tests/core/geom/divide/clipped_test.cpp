// What is left of bodies where planes, boxes and closed bodies take something out of sight.
#include <gtest/gtest.h>

#include <numbers>

#include "geom/divide/clipped.h"
#include "geom/measure/box_along.h"
#include "geom/motion.h"
#include "geom/primitives.h"
#include "geom/topology.h"

namespace kervo {
namespace {

Clip planeAt(double z) {
  Clip clip;
  clip.regions = {{Plane{{0, 0, z}}}};
  return clip;
}

double cutArea(const Shape& shape, const std::string& name) {
  double area = 0;
  for (const Face& face : facesOf(shape))
    for (const std::string& origin : face.origins())
      if (origin.starts_with(name + ":cut")) area += face.area();
  return area;
}

TEST(Clipped, ByAPlaneLeavesWhatLiesBehindItWithANamedCutFace) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 40, 30, 20);
  const Shape rest = clipped(block, {{"A", planeAt(12)}}, progress);
  EXPECT_NEAR(rest.volume(), 40 * 30 * 12, 1e-6);
  EXPECT_NEAR(cutArea(rest, "A"), 1200, 1e-6);
  EXPECT_EQ(&clipped(block, {{"A", planeAt(30)}}, progress).body(), &block.body()) << "nothing is hidden";
  EXPECT_TRUE(clipped(block, {{"A", planeAt(-5)}}, progress).empty());
}

TEST(Clipped, ByRegionsWithSeveralWallsAndByABody) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 40, 40, 40);
  Clip corner;
  corner.regions = {{Plane::through({20, 0, 0}, {1, 0, 0}), Plane::through({0, 20, 0}, {0, -1, 0})}};
  const Shape rest = clipped(block, {{"A", corner}, {"B", planeAt(30)}}, progress);
  EXPECT_NEAR(rest.volume(), 40 * 40 * 30 * 0.75, 1e-5);
  EXPECT_NEAR(cutArea(rest, "A"), 2 * 20 * 30, 1e-5);
  EXPECT_NEAR(cutArea(rest, "B"), 1600 * 0.75, 1e-5);
  Clip round;
  round.body = makeCylinder("c", Plane{{20, 20, -5}}, 10, 100);
  EXPECT_NEAR(clipped(block, {{"C", round}}, progress).volume(), 64000 - std::numbers::pi * 100 * 40, 1e-4);
  round.outside = true;
  EXPECT_NEAR(clipped(block, {{"C", round}}, progress).volume(), std::numbers::pi * 100 * 40, 1e-4);
}

TEST(BoxAlong, IsExactAlongAnyAxes) {
  const Shape turned = moved(makeBlock("b", {}, 40, 30, 20), Motion::turn({5, 6, 7}, {1, 2, 3}, 0.7));
  const Motion turn = Motion::turn({5, 6, 7}, {1, 2, 3}, 0.7);
  const Plane axes{{1, 2, 3}, turn.turned({1, 0, 0}), turn.turned({0, 1, 0}), turn.turned({0, 0, 1})};
  const Box box = boxAlong(turned, axes);
  EXPECT_NEAR(box.high.x - box.low.x, 40, 1e-6);
  EXPECT_NEAR(box.high.y - box.low.y, 30, 1e-6);
  EXPECT_NEAR(box.high.z - box.low.z, 20, 1e-6);
}

}  // namespace
}  // namespace kervo
