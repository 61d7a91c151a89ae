#include "geom/round_edges.h"

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
  const Shape rounded = roundEdges("r", block, edgesBetween(block, "b:top", "b:left"), 3, progress);
  EXPECT_NEAR(rounded.volume(), 24000 - (9 - 9 * pi / 4) * 30, 1e-6);
  EXPECT_EQ(rounded.faceCount(), 7);
  bool named = false;
  for (const Face& face : facesOf(rounded)) named |= face.origins().front() == "r:blend:(b:left|b:top)";
  EXPECT_TRUE(named);
}

TEST(Round, AllEdgesOfABlock) {
  Progress progress;
  const Shape block = makeBlock("b", {}, 20, 30, 40);
  const Shape rounded = roundEdges("r", block, edgesOf(block), 2, progress);
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
    EXPECT_THROW(roundEdges("r", block, edgesBetween(block, "b:top", "b:left"), radius, progress), Error) << radius;
}

}  // namespace
}  // namespace kervo
