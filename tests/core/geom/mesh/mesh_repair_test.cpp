#include "geom/mesh/mesh_repair.h"

#include <gtest/gtest.h>

#include <random>

#include "geom/mesh/mesh_boolean.h"
#include "geom/mesh/mesh_size.h"
#include "geom/mesh/welded.h"
#include "support/meshes.h"

namespace kervo {
namespace {

using namespace test;

TEST(MeshRepair, FillsHolesAndSaysHowMany) {
  const Mesh ball = ballMesh({0, 0, 0}, 10, 40);
  const Mesh holed = withHoles(ball, 300, 900);
  ASSERT_FALSE(holed.watertight());
  Progress progress;
  const MeshRepaired report = repaired(holed, {}, progress);
  EXPECT_TRUE(report.mesh.watertight());
  EXPECT_EQ(report.holes, ball.triangles().size() / 900 + (ball.triangles().size() % 900 > 300 ? 1 : 0));
  EXPECT_EQ(report.holesLeft, 0u);
  EXPECT_NEAR(report.mesh.volume(), ball.volume(), 1e-9 * ball.volume()) << "each hole was one triangle";
  const MeshRepaired asked = repaired(holed, {.fillHoles = false}, progress);
  EXPECT_EQ(asked.mesh.openEdges(), holed.openEdges());
  EXPECT_FALSE(asked.changed());
}

TEST(MeshRepair, WeldsAndTurnsASoup) {
  const Mesh ball = ballMesh({5, 5, 5}, 10, 20);
  const Mesh soup = soupOf(ball);
  EXPECT_EQ(soup.openEdges(), 3 * soup.triangles().size());
  Progress progress;
  const MeshRepaired report = repaired(soup, {}, progress);
  EXPECT_TRUE(report.turned);
  EXPECT_EQ(report.weldedPoints, soup.points().size() - ball.points().size());
  EXPECT_TRUE(report.mesh.watertight());
  EXPECT_NEAR(report.mesh.volume(), ball.volume(), 1e-9 * ball.volume());
  // Inside out.
  const MeshRepaired turned = repaired(turnedOver(ball), {}, progress);
  EXPECT_TRUE(turned.turned);
  EXPECT_NEAR(turned.mesh.volume(), ball.volume(), 1e-9 * ball.volume());
  // Sound: nothing is done.
  EXPECT_FALSE(repaired(ball, {}, progress).changed());
}

TEST(MeshRepair, MendsCrossingsAndKeepsTheLargestPart) {
  const Mesh ball = ballMesh({0, 0, 0}, 10, 30);
  std::vector<Point> points = ball.points();
  points[400] = points[400] * -1.4;  // pushed through the other side
  const Mesh crossing(points, ball.triangles());
  ASSERT_TRUE(selfCrossing(crossing).has_value());
  Progress progress;
  const MeshRepaired report = repaired(crossing, {}, progress);
  EXPECT_GT(report.crossings, 0u);
  EXPECT_EQ(report.crossingsLeft, 0u);
  EXPECT_TRUE(report.mesh.watertight());
  EXPECT_FALSE(selfCrossing(report.mesh).has_value());
  const Mesh dusty = together({boxMesh({50, 0, 0}, {51, 1, 1}), ball, boxMesh({0, 50, 0}, {1, 51, 1})});
  for (const Mesh& bad : {soupOf(dusty), withHoles(soupOf(dusty), 100, 300)}) {
    const MeshRepaired clean = repaired(bad, {.keepLargest = true}, progress);
    EXPECT_EQ(clean.partsGone, 2u) << "also of triangles that look any way";
    EXPECT_NEAR(clean.mesh.volume(), ball.volume(), 1e-9 * ball.volume());
  }
  const MeshRepaired clean = repaired(dusty, {.keepLargest = true}, progress);
  EXPECT_EQ(clean.partsGone, 2u);
  EXPECT_NEAR(clean.mesh.volume(), ball.volume(), 1e-9 * ball.volume());
}

TEST(MeshRepair, KeepsPaints) {
  const Paint red = paintOf({1, 0, 0}), blue = paintOf({0, 0, 1});
  const Mesh holed = withHoles(painted(ballMesh({0, 0, 0}, 10), red, blue), 200, 700);
  Progress progress;
  const MeshRepaired report = repaired(holed, {}, progress);
  const auto count = [](const Mesh& mesh, Paint paint) {
    return std::count(mesh.paints().begin(), mesh.paints().end(), paint);
  };
  EXPECT_EQ(count(report.mesh, red), count(holed, red));
  EXPECT_EQ(count(report.mesh, blue), count(holed, blue));
  EXPECT_GT(count(report.mesh, 0), 0) << "what filled the holes";
}

TEST(Welded, JoinsPointsNearEachOther) {
  std::mt19937 random(3);
  std::uniform_real_distribution<double> jitter(-1e-4, 1e-4);
  Mesh soup = soupOf(boxMesh({0, 0, 0}, {10, 10, 10}));
  std::vector<Point> points = soup.points();
  for (Point& point : points) point = point + Vector{jitter(random), jitter(random), jitter(random)};
  const Mesh shaken(points, soup.triangles());
  EXPECT_EQ(welded(shaken, 0, false).mesh.points().size(), 36u);
  const Welded joined = welded(shaken, 1e-3, true);
  EXPECT_EQ(joined.mesh.points().size(), 8u);
  EXPECT_EQ(joined.points, 28u);
  EXPECT_EQ(joined.degenerate, 0u);
}

TEST(Welded, TurnsSliversAwayWithoutOpeningTheMesh) {
  std::mt19937 random(3);
  for (int run = 0; run < 50; ++run) {
    const Mesh box = boxMesh({0, 0, 0}, {16, 32, 8});
    std::vector<Point> points = box.points();
    std::vector<Mesh::Triangle> triangles = box.triangles();
    // One side of an edge gets a corner in its middle; on the other side a triangle without an area makes up for it.
    std::size_t slivers = 0;
    for (int i = 0; i < 8; ++i) {
      const std::size_t t = random() % triangles.size();
      const auto [p, q, a] = triangles[t];
      const auto m = static_cast<std::uint32_t>(points.size());
      const Point middle = (points[p] + points[q]) * 0.5;
      if (length(cross(points[q] - points[p], points[a] - points[p])) == 0) continue;
      points.push_back(middle);
      triangles[t] = {p, m, a};
      triangles.push_back({m, q, a});
      triangles.push_back({p, q, m});
      ++slivers;
    }
    const Mesh with(points, triangles);
    ASSERT_TRUE(with.watertight());
    const Welded clean = welded(with, 0, false);
    EXPECT_EQ(clean.degenerate, slivers) << run;
    EXPECT_TRUE(clean.mesh.watertight()) << run;
    EXPECT_EQ(clean.mesh.triangles().size(), with.triangles().size());
    EXPECT_NEAR(clean.mesh.volume(), 16 * 32 * 8, 1e-9) << run;
    for (const auto& [x, y, z] : clean.mesh.triangles()) {
      const std::vector<Point>& at = clean.mesh.points();
      EXPECT_GT(length(cross(at[y] - at[x], at[z] - at[x])), 0) << run;
    }
  }
}

TEST(MeshSize, ReducesWithinTheTolerance) {
  const Mesh ball = ballMesh({0, 0, 0}, 10, 60);
  Progress progress;
  for (const double tolerance : {0.05, 0.2, 1.0}) {
    const Mesh fewer = reduced(ball, tolerance, progress);
    EXPECT_LT(fewer.triangles().size(), ball.triangles().size() / 2);
    EXPECT_TRUE(fewer.watertight());
    EXPECT_LE(farthestFrom(ball, fewer), tolerance);
    EXPECT_LE(farthestFrom(fewer, ball), tolerance);
    EXPECT_EQ(fewer.tolerance(), tolerance);
  }
  // Flat faces lose all that is not needed.
  const Mesh fine = refined(boxMesh({0, 0, 0}, {10, 10, 10}), 1.5, progress);
  const Mesh coarse = reduced(fine, 1e-3, progress);
  EXPECT_LT(coarse.triangles().size(), 40u);
  EXPECT_NEAR(coarse.volume(), 1000, 1e-3);
}

TEST(MeshSize, KeepsTheBordersBetweenPaints) {
  const Paint red = paintOf({1, 0, 0}), blue = paintOf({0, 0, 1});
  Progress progress;
  const Mesh ball = painted(ballMesh({0, 0, 0}, 10, 40), red, blue);
  const auto areaOf = [](const Mesh& mesh, Paint paint) {
    std::vector<bool> wanted;
    for (const Paint each : mesh.paints()) wanted.push_back(each == paint);
    return someOf(mesh, wanted).area();
  };
  const Mesh fewer = reduced(ball, 0.1, progress);
  EXPECT_LT(fewer.triangles().size(), ball.triangles().size());
  EXPECT_NEAR(areaOf(fewer, red), areaOf(ball, red), 0.01 * ball.area());
}

TEST(MeshSize, RefinesWithoutChangingTheSurface) {
  Progress progress;
  const Mesh box = boxMesh({0, 0, 0}, {30, 20, 10});
  const Mesh fine = refined(box, 2, progress);
  EXPECT_TRUE(fine.watertight());
  EXPECT_NEAR(fine.volume(), 6000, 1e-9);
  EXPECT_NEAR(fine.area(), box.area(), 1e-9);
  double longest = 0;
  for (const Mesh::Triangle& c : fine.triangles())
    for (std::size_t i = 0; i < 3; ++i)
      longest = std::max(longest, distance(fine.points()[c[i]], fine.points()[c[(i + 1) % 3]]));
  EXPECT_LE(longest, 2);
}

}  // namespace
}  // namespace kervo
