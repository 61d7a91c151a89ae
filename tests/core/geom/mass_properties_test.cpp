// Centroids and inertia against closed formulas, and measures of bodies that stand elsewhere.
#include "geom/mass_properties.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "geom/boolean.h"
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

TEST(MassProperties, OfASurfaceAreNone) {
  Progress progress;
  EXPECT_EQ(massProperties(Shape(), progress).volume, 0);
}

/// Cut, curved and slanted in several ways; tight, as Kervo makes them.
std::vector<Shape> parts() {
  Progress progress;
  std::mt19937 random(20261127);
  const auto in = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(random); };
  std::vector<Shape> result;
  for (int i = 0; i < 12; ++i) {
    const Plane place = Plane::through({in(2, 18), in(2, 12), in(2, 8)}, {in(-1, 1), in(-1, 1), in(0.2, 1)});
    const Shape cutter = i % 4 == 0   ? makeCylinder("c", place, in(2, 4), 30)
                         : i % 4 == 1 ? makeSphere("c", place, in(4, 7))
                         : i % 4 == 2 ? makeCone("c", place, in(3, 5), in(0.5, 2), 9)
                                      : makeTorus("c", place, in(4, 6), in(1, 2));
    const Division division = divide(makeBlock("b", {}, 20, 14, 10), {cutter}, progress);
    for (const Shape* side : {&division.inside, &division.outside})
      for (const Shape& piece : side->pieces()) result.push_back(piece);
  }
  return result;
}

TEST(MassProperties, StayTheSameWhereverTheBodyStands) {
  Progress progress;
  std::mt19937 random(4);
  const auto in = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(random); };
  for (const Shape& part : parts()) {
    const MassProperties here = massProperties(part, progress);
    const double factor = std::pow(10, in(-2, 2));
    const Motion motion = Motion::scale({0, 0, 0}, factor)
                              .then(Motion::turn({0, 0, 0}, {in(-1, 1), in(-1, 1), in(0.1, 1)}, in(0, 6)))
                              .then(Motion::by({in(-1e4, 1e4), in(-1e4, 1e4), in(-1e4, 1e4)}));
    const MassProperties there = massProperties(moved(part, motion), progress);
    // What doubles resolve 10 m away, as a share of the body's size.
    const double size = factor * part.box().diagonal();
    const double resolved = 1e-9 + 1e-11 * 1e4 / size;
    EXPECT_NEAR(there.volume / (here.volume * std::pow(factor, 3)), 1, resolved) << factor;
    EXPECT_NEAR(there.area / (here.area * factor * factor), 1, resolved) << factor;
    expectNear(there.centroid, motion(here.centroid), size * resolved);
    // The sum of the moments does not change with a turn.
    const auto sum = [](Vector v) { return v.x + v.y + v.z; };
    EXPECT_NEAR(sum(there.moments) / (sum(here.moments) * std::pow(factor, 5)), 1, 10 * resolved) << factor;
  }
}

}  // namespace
}  // namespace kervo
