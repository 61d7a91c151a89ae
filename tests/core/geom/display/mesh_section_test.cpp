#include "geom/display/mesh_section.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/planes.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

BodyMesh meshOf(const Shape& shape, double deflection = 0.01) {
  Progress progress;
  return tessellate(shape, {deflection, 0.05}, progress);
}

double areaOf(const std::vector<PlanePoint>& triangles) {
  double twice = 0;
  for (std::size_t i = 0; i + 2 < triangles.size(); i += 3)
    twice += std::abs(cross(triangles[i + 1] - triangles[i], triangles[i + 2] - triangles[i]));
  return twice / 2;
}

Plane standing(Point at) {
  Plane plane;
  plane.origin = at;
  return plane;
}

Shape without(const Shape& stock, const Shape& cutter) {
  Progress progress;
  return divide(stock, {cutter}, progress).outside;
}

TEST(MeshSection, OfABlockIsItsRectangle) {
  const BodyMesh mesh = meshOf(makeBlock("b", Plane{}, 40, 30, 20));
  const MeshSection section = sectionOf(mesh, Plane::through({10, 0, 0}, {1, 0, 0}));
  ASSERT_EQ(section.loops.size(), 1u);
  EXPECT_TRUE(section.open.empty());
  EXPECT_NEAR(section.area(), 600, 1e-9);
  EXPECT_NEAR(areaOf(filled(section.loops)), 600, 1e-9);
  // The same from the other side: material stays to the left.
  EXPECT_NEAR(sectionOf(mesh, Plane::through({10, 0, 0}, {-1, 0, 0})).area(), 600, 1e-9);
  EXPECT_TRUE(sectionOf(mesh, Plane::through({41, 0, 0}, {1, 0, 0})).empty());
}

TEST(MeshSection, ThroughCornersAndEdgesIsStillClosed) {
  const BodyMesh mesh = meshOf(makeBlock("b", Plane{}, 40, 30, 20));
  // Along a diagonal of the floor: through four corners.
  const MeshSection diagonal = sectionOf(mesh, Plane::through({0, 0, 0}, {-30, 40, 0}));
  EXPECT_TRUE(diagonal.open.empty());
  EXPECT_NEAR(diagonal.area(), 50 * 20, 1e-3);
  EXPECT_NEAR(areaOf(filled(diagonal.loops)), 50 * 20, 1e-3);
  // On a face: either all of it or nothing, never a part.
  const double onFace = sectionOf(mesh, Plane::through({0, 0, 20}, {0, 0, 1})).area();
  EXPECT_TRUE(std::abs(onFace) < 1e-9 || std::abs(onFace - 1200) < 1e-9) << onFace;
}

TEST(MeshSection, KnowsHolesAndStretches) {
  const Shape tube = without(makeCylinder("o", Plane{}, 20, 50), makeCylinder("i", Plane{}, 12, 50));
  const MeshSection ring = sectionOf(meshOf(tube), Plane::through({0, 0, 25}, {0, 0, 1}));
  ASSERT_EQ(ring.loops.size(), 2u);
  EXPECT_NEAR(ring.area(), pi * (400 - 144), 1);
  EXPECT_NEAR(areaOf(filled(ring.loops)), ring.area(), 1e-6);
  EXPECT_FALSE(ring.holds({0, 0}));
  EXPECT_TRUE(ring.holds({16, 0}));
  const auto stretches = ring.stretches({0, 0}, {1, 0});
  ASSERT_EQ(stretches.size(), 2u);
  EXPECT_NEAR(stretches[0].first, -20, 0.02);
  EXPECT_NEAR(stretches[0].second, -12, 0.02);
  EXPECT_NEAR(stretches[1].second, 20, 0.02);
}

TEST(MeshSection, OfATorusThroughItsAxisIsTwoCircles) {
  const MeshSection section = sectionOf(meshOf(makeTorus("t", Plane{}, 30, 8)), Plane::through({}, {0, 1, 0}));
  ASSERT_EQ(section.loops.size(), 2u);
  EXPECT_NEAR(section.area(), 2 * pi * 64, 1);
}

TEST(MeshSection, OfASurfaceIsOpen) {
  BodyMesh mesh = meshOf(makeBlock("b", Plane{}, 40, 30, 20));
  // Without the triangles of one of its sides.
  const BodyMesh::Range gone = mesh.faceTriangles[0];
  mesh.triangles.erase(mesh.triangles.begin() + 3 * gone.first, mesh.triangles.begin() + 3 * (gone.first + gone.count));
  std::size_t open = 0;
  for (const Vector& normal : {Vector{0, 0, 1}, Vector{0, 1, 0}, Vector{1, 0, 0}})
    open += sectionOf(mesh, Plane::through({20, 15, 10}, normal)).open.size();
  EXPECT_EQ(open, 2u) << "two of the three planes cross that side";
}

TEST(MeshSection, OfTwoBodiesInOnePlaceIsTheirOverlap) {
  const Plane level = Plane::through({0, 0, 10}, {0, 0, 1});
  const auto at = [&](double x, double y, double width) {
    return sectionOf(meshOf(makeBlock("b", standing({x, y, 0}), width, 30, 20)), level);
  };
  EXPECT_NEAR(areaOf(overlapOf(at(0, 0, 40), at(30, 10, 40))), 10 * 20, 1e-6);
  // Bodies that only touch share nothing, whatever rounding says.
  EXPECT_TRUE(overlapOf(at(0, 0, 40), at(40, 0, 40)).empty());
  EXPECT_TRUE(overlapOf(at(0, 0, 40), at(40 - 1e-7, 1e-7, 40)).empty());
}

// 60 planes through turned bodies with holes, stated seed: what is filled is what the kernel says, within what the
// mesh leaves out at curved faces.
TEST(MeshSection, AgreesWithTheKernelOnRandomPlanes) {
  std::mt19937 random(1517);
  std::uniform_real_distribution<double> any(-1, 1), size(4, 20);
  Progress progress;
  int met = 0;
  for (int body = 0; body < 20; ++body) {
    const Shape outside = body % 2 ? makeCylinder("o", Plane{}, 10 + size(random), 30) : makeSphere("o", Plane{}, 22);
    const Shape inside =
        makeBlock("i", standing({any(random) * 5, any(random) * 5, -40}), size(random), size(random), 90);
    const Shape shape = moved(without(outside, inside), Motion::turn({}, {any(random), any(random), 1}, any(random)));
    const BodyMesh mesh = meshOf(shape, 0.005);
    for (int k = 0; k < 3; ++k) {
      const Plane plane = Plane::through({any(random) * 8, any(random) * 8, 5 + any(random) * 8},
                                         {any(random), any(random), any(random) + 0.01});
      const MeshSection section = sectionOf(mesh, plane);
      EXPECT_TRUE(section.open.empty());
      // The kernel's: the volume that a thin slab takes, over its thickness, is exact for a section that changes
      // evenly; its error goes with the square of the thickness.
      const double thick = 1e-3;
      const Shape slab = makeSlab("s", plane, -thick / 2, thick / 2, shape.roughBox());
      const Shape within = divide(shape, {slab}, progress).inside;
      const double area = within.empty() ? 0 : within.volume() / thick;
      double outline = 0;
      for (const auto& loop : section.loops)
        for (std::size_t i = 0; i < loop.size(); ++i) outline += distance(loop[i], loop[(i + 1) % loop.size()]);
      EXPECT_NEAR(section.area(), area, 0.01 * outline + 1e-3) << "body " << body << ", plane " << k;
      EXPECT_NEAR(areaOf(filled(section.loops)), section.area(), 1e-6 * (1 + section.area()));
      met += !section.empty();
    }
  }
  EXPECT_GT(met, 45);
}

TEST(Clip, HidesWhatLiesInOneOfItsRegions) {
  Clip clip;
  clip.regions = {{Plane::through({10, 0, 0}, {1, 0, 0})},
                  {Plane::through({0, 0, 0}, {0, 1, 0}), Plane::through({0, 5, 0}, {0, -1, 0})}};
  EXPECT_TRUE(clip.hides({11, 20, 0}));
  EXPECT_TRUE(clip.hides({0, 3, 7}));
  EXPECT_FALSE(clip.hides({0, 6, 7}));
  const std::vector<CutWall> walls = wallsOf(clip);
  ASSERT_EQ(walls.size(), 3u);
  EXPECT_TRUE(walls[0].borders.empty());
  EXPECT_EQ(walls[1].borders.size(), 1u);
}

}  // namespace
}  // namespace kervo
