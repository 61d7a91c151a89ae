// How thick material is where a cut face is pointed at.
#include <gtest/gtest.h>

#include "geom/divide/boolean.h"
#include "geom/flat/section_face.h"
#include "geom/measure/thickness.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

TEST(Thickness, IsTheShortestWayAcross) {
  Progress progress;
  const Plane plane = Plane::through({0, 15, 0}, {0, 1, 0});
  const Shape face = sectionFace(makeBlock("b", {}, 40, 30, 20), plane, progress);
  const auto wall = thicknessAt(face, plane, {30, 15, 7});
  ASSERT_TRUE(wall);
  EXPECT_NEAR(wall->thickness, 20, 1e-9) << "upright, though the end is nearer";
  EXPECT_NEAR(std::abs(wall->to.z - wall->from.z), 20, 1e-9);
  EXPECT_NEAR(wall->from.x, 30, 1e-6);
  EXPECT_NEAR(thicknessAt(face, plane, {39, 15, 19})->thickness, std::sqrt(2) * 2, 1e-6) << "across the corner";
  EXPECT_FALSE(thicknessAt(face, plane, {50, 15, 7})) << "no material";
}

TEST(Thickness, OfATubeIsThatOfItsWall) {
  Progress progress;
  const Shape tube =
      divide(makeCylinder("o", {}, 20, 50), {makeCylinder("i", Plane{{0, 0, -5}}, 16, 60)}, progress).outside;
  const Plane plane{{0, 0, 25}};
  const Shape face = sectionFace(tube, plane, progress);
  for (const double angle : {0.1, 1.3, 4.0}) {
    const auto wall = thicknessAt(face, plane, {18 * std::cos(angle), 18 * std::sin(angle), 25});
    ASSERT_TRUE(wall);
    EXPECT_NEAR(wall->thickness, 4, 4e-4);
  }
  EXPECT_FALSE(thicknessAt(face, plane, {0, 0, 25})) << "in the bore";
}

}  // namespace
}  // namespace kervo
