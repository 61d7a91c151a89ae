#include "geom/surface/placed_face.h"

#include <gtest/gtest.h>

#include <numbers>

#include "geom/primitives.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

Face faceNamed(const Shape& shape, const std::string& name) {
  for (const Face& face : facesOf(shape))
    if (face.origins().front() == name) return face;
  throw std::runtime_error("no face " + name);
}

TEST(Enlarged, CoversTheBoxOnTheSameSurfaceUnderTheNewName) {
  const Plane tilted = Plane::through({3, 4, 5}, {1, 2, 2});
  Box box;
  box.add(Point{-50, -50, -50});
  box.add(Point{50, 50, 50});
  for (const Shape& shape :
       {makeBlock("s", tilted, 1, 2, 3), makeCylinder("s", tilted, 2, 3), makeCone("s", tilted, 2, 1, 3)}) {
    for (const Face& face : facesOf(shape)) {
      const Shape surface = enlarged(face, box, "far");
      EXPECT_EQ(surface.kind(), BodyKind::Surface);
      EXPECT_FALSE(surface.watertight());
      const Face whole = facesOf(surface).front();
      EXPECT_EQ(whole.origins().front(), "far");
      EXPECT_EQ(whole.surfaceName(), face.surfaceName());
      EXPECT_LT(whole.distanceTo(face.samplePoint()), 1e-6);
      EXPECT_GT(whole.area(), 20 * face.area());
    }
  }
}

TEST(Enlarged, SpheresAndToriAreTakenWhole) {
  EXPECT_NEAR(enlarged(faceNamed(makeSphere("s", {}, 3), "s:side"), {}, "far").area(), 36 * pi, 1e-8);
  EXPECT_NEAR(enlarged(faceNamed(makeTorus("s", {}, 5, 2), "s:side"), {}, "far").area(), 40 * pi * pi, 1e-8);
}

TEST(Enlarged, MovesByTheOffset) {
  const Face top = faceNamed(makeBlock("b", {}, 10, 10, 10), "b:top");
  const Face moved = facesOf(enlarged(top, {}, "far", {0, 0, 7})).front();
  EXPECT_LT(moved.distanceTo({5, 5, 17}), 1e-9);
}

TEST(Topology, ComparesSurfacesAndCurves) {
  const Shape low = makeCylinder("c", {}, 3, 5), high = makeCylinder("c", Plane{}.moved(20), 3, 5),
              wide = makeCylinder("c", {}, 4, 5);
  EXPECT_TRUE(faceNamed(low, "c:side").onSameSurface(faceNamed(high, "c:side")));
  EXPECT_FALSE(faceNamed(low, "c:side").onSameSurface(faceNamed(wide, "c:side")));
  EXPECT_FALSE(faceNamed(low, "c:side").onSameSurface(faceNamed(low, "c:top")));
  EXPECT_TRUE(faceNamed(low, "c:bottom").onSameSurface(faceNamed(wide, "c:bottom")));
  EXPECT_FALSE(faceNamed(low, "c:bottom").onSameSurface(faceNamed(low, "c:top"))) << "parallel is not the same";
  const auto edges = edgesOf(low);
  ASSERT_EQ(edges.size(), 2u);
  EXPECT_FALSE(edges[0].onSameCurve(edges[1]));
  EXPECT_TRUE(edges[0].onSameCurve(edges[0]));
  EXPECT_NEAR(edges[0].length(), 6 * pi, 1e-9);
}

}  // namespace
}  // namespace kervo
