// Volumes and areas against closed formulas.
#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/topology.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;
const Plane tilted = Plane::through({13, -7, 21}, {1, 2, 3});

TEST(Measure, PrimitivesHaveTheirFormulasVolumeAndArea) {
  for (const Plane& plane : {Plane{}, tilted}) {
    const Shape block = makeBlock("b", plane, 10, 20, 30);
    EXPECT_NEAR(block.volume(), 6000, 1e-8);
    EXPECT_NEAR(block.area(), 2200, 1e-8);
    const Shape cylinder = makeCylinder("c", plane, 3, 7);
    EXPECT_NEAR(cylinder.volume(), pi * 63, 1e-8);
    EXPECT_NEAR(cylinder.area(), 2 * pi * 9 + 2 * pi * 21, 1e-8);
    const Shape cone = makeCone("k", plane, 5, 2, 9);
    EXPECT_NEAR(cone.volume(), pi * 9 / 3 * (25 + 10 + 4), 1e-8);
    EXPECT_NEAR(makeCone("k", plane, 5, 0, 9).volume(), pi * 25 * 3, 1e-8);
    const Shape sphere = makeSphere("s", plane, 4);
    EXPECT_NEAR(sphere.volume(), 4.0 / 3 * pi * 64, 1e-8);
    EXPECT_NEAR(sphere.area(), 4 * pi * 16, 1e-8);
    const Shape torus = makeTorus("t", plane, 8, 2);
    EXPECT_NEAR(torus.volume(), 2 * pi * pi * 8 * 4, 1e-8);
    EXPECT_NEAR(torus.area(), 4 * pi * pi * 16, 1e-8);
    for (const Shape& shape : {block, cylinder, cone, sphere, torus}) {
      EXPECT_TRUE(shape.watertight());
      EXPECT_TRUE(shape.valid());
      EXPECT_EQ(shape.kind(), BodyKind::Solid);
    }
  }
}

TEST(Measure, FarFromTheOriginCostsNoDigits) {
  const Shape sphere = makeSphere("s", Plane::through({1e5, -2e5, 5e4}, {0, 0, 1}), 4);
  EXPECT_NEAR(sphere.volume(), 4.0 / 3 * pi * 64, 1e-6);
}

TEST(Measure, CountsAndBoxOfABlock) {
  const Shape block = makeBlock("b", Plane::through({1, 2, 3}, {0, 0, 1}), 10, 20, 30);
  EXPECT_EQ(block.faceCount(), 6);
  EXPECT_EQ(block.edgeCount(), 12);
  EXPECT_NEAR(distance(block.box().low, {1, 2, 3}), 0, 1e-6);
  EXPECT_NEAR(distance(block.box().high, {11, 22, 33}), 0, 1e-6);
}

TEST(Measure, TrimmedCurvedFacesKeepTheirDigits) {
  Progress progress;
  // Sphere of radius R with a bore of radius r along a diameter: what stays is (4/3)π (R² − r²)^(3/2).
  const Division bored =
      divide(makeSphere("s", {}, 5), {makeCylinder("c", Plane::through({0, 0, -9}, {0, 0, 1}), 3, 18)}, progress);
  EXPECT_NEAR(bored.outside.volume() / (4.0 / 3 * pi * 64), 1, 1e-9);
  // Two equal cylinders at right angles have 16 r³ / 3 in common.
  const Shape a = makeCylinder("a", Plane::through({0, 0, -10}, {0, 0, 1}), 4, 20);
  const Shape b = makeCylinder("b", Plane::through({-10, 0, 0}, {1, 0, 0}), 4, 20);
  EXPECT_NEAR(divide(a, {b}, progress).inside.volume() / (16.0 * 64 / 3), 1, 1e-8);
  // Half a torus cut by a plane.
  const Shape torus = makeTorus("t", tilted, 8, 2);
  const Division halves =
      divide(torus, {makeSlab("p", Plane::through(tilted.origin, tilted.x), 0, INFINITY, torus.box())}, progress);
  EXPECT_NEAR(halves.inside.volume() / (pi * pi * 32), 1, 1e-9);
}

TEST(Primitives, NameTheirFacesByRole) {
  const auto nameAt = [](const Shape& shape, Point point) {
    for (const Face& face : facesOf(shape))
      if (face.distanceTo(point) < 1e-6) return face.origins().front();
    return std::string();
  };
  const Shape block = makeBlock("b", {}, 10, 20, 30);
  EXPECT_EQ(nameAt(block, {0, 10, 15}), "b:left");
  EXPECT_EQ(nameAt(block, {10, 10, 15}), "b:right");
  EXPECT_EQ(nameAt(block, {5, 0, 15}), "b:front");
  EXPECT_EQ(nameAt(block, {5, 20, 15}), "b:back");
  EXPECT_EQ(nameAt(block, {5, 10, 0}), "b:bottom");
  EXPECT_EQ(nameAt(block, {5, 10, 30}), "b:top");
  const Shape cone = makeCone("k", tilted, 5, 2, 9);
  EXPECT_EQ(nameAt(cone, tilted.at(0, 0, 0)), "k:bottom");
  EXPECT_EQ(nameAt(cone, tilted.at(0, 0, 9)), "k:top");
  EXPECT_EQ(nameAt(cone, tilted.at(5 - 1e-3, 0, 0)), "k:bottom");
}

TEST(Primitives, RefuseSizesThatMakeNoBody) {
  for (double size : {0.0, -3.0, 1e-7, 1e12, std::nan(""), double(INFINITY)}) {
    EXPECT_THROW(makeBlock("b", {}, 10, size, 30), Error) << size;
    EXPECT_THROW(makeCylinder("c", {}, size, 3), Error) << size;
    EXPECT_THROW(makeSphere("s", {}, size), Error) << size;
    EXPECT_THROW(makeTorus("t", {}, 5, size), Error) << size;
  }
  EXPECT_THROW(makeTorus("t", {}, 5, 5), Error);
  EXPECT_THROW(makeCone("k", {}, 0, 0, 5), Error);
}

TEST(Topology, PlanesOfFacesPointOutwardsAndStayPutWhenTheOutlineChanges) {
  for (double width : {10.0, 50.0}) {
    for (const Face& face : facesOf(makeBlock("b", {}, width, 20, 30))) {
      if (face.origins().front() != "b:top") continue;
      EXPECT_EQ(face.plane()->origin, (Point{0, 0, 30}));
      EXPECT_EQ(face.plane()->normal, (Vector{0, 0, 1}));
      EXPECT_EQ(face.plane()->x, (Vector{1, 0, 0}));
    }
  }
  EXPECT_EQ(edgesOf(makeCylinder("c", {}, 3, 5)).size(), 2u);  // without the seam
}

// Half of how far each reaches along a direction: r·√(1−n²) + h/2·|n| for a cylinder, R·√(1−n²) + r for a torus.
TEST(Measure, BoxesOfTurnedRoundBodiesAreTheSmallest) {
  for (const Vector axis : {Vector{0, 0, 1}, Vector{1, 1, 0}, Vector{0.3, -0.5, 0.8}, Vector{-2, 1, 0.1}}) {
    const Plane place = Plane::through({3, 4, 5}, axis);
    const Vector n = place.normal;
    const auto across = [](double component) { return std::sqrt(std::max(0.0, 1 - component * component)); };
    const Box rod = makeCylinder("rod", place, 2, 10).box(), ring = makeTorus("ring", place, 6, 1.5).box(),
              ball = makeSphere("ball", place, 4).box();
    const Vector rodSize = rod.high - rod.low, ringSize = ring.high - ring.low, ballSize = ball.high - ball.low;
    for (const auto& [component, rodIs, ringIs, ballIs] :
         {std::tuple(n.x, rodSize.x, ringSize.x, ballSize.x), std::tuple(n.y, rodSize.y, ringSize.y, ballSize.y),
          std::tuple(n.z, rodSize.z, ringSize.z, ballSize.z)}) {
      EXPECT_NEAR(rodIs, 2 * 2 * across(component) + 10 * std::abs(component), 1e-5);
      EXPECT_NEAR(ringIs, 2 * (6 * across(component) + 1.5), 1e-5);
      EXPECT_NEAR(ballIs, 8, 1e-5);
    }
    EXPECT_LT(length(ring.centre() - Point{3, 4, 5}), 1e-5);
  }
}

TEST(Measure, BoxOfAPlateWithBossesReachesToTheHighest) {
  Progress progress;
  std::vector<Shape> parts{makeBlock("plate", {}, 100, 60, 5)};
  for (int i = 0; i < 6; ++i)
    parts.push_back(
        makeSphere("s" + std::to_string(i), Plane::through({10.0 + 16 * i, 30, 5}, {0, 0, 1}), 3 + i * 0.5));
  const Box box = unite(parts, progress).shape.box();
  EXPECT_NEAR(box.low.z, 5 - 5.5, 1e-5);
  EXPECT_NEAR(box.high.z, 5 + 5.5, 1e-5);
  EXPECT_NEAR(box.high.x, 100, 1e-6);
  EXPECT_NEAR(box.low.y, 0, 1e-6);
}

}  // namespace
}  // namespace kervo
