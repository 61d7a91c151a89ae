#include "geom/divide/plane_split.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "geom/primitives.h"
#include "geom/surface/sheet.h"
#include "geom/topology.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

TEST(PlaneSplit, SpherePartsAreSphericalCaps) {
  Progress progress;
  const auto cap = [](double r, double h) { return pi * h * h * (3 * r - h) / 3; };
  for (double height : {-3.0, 0.0, 1.0, 4.9}) {
    const PlaneSplit split = splitByPlane("s", makeSphere("ball", {}, 5), Plane{}.moved(height), Kerf(), progress);
    ASSERT_EQ(split.front.size(), 1u);
    ASSERT_EQ(split.back.size(), 1u);
    EXPECT_NEAR(split.front[0].volume(), cap(5, 5 - height), 1e-7);
    EXPECT_NEAR(split.back[0].volume(), cap(5, 5 + height), 1e-7);
  }
}

TEST(PlaneSplit, KerfTakesItsWidthOnTheSideAskedFor) {
  Progress progress;
  const Shape bar = makeBlock("bar", {}, 10, 10, 100);
  const Plane at30 = Plane{}.moved(30);
  for (const auto& [kerf, back] :
       {std::pair(Kerf::centred(4), 28.0), std::pair(Kerf::inFront(4), 30.0), std::pair(Kerf::behind(4), 26.0)}) {
    const PlaneSplit split = splitByPlane("s", bar, at30, kerf, progress);
    EXPECT_NEAR(split.waste.volume(), 400, 1e-9);
    EXPECT_NEAR(split.back[0].volume(), back * 100, 1e-9);
    EXPECT_NEAR(split.front[0].volume(), (96 - back) * 100, 1e-9);
  }
}

TEST(PlaneSplit, NamesTheNewFaces) {
  Progress progress;
  for (double kerf : {0.0, 2.0}) {
    const PlaneSplit split =
        splitByPlane("s", makeBlock("bar", {}, 10, 10, 100), Plane{}.moved(30), Kerf::centred(kerf), progress);
    for (const Shape& piece : {split.front[0], split.back[0]}) {
      int cuts = 0;
      for (const Face& face : facesOf(piece)) cuts += face.origins().front() == "s:cut";
      EXPECT_EQ(cuts, 1) << kerf;
    }
  }
}

TEST(PlaneSplit, SidesAreToldFromCornersOrFromFaces) {
  Progress progress;
  const Plane upright = Plane::through({0, 0, 0}, {1, 0, 0});
  EXPECT_NEAR(farthestFrom(upright, makeBlock("b", Plane::through({-3, 0, 0}, {0, 0, 1}), 2, 5, 5)), -3, 1e-12);
  // Caps of a ball whose seam is not on them: their only corner lies on the rim.
  const Shape ball = makeSphere("ball", {}, 10);
  for (const double x : {-9.0, -5.0, 5.0, 9.0}) {
    const Plane plane = upright.moved(x);
    const PlaneSplit split = splitByPlane("s", ball, plane, Kerf(), progress);
    ASSERT_EQ(split.front.size(), 1u);
    EXPECT_GT(farthestFrom(plane, split.front[0]), 0);
    EXPECT_LT(farthestFrom(plane, split.back[0]), 0);
    EXPECT_EQ(split.front[0].volume() < split.back[0].volume(), x > 0);
  }
}

TEST(PlaneSplit, AHairOfAKerfStillHasTwoSides) {
  Progress progress;
  const Shape ball = makeSphere("ball", {}, 10);
  const PlaneSplit split =
      splitByPlane("s", ball, Plane::through({-5, 0, 0}, {1, 0, 0}), Kerf::centred(0.002), progress);
  ASSERT_EQ(split.front.size(), 1u);
  ASSERT_EQ(split.back.size(), 1u);
  const auto cap = [](double h) { return pi * h * h * (30 - h) / 3; };
  EXPECT_NEAR(split.back[0].volume(), cap(4.999), 1e-6);
  EXPECT_NEAR(split.front[0].volume(), cap(14.999), 1e-6);
}

TEST(PlaneSplit, EveryPieceOfASurfaceLiesOnItsSide) {
  Progress progress;
  // The wall of a tube as a surface: a plane along the axis with a kerf leaves two halves, one across two rings, and
  // one beside the axis a bow and the rest.
  const Shape wall = lifted({facesOf(makeCylinder("tube", {}, 10, 30)).front()});
  ASSERT_EQ(wall.kind(), BodyKind::Surface);
  ASSERT_NEAR(wall.area(), 2 * pi * 10 * 30, 1e-6);
  const double half = 10 * 30 * (pi - 2 * std::asin(0.1));
  const PlaneSplit along = splitByPlane("s", wall, Plane::through({0, 0, 0}, {0, 1, 0}), Kerf::centred(2), progress);
  ASSERT_EQ(along.front.size(), 1u);
  ASSERT_EQ(along.back.size(), 1u);
  EXPECT_NEAR(along.front[0].area(), half, 1e-6);
  EXPECT_NEAR(along.back[0].area(), half, 1e-6);
  const PlaneSplit across = splitByPlane("s", wall, Plane{}.moved(20), Kerf::centred(2), progress);
  ASSERT_EQ(across.front.size(), 1u);
  EXPECT_NEAR(across.front[0].area(), 2 * pi * 10 * 9, 1e-6);
  EXPECT_NEAR(across.back[0].area(), 2 * pi * 10 * 19, 1e-6);
  EXPECT_NEAR(across.waste.area(), 2 * pi * 10 * 2, 1e-6);
}

TEST(PlaneSplit, ASurfaceThatFallsApartIsSeveralPieces) {
  Progress progress;
  // All faces of a block but top and bottom: a plane across leaves one ring on each side, a slab along x takes two
  // walls and leaves the other two apart.
  std::vector<Face> walls;
  const Shape block = makeBlock("block", {}, 20, 10, 5);
  for (const Face& face : facesOf(block))
    if (std::abs(face.normal().z) < 0.5) walls.push_back(face);
  const Shape ring = lifted(walls);
  ASSERT_EQ(ring.pieces().size(), 1u);
  const Division cut = divide(ring, {makeBlock("saw", Plane::through({5, -1, -1}, {0, 0, 1}), 10, 12, 7)}, progress);
  const std::vector<Shape> pieces = cut.outside.pieces();
  ASSERT_EQ(pieces.size(), 2u);
  for (const Shape& piece : pieces) {
    EXPECT_EQ(piece.kind(), BodyKind::Surface);
    EXPECT_NEAR(piece.area(), (10 + 2 * 5) * 5, 1e-9);
    EXPECT_EQ(piece.faceCount(), 3);
  }
  EXPECT_EQ(cut.inside.pieces().size(), 2u);
}

TEST(PlaneSplit, AMissIsToldForBothSides) {
  Progress progress;
  const Shape bar = makeBlock("bar", {}, 10, 10, 100);
  EXPECT_TRUE(splitByPlane("s", bar, Plane{}.moved(200), Kerf::centred(2), progress).missed());
  EXPECT_TRUE(splitByPlane("s", bar, Plane{}.moved(100), Kerf(), progress).missed());
  EXPECT_TRUE(splitByPlane("s", bar, Plane{}.moved(0), Kerf(), progress).missed());
  EXPECT_FALSE(splitByPlane("s", bar, Plane{}.moved(100), Kerf::centred(2), progress).missed())
      << "half of the kerf reaches in";
}

TEST(PlaneSplit, AKerfWiderThanTheBodyLeavesNothing) {
  Progress progress;
  const PlaneSplit split =
      splitByPlane("s", makeBlock("bar", {}, 10, 10, 10), Plane{}.moved(5), Kerf::centred(50), progress);
  EXPECT_TRUE(split.front.empty());
  EXPECT_TRUE(split.back.empty());
  EXPECT_NEAR(split.waste.volume(), 1000, 1e-9);
}

}  // namespace
}  // namespace kervo
