#include "geom/surface/blended_edges.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

std::vector<Edge> edgesBetween(const Shape& shape, const std::string& a, const std::string& b) {
  std::vector<Edge> result;
  for (const Edge& edge : edgesOf(shape)) {
    const std::string first = edge.firstOrigins().front(), second = edge.secondOrigins().front();
    if ((first == a && second == b) || (first == b && second == a)) result.push_back(edge);
  }
  return result;
}

TEST(Round, OneEdgeLosesItsCornerStrip) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 30, 40);
  const Shape rounded = roundEdges("r", block, edgesBetween(block, "b:top", "b:left"), {3}, progress).solid;
  EXPECT_NEAR(rounded.volume(), 24000 - (9 - 9 * pi / 4) * 30, 1e-6);
  EXPECT_EQ(rounded.faceCount(), 7);
  bool named = false;
  for (const Face& face : facesOf(rounded)) named |= face.origins().front() == "r:blend:(b:left|b:top)";
  EXPECT_TRUE(named);
}

TEST(Round, AllEdgesOfABlock) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 30, 40);
  const Shape rounded = roundEdges("r", block, edgesOf(block), {2}, progress).solid;
  // Box of the rolling ball's centres, six slabs, twelve quarter cylinders, eight octants (Steiner's formula).
  const double a = 16, b = 26, c = 36, r = 2;
  EXPECT_NEAR(rounded.volume(),
              a * b * c + 2 * r * (a * b + b * c + a * c) + pi * r * r * (a + b + c) + 4.0 / 3 * pi * r * r * r, 1e-5);
  EXPECT_EQ(rounded.faceCount(), 26);
  EXPECT_TRUE(rounded.valid());
}

TEST(Round, RefusesARadiusThatDoesNotFit) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 30, 40);
  for (double radius : {25.0, 1000.0, 0.0, -1.0, std::nan("")})
    EXPECT_THROW(roundEdges("r", block, edgesBetween(block, "b:top", "b:left"), {radius}, progress), Error) << radius;
}

TEST(Chamfer, OneEdgeLosesItsCornerPrism) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 30, 40);
  const BlendedEdges chamfered = chamferEdges("c", block, edgesBetween(block, "b:top", "b:left"), {3}, progress);
  EXPECT_EQ(chamfered.edges, 1);
  EXPECT_NEAR(chamfered.solid.volume(), 24000 - 4.5 * 30, 1e-9);
  EXPECT_EQ(chamfered.solid.faceCount(), 7);
  bool named = false;
  for (const Face& face : facesOf(chamfered.solid)) named |= face.origins().front() == "c:chamfer:(b:left|b:top)";
  EXPECT_TRUE(named);
}

TEST(Chamfer, RoundEdgeLosesARingOfPappus) {
  Progress progress;
  const Shape rod = makeCylinder("r", {}, 10, 40);
  const BlendedEdges chamfered = chamferEdges("c", rod, edgesBetween(rod, "r:top", "r:side"), {2}, progress);
  // The triangle of 2 mm² turned about the axis on its centroid's circle.
  EXPECT_NEAR(rod.volume() - chamfered.solid.volume(), 2 * 2 * pi * (10 - 2.0 / 3), 1e-6);
}

TEST(Chamfer, CornersOfABlockBecomeTriangles) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 30, 40);
  const BlendedEdges chamfered = chamferEdges("c", block, edgesOf(block), {2}, progress);
  EXPECT_EQ(chamfered.edges, 12);
  EXPECT_TRUE(chamfered.solid.valid());
  EXPECT_EQ(chamfered.solid.faceCount(), 6 + 12 + 8);
  // Prisms along the edges, and of every corner's cube of 2 mm all but a sixth, where x + y + z > 4 mm.
  EXPECT_NEAR(24000 - chamfered.solid.volume(), 2 * (4 * (20 + 30 + 40) - 12 * 4) + 8 * 8 * 5.0 / 6, 1e-9);
}

TEST(Chamfer, RefusesADistanceThatDoesNotFit) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 30, 40);
  for (double distance : {25.0, 1000.0, 0.0, -1.0, std::nan("")})
    EXPECT_THROW(chamferEdges("c", block, edgesBetween(block, "b:top", "b:left"), {distance}, progress), Error)
        << distance;
}

}  // namespace
}  // namespace kervo
