#include "geom/display/tessellate.h"

#include "geom/display/coarse_mesh.h"

#include <gtest/gtest.h>
#include <BRep_TEdge.hxx>
#include <TopExp_Explorer.hxx>

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/kernel/shape_body.h"
#include "geom/motion.h"
#include "geom/primitives.h"
#include "geom/topology.h"

namespace kervo {
namespace {

using std::numbers::pi;

Point vertex(const BodyMesh& mesh, std::uint32_t index) {
  return {mesh.points[3 * index], mesh.points[3 * index + 1], mesh.points[3 * index + 2]};
}

/// By the divergence theorem; right only if all triangles face outwards and nothing is missing.
double volumeOf(const BodyMesh& mesh) {
  double volume = 0;
  for (std::size_t i = 0; i < mesh.triangles.size(); i += 3)
    volume += dot(vertex(mesh, mesh.triangles[i]),
                  cross(vertex(mesh, mesh.triangles[i + 1]), vertex(mesh, mesh.triangles[i + 2]))) /
              6;
  return volume;
}

double smallestAgreement(const BodyMesh& mesh) {
  double least = 1;
  for (std::size_t i = 0; i < mesh.triangles.size(); i += 3) {
    const std::uint32_t a = mesh.triangles[i];
    const Vector across = cross(vertex(mesh, mesh.triangles[i + 1]) - vertex(mesh, a),
                                vertex(mesh, mesh.triangles[i + 2]) - vertex(mesh, a));
    if (length(across) < 1e-9) continue;
    least = std::min(
        least, dot(normalized(across), Vector{mesh.normals[3 * a], mesh.normals[3 * a + 1], mesh.normals[3 * a + 2]}));
  }
  return least;
}

BodyMesh meshed(const Shape& shape, MeshQuality quality = {0.01, 0.1}) {
  Progress progress;
  return tessellate(shape, quality, progress);
}

Shape block() {
  return makeBlock("block", Plane{}, 30, 20, 10);
}

Shape drilled(int holes) {
  std::vector<Shape> drills;
  for (int i = 0; i < holes; ++i) {
    Plane place;
    place.origin = {3.0 + 24.0 * i / std::max(1, holes - 1), 10, -1};
    drills.push_back(makeCylinder("drill" + std::to_string(i), place, 2, 12));
  }
  Progress progress;
  return divide(block(), drills, progress).outside;
}

TEST(Tessellate, BlockHasTwoTrianglesAFaceAndItsVolume) {
  const BodyMesh mesh = meshed(block());
  EXPECT_EQ(mesh.triangleCount(), 12u);
  EXPECT_EQ(mesh.faceTriangles.size(), 6u);
  EXPECT_EQ(mesh.edges.size(), 12u);
  EXPECT_EQ(mesh.corners.size(), 24u);
  EXPECT_NEAR(volumeOf(mesh), 6000, 1e-3);
  EXPECT_TRUE(mesh.closed);
  EXPECT_NEAR(mesh.box.high.x, 30, 1e-5);
}

TEST(Tessellate, PlaneWithHolesLeavesThemOpen) {
  const BodyMesh mesh = meshed(drilled(4));
  // Each hole is a polygon in a circle: by at most deflection × circumference too small.
  EXPECT_NEAR(volumeOf(mesh), 6000 - 4 * pi * 4 * 10, 4 * 0.01 * 4 * pi * 10 + 1e-3);
}

TEST(Tessellate, NormalsPointOutwardsOnEveryKindOfFace) {
  Plane place;
  for (const Shape& shape : {block(), drilled(2), makeCylinder("c", place, 5, 20), makeSphere("s", place, 8),
                             makeTorus("t", place, 10, 3), makeCone("k", place, 8, 3, 10)})
    EXPECT_GT(smallestAgreement(meshed(shape)), 0.8);
}

TEST(Tessellate, FollowsCurvedFacesAsCloselyAsAsked) {
  Plane place;
  const Shape ball = makeSphere("ball", place, 10);
  for (const double deflection : {0.5, 0.02}) {
    const BodyMesh mesh = meshed(ball, {deflection, 1.0});
    double worst = 0;
    for (std::size_t i = 0; i < mesh.triangles.size(); i += 3) {
      const Point middle = (vertex(mesh, mesh.triangles[i]) + vertex(mesh, mesh.triangles[i + 1]) +
                            vertex(mesh, mesh.triangles[i + 2])) *
                           (1.0 / 3);
      worst = std::max(worst, std::abs(10 - length(middle)));
    }
    EXPECT_LT(worst, deflection * 2);
  }
}

TEST(Tessellate, FacesAndEdgesComeInTheOrderOfTheTopology) {
  const Shape shape = drilled(3);
  const BodyMesh mesh = meshed(shape);
  const auto faces = facesOf(shape);
  const auto edges = edgesOf(shape);
  ASSERT_EQ(mesh.faceTriangles.size(), faces.size());
  ASSERT_EQ(mesh.edges.size(), edges.size());
  for (std::size_t i = 0; i < faces.size(); ++i) {
    const BodyMesh::Range range = mesh.faceTriangles[i];
    double area = 0;
    for (std::uint32_t t = 0; t < range.count; ++t) {
      const auto corner = [&](int k) {
        return vertex(mesh, mesh.triangles[3 * (range.first + t) + static_cast<std::uint32_t>(k)]);
      };
      area += length(cross(corner(1) - corner(0), corner(2) - corner(0))) / 2;
    }
    EXPECT_NEAR(area, faces[i].area(), 0.01 * faces[i].area() + 1);
  }
  for (std::size_t i = 0; i < edges.size(); ++i) {
    double length = 0;
    for (std::uint32_t p = 1; p < mesh.edges[i].count; ++p) {
      const auto at = [&](std::uint32_t k) {
        const std::size_t n = 3 * (mesh.edges[i].first + k);
        return Point{mesh.edgePoints[n], mesh.edgePoints[n + 1], mesh.edgePoints[n + 2]};
      };
      length += distance(at(p - 1), at(p));
    }
    EXPECT_NEAR(length, edges[i].length(), 0.01 * edges[i].length());
  }
}

/// Sides of triangles that have no other beside them, found by their points: where the mesh has gaps or overlaps.
std::size_t openSides(const BodyMesh& mesh) {
  // Corners are taken as exact, points on a curved face are a hair off them: compared in steps of 4 µm, off all numbers
  // that bodies here have.
  using Place = std::array<long, 3>;
  std::map<std::pair<Place, Place>, int> balance;
  const auto place = [&](std::uint32_t i) {
    const auto step = [&](std::size_t k) { return std::lround((mesh.points[3 * i + k] + 0.00137) * 250); };
    return Place{step(0), step(1), step(2)};
  };
  for (std::size_t i = 0; i < mesh.triangles.size(); i += 3)
    for (std::size_t k = 0; k < 3; ++k) {
      const Place a = place(mesh.triangles[i + k]), b = place(mesh.triangles[i + (k + 1) % 3]);
      if (a != b) a < b ? ++balance[{a, b}] : --balance[{b, a}];
    }
  return static_cast<std::size_t>(
      std::count_if(balance.begin(), balance.end(), [](const auto& side) { return side.second != 0; }));
}

Shape ring(double outer, double inner) {
  Progress progress;
  Plane below;
  below.origin.z = -1;
  return divide(makeCylinder("rim", {}, outer, 5), {makeCylinder("bore", below, inner, 7)}, progress).outside;
}

TEST(Tessellate, CurvedBordersCloseWithoutGaps) {
  // Disc and rings: a border that bulges outwards, and chords of one circle that cross the other when the ring is thin.
  for (const Shape& shape : {makeCylinder("disc", {}, 10, 5), ring(10, 6), ring(10, 9.9), ring(10, 9.99)}) {
    const BodyMesh mesh = meshed(shape, {0.05, 0.1});
    EXPECT_EQ(openSides(mesh), 0u);
    EXPECT_NEAR(volumeOf(mesh), shape.volume(), 0.05 * shape.area());
    EXPECT_GT(smallestAgreement(mesh), 0.8);
  }
}

TEST(Tessellate, ThinWebsBetweenHolesAreMeshed) {
  // Holes of radius 2 a hair apart, and one that leaves a hair at the plate's border.
  Progress progress;
  std::vector<Shape> drills;
  for (const auto& [x, y] : {std::pair(5.0, 10.0), std::pair(9.01, 10.0), std::pair(13.02, 10.0),
                             std::pair(27.995, 10.0), std::pair(9.01, 14.02), std::pair(20.0, 2.001)}) {
    Plane place;
    place.origin = {x, y, -1};
    drills.push_back(makeCylinder("drill" + std::to_string(drills.size()), place, 2, 12));
  }
  const Shape plate = divide(block(), drills, progress).outside;
  ASSERT_NEAR(plate.volume(), 6000 - 6 * 40 * pi, 1e-6);
  for (const double deflection : {0.2, 0.05, 0.005}) {
    const BodyMesh mesh = meshed(plate, {deflection, 0.2});
    EXPECT_EQ(openSides(mesh), 0u) << deflection;
    EXPECT_NEAR(volumeOf(mesh), plate.volume(), deflection * 6 * 4 * pi * 10);
  }
}

/// The farthest that a normal is off the line from the axis x = `x`, y = `y` to its point, over one face.
double normalsOffAxis(const BodyMesh& mesh, std::size_t face, double x, double y, double outward) {
  double worst = 0;
  const BodyMesh::Range range = mesh.faceVertices[face];
  for (std::uint32_t i = range.first; i < range.first + range.count; ++i) {
    const Point p = vertex(mesh, i);
    const Vector radial = normalized({p.x - x, p.y - y, 0});
    const Vector normal{mesh.normals[3 * i], mesh.normals[3 * i + 1], mesh.normals[3 * i + 2]};
    worst = std::max(worst, length(normal - radial * outward));
  }
  return worst;
}

TEST(Tessellate, WallsOfHolesAreStripsBetweenTheirRims) {
  const Shape shape = drilled(3);
  const BodyMesh mesh = meshed(shape);
  const auto faces = facesOf(shape);
  int walls = 0;
  for (std::size_t i = 0; i < faces.size(); ++i) {
    if (faces[i].surfaceName() != "cylinder") continue;
    ++walls;
    // Two triangles for each pair of points on the rims.
    EXPECT_EQ(mesh.faceTriangles[i].count, mesh.faceVertices[i].count - 2);
    EXPECT_LT(normalsOffAxis(mesh, i, faces[i].axis()->point.x, 10, -1), 1e-5);
  }
  EXPECT_EQ(walls, 3);
  EXPECT_EQ(openSides(mesh), 0u);
}

TEST(Tessellate, BodiesThatWereMovedAndTurnedKeepTheirWalls) {
  const Shape stock = drilled(3);
  meshed(stock);
  for (const Motion& motion : {Motion::by({5, 6, 7}), Motion::turn({1, 2, 3}, {1, 1, 0}, 0.7),
                               Motion::mirror(Plane::through({3, 0, 0}, {1, 0.2, 0}))}) {
    SCOPED_TRACE(motion.factor());
    const Shape shape = moved(stock, motion);
    const BodyMesh mesh = meshed(shape);
    EXPECT_EQ(openSides(mesh), 0u);
    EXPECT_NEAR(volumeOf(mesh), shape.volume(), 0.01 * 3 * 4 * pi * 10 + 1e-2);
    EXPECT_GT(smallestAgreement(mesh), 0.8);
  }
}

TEST(Tessellate, SlantedAndCutWallsCloseToo) {
  Progress progress;
  // A plane across the holes leaves slanted rims; a groove through a wall leaves one with six borders.
  const Shape stock = drilled(3);
  Plane slanted = Plane::through({15, 10, 8}, {0.3, 0.2, 1});
  const Shape cut = divide(stock, {makeSlab("saw", slanted, 0, Box::infinity, stock.box())}, progress).outside;
  Plane groove;
  groove.origin = {13, -1, 4};
  const Shape grooved = divide(stock, {makeBlock("groove", groove, 1.5, 40, 2)}, progress).outside;
  // A hole that ends in a countersink: the cone beside the wall has its own points on their common rim.
  Plane mouth;
  mouth.origin = {3, 10, 8};
  const Shape countersunk = divide(stock, {makeCone("sink", mouth, 2, 4, 2.5)}, progress).outside;
  for (const auto& [name, shape] :
       {std::pair("slanted", cut), std::pair("grooved", grooved), std::pair("countersunk", countersunk)}) {
    SCOPED_TRACE(name);
    const BodyMesh mesh = meshed(shape);
    EXPECT_EQ(openSides(mesh), 0u);
    EXPECT_NEAR(volumeOf(mesh), shape.volume(), 0.01 * 4 * 4 * pi * 10);
  }
}

TEST(Tessellate, FacesThatWereMeshedBesideOthersMeetAgain) {
  // One hole wall and the plane below it each get a mesh beside others; then a body has both as they are.
  Progress progress;
  const Shape stock = drilled(1);
  Plane slanted = Plane::through({15, 10, 8}, {0.3, 0.2, 1});
  const Shape below = divide(stock, {makeSlab("saw", slanted, 0, Box::infinity, stock.box())}, progress).outside;
  meshed(stock);
  meshed(below);
  EXPECT_EQ(openSides(meshed(stock)), 0u);
  EXPECT_EQ(openSides(meshed(below)), 0u);
  EXPECT_EQ(openSides(meshed(stock)), 0u);
}

/// All that the kernel notes on the edges of a shape: curves, and polygons of meshes.
int notesOnEdges(const Shape& shape) {
  int count = 0;
  for (TopExp_Explorer it(shape.body().topology, TopAbs_EDGE); it.More(); it.Next())
    count += Handle(BRep_TEdge)::DownCast(it.Current().TShape())->Curves().Extent();
  return count;
}

TEST(Tessellate, TrialsLeaveNothingOnTheEdgesOfTheirStock) {
  Progress progress;
  const Shape stock = drilled(2);
  meshed(stock);
  const int before = notesOnEdges(stock);
  // Each cut leaves the holes and gives new faces to their edges.
  for (int i = 0; i < 20; ++i) {
    Plane saw;
    saw.origin = {14.5 + 0.05 * i, -1, -1};
    const Shape cut = divide(stock, {makeBlock("saw", saw, 0.5, 40, 40)}, progress).outside;
    ASSERT_EQ(cut.solidCount(), 2);
    meshed(cut);
    // And one that gives new walls to the rims on top.
    Plane above;
    above.origin = {-1, -1, -1};
    meshed(divide(stock, {makeBlock("plane", above, 40, 40, 3 + 0.1 * i)}, progress).outside);
  }
  EXPECT_EQ(notesOnEdges(stock), before);
}

TEST(Tessellate, QualityIsTheSameForNearlyEqualSizes) {
  EXPECT_EQ(MeshQuality::forSize(100).deflection, MeshQuality::forSize(110).deflection);
  EXPECT_LT(MeshQuality::forSize(10).deflection, MeshQuality::forSize(1000).deflection);
}

TEST(Tessellate, CanBeStopped) {
  Progress progress;
  progress.requestStop();
  Plane place;
  EXPECT_THROW(tessellate(makeSphere("ball", place, 10), {0.001, 0.01}, progress), Stopped);
}

TEST(CoarseMesh, HasFewerTrianglesAndTheSameShape) {
  Progress progress;
  const BodyMesh mesh = tessellate(makeTorus("t", Plane{}, 30, 8), {0.02, 0.05}, progress);
  const std::vector<std::uint32_t> coarse = coarseTriangles(mesh, 0.1);
  EXPECT_LT(coarse.size() / 3, mesh.triangleCount() / 4);
  EXPECT_GT(coarse.size() / 3, mesh.triangleCount() / 20);
  const auto volumeOf = [&](const std::vector<std::uint32_t>& triangles) {
    double six = 0;
    for (std::size_t i = 0; i + 2 < triangles.size(); i += 3) {
      const auto corner = [&](std::size_t k) {
        const float* p = &mesh.points[std::size_t{3} * triangles[i + k]];
        return Vector{p[0], p[1], p[2]};
      };
      six += dot(corner(0), cross(corner(1), corner(2)));
    }
    return six / 6;
  };
  EXPECT_NEAR(volumeOf(coarse), volumeOf(mesh.triangles), 0.05 * volumeOf(mesh.triangles));
}

}  // namespace
}  // namespace kervo
