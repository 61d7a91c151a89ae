#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <set>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/divide/partition.h"
#include "geom/divide/plane_split.h"
#include "geom/measure/soundness.h"
#include "geom/mesh/mesh_boolean.h"
#include "geom/mesh/mesh_plane.h"
#include "geom/mesh/meshed.h"
#include "geom/motion.h"
#include "geom/primitives.h"
#include "geom/surface/sheet.h"
#include "support/meshes.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;

constexpr double pi = std::numbers::pi;

std::string errorOf(const std::function<void()>& act) {
  try {
    act();
  } catch (const Error& error) {
    return error.what();
  }
  return "no error";
}

TEST(Mesh, KnowsWhatItEnclosesAndWhatLiesOpen) {
  const Mesh box = boxMesh({1, 2, 3}, {11, 22, 33});
  EXPECT_DOUBLE_EQ(box.volume(), 6000);
  EXPECT_DOUBLE_EQ(box.area(), 2200);
  EXPECT_TRUE(box.watertight());
  const Mesh open = withHoles(box, 0, 12);
  EXPECT_EQ(open.openEdges(), 3u);
  EXPECT_EQ(open.volume(), 0);
  EXPECT_EQ(turnedOver(box).volume(), -6000);
  EXPECT_TRUE(Mesh({}, {}).empty());
  // An edge of three triangles joins none of them.
  EXPECT_EQ(
      Mesh({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, -1, 0}}, {{0, 1, 2}, {1, 0, 3}, {0, 1, 4}}).openEdges(),
      7u);
}

TEST(Mesh, ConsistsOfPiecesWithTheirHollows) {
  const Mesh hollow = turnedOver(ballMesh({0, 0, 0}, 8)), kernel = ballMesh({0, 0, 0}, 4),
             outer = ballMesh({0, 0, 0}, 10), beside = boxMesh({20, 0, 0}, {30, 5, 5});
  const Mesh all = together({hollow, kernel, outer, beside});
  EXPECT_NEAR(all.volume(), outer.volume() + hollow.volume() + kernel.volume() + 250, 1e-9 * all.volume());
  const std::vector<Mesh> pieces = piecesOf(all);
  ASSERT_EQ(pieces.size(), 3u);
  std::multiset<int> volumes;
  for (const Mesh& piece : pieces) volumes.insert(static_cast<int>(std::lround(piece.volume())));
  EXPECT_EQ(volumes, (std::multiset<int>{static_cast<int>(std::lround(kernel.volume())), 250,
                                         static_cast<int>(std::lround(outer.volume() + hollow.volume()))}));
  EXPECT_TRUE(inside(outer, {1, 2, 3}));
  EXPECT_FALSE(inside(all, {0, 0, 6})) << "in the hollow";
}

TEST(MeshPlane, HalvesOfABallAddUpWhateverThePlane) {
  const Mesh ball = ballMesh({3, -2, 1}, 10, 30);
  std::mt19937 random(7);
  std::uniform_real_distribution<double> number(-1, 1);
  for (int i = 0; i < 200; ++i) {
    const Vector normal{number(random), number(random), number(random)};
    const double above = 9 * number(random);
    const Plane plane = Plane::through(Point{3, -2, 1} + normalized(normal) * above, normal);
    const MeshHalves halves = splitByPlane(ball, plane);
    ASSERT_TRUE(halves.front.watertight() && halves.back.watertight()) << i;
    EXPECT_NEAR(halves.front.volume() + halves.back.volume(), ball.volume(), 1e-10 * ball.volume());
    // Both have the cut's area once more.
    const double cut = (halves.front.area() + halves.back.area() - ball.area()) / 2;
    EXPECT_NEAR(cut, pi * (100 - above * above), 0.02 * 314);
    const double cap = pi / 3 * (10 - above) * (10 - above) * (20 + above);
    EXPECT_NEAR(halves.front.volume(), cap, 0.02 * ball.volume());
  }
}

TEST(MeshPlane, RunsThroughCornersEdgesAndFaces) {
  const Mesh box = boxMesh({0, 0, 0}, {10, 10, 10});
  // Along a diagonal: through four corners.
  const MeshHalves diagonal = splitByPlane(box, Plane::through({0, 0, 0}, {1, -1, 0}));
  EXPECT_NEAR(diagonal.front.volume(), 500, 1e-9);
  EXPECT_TRUE(diagonal.front.watertight() && diagonal.back.watertight());
  // In a face: nothing is cut.
  const MeshHalves along = splitByPlane(box, Plane::through({0, 0, 10}, {0, 0, 1}));
  EXPECT_TRUE(along.front.empty());
  EXPECT_EQ(along.back.identity(), box.identity());
  // All but in a face, by less than rounding and by more.
  for (const double off : {1e-13, 1e-11, 1e-8, 1e-5}) {
    const MeshHalves near = splitByPlane(box, Plane::through({0, 0, 10 - off}, {0, 1e-12, 1}));
    EXPECT_NEAR(near.back.volume() + near.front.volume(), 1000, 1e-6);
  }
  // A comb: the plane lies in the floors of its gaps.
  std::vector<Mesh> teeth;
  for (int i = 0; i < 5; ++i) teeth.push_back(boxMesh({10.0 * i, 0, 0}, {10.0 * i + 5, 10, 20}));
  Progress progress;
  Mesh comb = boxMesh({0, 0, -10}, {45, 10, 5});
  for (const Mesh& tooth : teeth) comb = uniteMeshes(comb, tooth, progress);
  EXPECT_NEAR(comb.volume(), 45 * 10 * 15 + 5 * 5 * 10 * 15, 1e-9);
  const MeshHalves floors = splitByPlane(comb, Plane::through({0, 0, 5}, {0, 0, 1}));
  EXPECT_NEAR(floors.front.volume(), 5 * 5 * 10 * 15, 1e-9);
  EXPECT_EQ(piecesOf(floors.front).size(), 5u);
  EXPECT_TRUE(floors.front.watertight() && floors.back.watertight());
}

TEST(MeshPlane, LeavesOpenMeshesOpenAndKeepsPaints) {
  const Mesh open = painted(withHoles(ballMesh({0, 0, 0}, 10), 0, 1), 1, 2);
  EXPECT_TRUE(open.empty());
  const Mesh bowl = painted(withHoles(ballMesh({0, 0, 0}, 10), 0, 100), paintOf({1, 0, 0}), paintOf({0, 0, 1}));
  const MeshHalves halves = splitByPlane(bowl, Plane::through({0, 0, 1}, {0, 0, 1}));
  EXPECT_NEAR(halves.front.area() + halves.back.area(), bowl.area(), 1e-9 * bowl.area());
  const std::set<Paint> front(halves.front.paints().begin(), halves.front.paints().end());
  EXPECT_EQ(front, (std::set<Paint>{paintOf({1, 0, 0})}));
}

TEST(MeshDivide, BoxesByFormula) {
  Progress progress;
  const Shape a(boxMesh({0, 0, 0}, {10, 10, 10})), b(boxMesh({5, 5, 5}, {20, 20, 20}));
  const Division cut = divide(a, {b}, progress);
  EXPECT_NEAR(cut.outside.volume(), 875, 1e-9);
  EXPECT_NEAR(cut.inside.volume(), 125, 1e-9);
  EXPECT_EQ(cut.outside.kind(), BodyKind::Mesh);
  EXPECT_EQ(cut.meshed, 0);
  EXPECT_NEAR(unite({a, b}, progress).shape.volume(), 1000 + 3375 - 125, 1e-9);
  EXPECT_NEAR(intersect({a, b}, progress).volume(), 125, 1e-9);
  // What does not meet stays the very same.
  const Division missed = divide(a, {Shape(boxMesh({30, 0, 0}, {40, 1, 1}))}, progress);
  EXPECT_EQ(&missed.outside.body(), &a.body());
  EXPECT_TRUE(missed.inside.empty());
  // All of it, and faces in one plane.
  EXPECT_TRUE(divide(a, {Shape(boxMesh({-1, -1, -1}, {11, 11, 11}))}, progress).outside.empty());
  EXPECT_NEAR(divide(a, {Shape(boxMesh({0, 0, 0}, {10, 10, 4}))}, progress).outside.volume(), 600, 1e-9);
  const Division itself = divide(a, {a}, progress);
  EXPECT_NEAR(itself.inside.volume(), 1000, 1e-9);
}

TEST(MeshDivide, AnExactBodyIsMeshedWithinAStatedTolerance) {
  Progress progress;
  const Shape rod = makeCylinder("rod", Plane::through({5, 5, -5}, {0, 0, 1}), 3, 20);
  const Division cut = divide(Shape(boxMesh({0, 0, 0}, {10, 10, 10})), {rod}, progress);
  EXPECT_NEAR(cut.inside.volume(), pi * 9 * 10, 0.02 * pi * 9 * 10);
  EXPECT_GT(cut.meshed, 0);
  EXPECT_EQ(cut.outside.mesh()->tolerance(), cut.meshed);
  // The other way round the exact one becomes a mesh.
  const Division other = divide(rod, {Shape(boxMesh({0, 0, 0}, {10, 10, 10}))}, progress);
  EXPECT_EQ(other.outside.kind(), BodyKind::Mesh);
  EXPECT_EQ(other.outside.pieces().size(), 2u);
  const Shape missed = divide(rod, {Shape(boxMesh({50, 0, 0}, {51, 1, 1}))}, progress).outside;
  EXPECT_EQ(missed.kind(), BodyKind::Solid) << "what is not met stays exact";
}

TEST(MeshDivide, KeepsPaintsOfBothSides) {
  Progress progress;
  const Paint red = paintOf({1, 0, 0}), blue = paintOf({0, 0, 1});
  const Mesh stock = painted(boxMesh({0, 0, 0}, {10, 10, 10}), red, red),
             cutter = painted(ballMesh({10, 10, 10}, 4), blue, blue);
  const MeshDivision cut = divideMesh(stock, cutter, progress);
  double redArea = 0, blueArea = 0;
  for (std::size_t t = 0; t < cut.outside.triangles().size(); ++t) {
    const Mesh::Triangle& c = cut.outside.triangles()[t];
    const auto& p = cut.outside.points();
    const double area = length(cross(p[c[1]] - p[c[0]], p[c[2]] - p[c[0]])) / 2;
    (cut.outside.paints()[t] == red ? redArea : blueArea) += area;
    EXPECT_TRUE(cut.outside.paints()[t] == red || cut.outside.paints()[t] == blue);
  }
  EXPECT_NEAR(redArea, 600 - 3 * pi * 16 / 4, 0.5);
  EXPECT_NEAR(blueArea, 4 * pi * 16 / 8, 0.5);
}

TEST(MeshDivide, RefusesWhatHasNoInside) {
  Progress progress;
  const Shape box(boxMesh({0, 0, 0}, {10, 10, 10}));
  const Shape open(withHoles(ballMesh({10, 10, 10}, 5), 0, 500));
  EXPECT_THAT(errorOf([&] { divide(box, {open}, progress); }), HasSubstr("15 of its edges lie open"));
  const Shape crossing(together({boxMesh({0, 0, 0}, {10, 10, 10}), boxMesh({5, 5, 5}, {15, 15, 15})}));
  EXPECT_THAT(errorOf([&] { divide(crossing, {box}, progress); }), HasSubstr("runs through itself near"));
  EXPECT_EQ(flawsOf(crossing, progress).size(), 1u);
  EXPECT_TRUE(flawsOf(box, progress).empty());
  EXPECT_THAT(flawsOf(open, progress).front().text(), HasSubstr("15 edges lie open"));
  Progress stopped;
  stopped.requestStop();
  EXPECT_THROW(divide(box, {Shape(ballMesh({10, 10, 10}, 5))}, stopped), Stopped);
}

TEST(MeshDivide, RandomPairsObeyTheSumOfUnionAndIntersection) {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> number(0, 1);
  Progress progress;
  int met = 0;
  for (int i = 0; i < 100; ++i) {
    const auto any = [&]() -> Shape {
      const Point at{6 * number(random), 6 * number(random), 6 * number(random)};
      Mesh mesh = i % 2 == 0 ? ballMesh(at, 1 + 5 * number(random), 6 + i % 13)
                             : boxMesh(at, at + Vector{1 + 5 * number(random), 1 + 4 * number(random), 3});
      const Motion turn = Motion::turn(at, {number(random), number(random), 1}, 3 * number(random));
      return moved(Shape(std::move(mesh)), turn);
    };
    const Shape a = any(), b = any();
    const Division cut = divide(a, {b}, progress);
    const Shape both = unite({a, b}, progress).shape;
    const double scale = a.volume() + b.volume();
    EXPECT_NEAR(both.volume() + cut.inside.volume(), scale, 1e-9 * scale) << i;
    EXPECT_NEAR(cut.outside.volume() + cut.inside.volume(), a.volume(), 1e-9 * scale) << i;
    if (!cut.inside.empty()) ++met;
  }
  EXPECT_GT(met, 40);
}

TEST(MeshDivide, PartitionsIntoRegionsAndByPlanes) {
  Progress progress;
  const Shape a(boxMesh({0, 0, 0}, {10, 10, 10})), b(boxMesh({5, 0, 0}, {15, 10, 10}));
  const Shape ball(ballMesh({7.5, 5, 5}, 2));
  const Partition regions = partition({a, b, ball}, {}, progress);
  std::map<std::vector<std::size_t>, double> volumes;
  for (const Part& part : regions.parts) volumes[part.in] += part.shape.volume();
  EXPECT_NEAR(volumes.at({0}), 500, 1e-9);
  EXPECT_NEAR(volumes.at({1}), 500, 1e-9);
  EXPECT_NEAR(volumes.at({0, 1}), 500 - ball.volume(), 1e-9);
  EXPECT_NEAR((volumes.at({0, 1, 2})), ball.volume(), 1e-9);
  const Shape sheet = planarSheet(Plane::through({0, 0, 3}, {0, 0, 1}), Box{{-5, -5, -5}, {20, 20, 20}}, "s");
  const Partition split = partition({a}, {sheet}, progress);
  ASSERT_EQ(split.parts.size(), 2u);
  for (const Part& part : split.parts)
    EXPECT_NEAR(part.shape.volume(), part.sides.front() == SheetSide::Front ? 700 : 300, 1e-9);
}

TEST(MeshDivide, SplitsWithAKerf) {
  Progress progress;
  const Shape box(boxMesh({0, 0, 0}, {10, 10, 10}));
  const PlaneSplit split = splitByPlane("s", box, Plane::through({0, 0, 5}, {0, 0, 1}), Kerf::centred(2), progress);
  ASSERT_EQ(split.front.size(), 1u);
  EXPECT_NEAR(split.front.front().volume(), 400, 1e-9);
  EXPECT_NEAR(split.waste.volume(), 200, 1e-9);
  EXPECT_NEAR(split.cut.balance.residual(), 0, 1e-9);
}

TEST(Meshed, ClosesForRoundBodiesAndKeepsColours) {
  Progress progress;
  const Shape plate = divide(makeBlock("plate", {}, 40, 30, 10),
                             {makeCylinder("hole", Plane::through({20, 15, -1}, {0, 0, 1}), 4, 12)}, progress)
                          .outside;
  for (const double chord : {0.5, 0.05, 0.005}) {
    const Mesh mesh = meshed(plate, {chord, 1.0}, progress);
    EXPECT_TRUE(mesh.watertight());
    EXPECT_EQ(mesh.tolerance(), chord);
    EXPECT_NEAR(mesh.volume(), plate.volume(), chord * 2 * pi * 4 * 10);
  }
  const Mesh coloured = meshed(withFaceColors(plate, {{1, Color{1, 0, 0}}}), {}, progress);
  const auto red = std::count(coloured.paints().begin(), coloured.paints().end(), paintOf({1, 0, 0}));
  EXPECT_GT(red, 0);
  EXPECT_LT(red, static_cast<std::ptrdiff_t>(coloured.triangles().size()));
}

}  // namespace
}  // namespace kervo
