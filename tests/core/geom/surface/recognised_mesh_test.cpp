// Meshes of exact bodies, made exact again.
#include "geom/surface/recognised_mesh.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/mesh/mesh_pieces.h"
#include "geom/mesh/meshed.h"
#include "geom/primitives.h"
#include "support/meshes.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;

constexpr double degree = std::numbers::pi / 180;

Mesh meshOf(const Shape& shape, double angle = 6 * degree) {
  Progress progress;
  return meshed(shape, {0.2, angle}, progress);
}

RecognisedMesh recognise(const Mesh& mesh, double tolerance = 0.005) {
  Progress progress;
  return recognisedMesh(mesh, "part", tolerance, 25 * degree, progress);
}

/// Meshed and recognised, a body has as many faces, and its volume.
void expectBack(const Shape& shape, double share = 1e-6, double angle = 6 * degree) {
  const RecognisedMesh found = recognise(meshOf(shape, angle));
  EXPECT_EQ(found.left, 0);
  ASSERT_FALSE(found.shape.empty());
  EXPECT_EQ(found.shape.kind(), BodyKind::Solid);
  EXPECT_TRUE(found.shape.watertight());
  EXPECT_TRUE(found.shape.valid());
  EXPECT_NEAR(found.shape.volume(), shape.volume(), share * shape.volume());
  EXPECT_NEAR(found.shape.area(), shape.area(), 10 * share * shape.area());
  std::map<std::string, int> wanted, is;
  for (const Face& face : facesOf(shape)) ++wanted[face.surfaceName()];
  for (const Face& face : facesOf(found.shape)) ++is[face.surfaceName()];
  EXPECT_EQ(is, wanted);
}

Shape cut(const Shape& stock, const std::vector<Shape>& cutters) {
  Progress progress;
  return divide(stock, cutters, progress).outside;
}

TEST(RecognisedMesh, ABlock) {
  expectBack(makeBlock("a", at(3, 4, 5), 10, 20, 30), 1e-9);
}

TEST(RecognisedMesh, ACylinder) {
  expectBack(makeCylinder("a", at(3, 4, 5), 7, 30));
  expectBack(makeCylinder("a", Plane::through({1, 2, 3}, {1, 2, 3}), 7, 30), 1e-6, 20 * degree);
}

TEST(RecognisedMesh, AConeWithAndWithoutTip) {
  expectBack(makeCone("a", at(0, 0, 0), 10, 4, 12));
  expectBack(makeCone("a", at(0, 0, 0), 10, 0, 12));
}

TEST(RecognisedMesh, ASphereAndATorus) {
  expectBack(makeSphere("a", at(1, 2, 3), 9));
  expectBack(makeTorus("a", at(1, 2, 3), 20, 5));
}

TEST(RecognisedMesh, APlateWithHoles) {
  expectBack(cut(makeBlock("a", at(0, 0, 0), 100, 60, 10),
                 {makeCylinder("b", at(20, 20, -1), 4, 20), makeCylinder("c", at(60, 30, -1), 9, 20),
                  makeCylinder("d", at(60, 30, 6), 14, 20), makeCone("e", at(85, 40, 4), 1, 8, 7)}));
}

TEST(RecognisedMesh, ACylinderCutAslantAndCrossDrilled) {
  Progress progress;
  const Shape rod = makeCylinder("a", at(0, 0, 0), 10, 60);
  const Shape slant = makeBlock("s", Plane::through({-30, -30, 40}, {0.3, 0.1, 1}), 90, 90, 60);
  expectBack(cut(rod, {slant}), 1e-5);
  expectBack(cut(rod, {makeCylinder("b", Plane::through({0, -20, 20}, {0, 1, 0}), 4, 40)}), 1e-5);
}

TEST(RecognisedMesh, ADomeAndAHalfPipe) {
  expectBack(cut(makeSphere("a", at(0, 0, 0), 20), {makeBlock("b", at(-30, -30, -30), 60, 60, 35)}));
  expectBack(cut(makeCylinder("a", at(0, 0, 0), 20, 40),
                 {makeCylinder("c", at(0, 0, -1), 15, 50), makeBlock("b", at(-30, 0, -1), 60, 60, 50)}));
}

TEST(RecognisedMesh, AHollowAndSeparateBodies) {
  const Shape box = cut(makeBlock("a", at(0, 0, 0), 40, 40, 40), {makeSphere("b", at(20, 20, 20), 12)});
  expectBack(box, 1e-5);
  const Mesh both =
      together({meshOf(makeBlock("a", at(0, 0, 0), 5, 5, 5)), meshOf(makeCylinder("b", at(20, 0, 0), 3, 9))});
  const RecognisedMesh found = recognise(both);
  EXPECT_EQ(found.left, 0);
  EXPECT_NEAR(found.shape.volume(), 125 + pi * 81, 1e-5 * 400);
}

TEST(RecognisedMesh, SaysWhatIsNoneOfThese) {
  Progress progress;
  // A ball pulled to an egg by a curve of its own.
  const Mesh ball = ballMesh({0, 0, 0}, 10, 24);
  std::vector<Point> points = ball.points();
  for (Point& point : points) point.x *= 1 + 0.04 * point.z + 0.02 * point.y, point.z *= 1.3;
  const RecognisedMesh found = recognise(Mesh(points, ball.triangles()), 1e-4);
  EXPECT_GT(found.left, 0);
  EXPECT_NE(found.shape.kind(), BodyKind::Solid);
}

TEST(RecognisedMesh, NeedsAClosedMesh) {
  const Mesh ball = ballMesh({0, 0, 0}, 10, 24);
  std::vector<Mesh::Triangle> triangles = ball.triangles();
  triangles.pop_back();
  try {
    recognise(Mesh(ball.points(), triangles));
    ADD_FAILURE();
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("3 of its edges lie open"));
  }
}

}  // namespace
}  // namespace kervo
