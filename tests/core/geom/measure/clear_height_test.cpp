// Clear heights: stairs, ramps and vaults against what they are by hand.
#include <gtest/gtest.h>

#include <cmath>

#include "geom/divide/boolean.h"
#include "geom/measure/clear_height.h"
#include "geom/motion.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

Plane at(double x, double y, double z) {
  return {{x, y, z}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
}

std::optional<ClearHeight> clear(const Shape& walked, const std::vector<Shape>& above) {
  Progress progress;
  return clearHeight(walked, above, {0, 0, 1}, progress);
}

TEST(ClearHeight, OfAStairUnderASlabWithAnOpening) {
  Progress progress;
  // Ten steps of 250 × 180, and a slab 2500 above the floor that begins over the fourth.
  std::vector<Shape> steps;
  for (int i = 0; i < 10; ++i)
    steps.push_back(makeBlock("s" + std::to_string(i), at(250 * i, 0, 0), 250, 1000, 180 * (i + 1)));
  const Shape stair = unite(steps, progress).shape;
  const auto found = clear(stair, {makeBlock("slab", at(-2000, 0, 2500), 3000, 1000, 200)});
  ASSERT_TRUE(found);
  EXPECT_NEAR(found->height, 2500 - 4 * 180, 1e-6) << "over the fourth step, the last one below it";
  EXPECT_NEAR(found->head.z, 2500, 1e-6);
  EXPECT_NEAR(found->foot.z, 720, 1e-6);
  EXPECT_LE(found->foot.x, 1000 + 1e-6);
}

TEST(ClearHeight, OfARampIsLeastAtTheEdgeOfTheSlab) {
  Progress progress;
  // Rises by 1 in 4, under a slab that ends over 3 m of it.
  const Shape ramp =
      moved(makeBlock("ramp", at(0, 0, -100), 8000, 1000, 100), Motion::turn({}, {0, -1, 0}, std::atan(0.25)), "");
  const auto found = clear(ramp, {makeBlock("slab", at(-1000, 200, 3000), 4000, 500, 200)});
  ASSERT_TRUE(found);
  EXPECT_NEAR(found->height, 3000 - 3000 * 0.25, 1e-6);
  EXPECT_NEAR(found->foot.x, 3000, 1e-6);
}

TEST(ClearHeight, UnderAVaultIsAsExactAsItsMesh) {
  const Shape floor = makeBlock("floor", at(-500, -500, -100), 1000, 1000, 100);
  const Shape ball = makeSphere("ball", at(0, 0, 3000), 1000);
  EXPECT_NEAR(clear(floor, {ball})->height, 2000, 1);
}

TEST(ClearHeight, WhatStandsOnItOrBesideItIsNotAbove) {
  const Shape floor = makeBlock("floor", at(0, 0, -100), 1000, 1000, 100);
  EXPECT_FALSE(clear(floor, {}));
  EXPECT_FALSE(clear(floor, {makeBlock("beside", at(1000, 0, 500), 500, 500, 100)})) << "a border in common";
  EXPECT_FALSE(clear(floor, {makeBlock("below", at(0, 0, -900), 1000, 1000, 100)}));
  const auto found =
      clear(floor, {makeBlock("on it", at(0, 0, 0), 500, 500, 300), makeBlock("above", at(0, 0, 700), 900, 900, 100)});
  ASSERT_TRUE(found);
  EXPECT_NEAR(found->height, 700, 1e-9);
}

}  // namespace
}  // namespace kervo
