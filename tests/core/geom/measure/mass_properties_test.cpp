// Centroids and inertia against closed formulas.
#include "geom/measure/mass_properties.h"

#include <gtest/gtest.h>

#include <numbers>

#include "geom/motion.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

void expectNear(Vector found, Vector wanted, double by) {
  EXPECT_NEAR(found.x, wanted.x, by);
  EXPECT_NEAR(found.y, wanted.y, by);
  EXPECT_NEAR(found.z, wanted.z, by);
}

TEST(MassProperties, OfBasicBodiesFollowTheirFormulas) {
  Progress progress;
  const MassProperties block =
      massProperties(makeBlock("b", Plane::through({3, 4, 5}, {0, 0, 1}), 10, 20, 30), progress);
  expectNear(block.centroid, {8, 14, 20}, 1e-9);
  expectNear(block.moments, Vector{20 * 20 + 30 * 30, 10 * 10 + 30 * 30, 10 * 10 + 20 * 20} * (6000 / 12.0), 1e-4);
  expectNear(block.products, {0, 0, 0}, 1e-4);
  const MassProperties cylinder = massProperties(makeCylinder("c", {}, 3, 8), progress);
  expectNear(cylinder.centroid, {0, 0, 4}, 1e-9);
  const double mass = pi * 9 * 8, across = mass * (3 * 9 + 64) / 12;
  expectNear(cylinder.moments, {across, across, mass * 9 / 2}, 1e-5);
  const MassProperties sphere = massProperties(makeSphere("s", Plane::through({1, 2, 3}, {1, 1, 0}), 4), progress);
  expectNear(sphere.centroid, {1, 2, 3}, 1e-9);
  const double ball = 0.4 * (4.0 / 3 * pi * 64) * 16;
  expectNear(sphere.moments, {ball, ball, ball}, 1e-5);
  const MassProperties cone = massProperties(makeCone("k", {}, 5, 0, 12), progress);
  expectNear(cone.centroid, {0, 0, 3}, 1e-9);
  const double coneMass = pi * 25 * 4;
  EXPECT_NEAR(cone.moments.z, 0.3 * coneMass * 25, 1e-5);
  const MassProperties torus = massProperties(makeTorus("t", {}, 8, 2), progress);
  EXPECT_NEAR(torus.moments.z, torus.volume * (64 + 0.75 * 4), 1e-4);
}

TEST(MassProperties, PrincipalMomentsDoNotDependOnHowABodyIsTurned) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 10, 20, 30);
  const Shape turned = moved(moved(block, Motion::turn({1, 2, 3}, normalized({1, 2, -1}), 0.7)), Motion::by({5, 6, 7}));
  const Vector expected = Vector{20 * 20 + 30 * 30, 10 * 10 + 30 * 30, 10 * 10 + 20 * 20} * (6000 / 12.0);
  expectNear(principalMoments(massProperties(block, progress)), expected, 1e-4);
  expectNear(principalMoments(massProperties(turned, progress)), expected, 1e-3);
}

TEST(MassProperties, OfASurfaceAreNone) {
  Progress progress;
  EXPECT_EQ(massProperties(Shape(), progress).volume, 0);
}

}  // namespace
}  // namespace kervo
