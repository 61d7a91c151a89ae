// Slices against formulas: solids, surfaces and meshes.
#include "geom/flat/slices.h"

#include <gmock/gmock.h>

#include <numbers>

#include "base/error.h"
#include "geom/curves/curve_body.h"
#include "geom/display/tessellate.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/surface/sheet.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

std::vector<Plane> levels(const std::vector<double>& heights) {
  std::vector<Plane> planes;
  for (const double z : heights) planes.push_back(Plane{}.moved(z));
  return planes;
}

Shape bored() {
  Progress progress;
  const Shape block = makeBlock("block", Plane::through({0, 0, 0}, {0, 0, 1}), 40, 30, 20);
  return divide(block, {makeCylinder("hole", Plane::through({20, 15, -5}, {0, 0, 1}), 4, 40)}, progress).outside;
}

Mesh meshOf(const Shape& shape) {
  Progress progress;
  const BodyMesh made = tessellate(shape, {0.001, 0.02}, progress);
  std::vector<Point> points;
  std::map<std::tuple<float, float, float>, std::uint32_t> numbers;
  const auto numberOf = [&](std::uint32_t vertex) {
    const float* at = &made.points[3 * vertex];
    const auto [found, isNew] = numbers.try_emplace({at[0], at[1], at[2]}, static_cast<std::uint32_t>(points.size()));
    if (isNew) points.push_back({at[0], at[1], at[2]});
    return found->second;
  };
  std::vector<Mesh::Triangle> triangles;
  for (std::size_t t = 0; t + 2 < made.triangles.size(); t += 3)
    triangles.push_back(
        {numberOf(made.triangles[t]), numberOf(made.triangles[t + 1]), numberOf(made.triangles[t + 2])});
  return {points, triangles};
}

TEST(Slices, OfASolidAreExactWithHolesAndLeaveOutWhatIsMissed) {
  Progress progress;
  const auto slices = slicesOf(bored(), levels({-1, 5, 10, 19.5, 21}), "s", progress);
  ASSERT_EQ(slices.size(), 3u);
  for (std::size_t i = 0; i < slices.size(); ++i) {
    EXPECT_EQ(slices[i].plane, i + 1);
    EXPECT_NEAR(slices[i].faces.area(), 40 * 30 - pi * 16, 1e-8);
    EXPECT_NEAR(lengthOfCurve(slices[i].curve), 140 + 8 * pi, 1e-8);
    EXPECT_EQ(slices[i].closed, 2);
    EXPECT_EQ(slices[i].open, 0);
    EXPECT_EQ(facesOf(slices[i].faces).front().origins().front(), "s");
    EXPECT_NEAR(facesOf(slices[i].faces).front().normal().z, 1, 1e-12);
  }
}

TEST(Slices, APlaneOnAFaceGivesThatFace) {
  Progress progress;
  const auto slices = slicesOf(bored(), levels({0, 20}), "s", progress);
  ASSERT_EQ(slices.size(), 2u);
  for (const Slice& slice : slices) {
    EXPECT_NEAR(slice.faces.area(), 40 * 30 - pi * 16, 1e-8);
    EXPECT_NEAR(facesOf(slice.faces).front().normal().z, 1, 1e-12);
  }
}

TEST(Slices, OfASphereFollowItsFormulaAtFiftyHeights) {
  Progress progress;
  std::vector<double> heights;
  for (int i = 0; i < 50; ++i) heights.push_back(-24.5 + i);
  const auto slices = slicesOf(makeSphere("ball", Plane{}, 25), levels(heights), "s", progress);
  ASSERT_EQ(slices.size(), 50u);
  for (const Slice& slice : slices) {
    const double z = heights[slice.plane];
    EXPECT_NEAR(slice.faces.area(), pi * (625 - z * z), 1e-6) << z;
    EXPECT_EQ(slice.closed, 1);
  }
}

TEST(Slices, OfASurfaceAreLinesThatEndOrClose) {
  Progress progress;
  const Shape block = makeBlock("block", Plane::through({0, 0, 0}, {0, 0, 1}), 40, 30, 20);
  std::vector<Face> sides;
  for (const Face& face : facesOf(block))
    if (std::abs(face.normal().z) < 0.5) sides.push_back(face);
  const auto round = slicesOf(lifted(sides), levels({5, 15}), "s", progress);
  ASSERT_EQ(round.size(), 2u);
  EXPECT_EQ(round[0].closed, 1);
  EXPECT_TRUE(round[0].faces.empty()) << "a surface encloses nothing";
  EXPECT_NEAR(lengthOfCurve(round[0].curve), 140, 1e-8);
  sides.pop_back();
  const auto open = slicesOf(lifted(sides), levels({5}), "s", progress);
  ASSERT_EQ(open.size(), 1u);
  EXPECT_EQ(open[0].closed, 0);
  EXPECT_EQ(open[0].open, 1);
}

TEST(Slices, OfAMeshAreItsPolygonsWithHoles) {
  Progress progress;
  const auto slices = slicesOf(meshOf(bored()), levels({5, 10}), "s", progress);
  ASSERT_EQ(slices.size(), 2u);
  for (const Slice& slice : slices) {
    EXPECT_EQ(slice.closed, 2);
    EXPECT_EQ(slice.open, 0);
    EXPECT_NEAR(slice.faces.area(), 40 * 30 - pi * 16, 0.1);
  }
}

TEST(Slices, OfAMeshWithAGapEnd) {
  Progress progress;
  const Mesh whole = meshOf(makeBlock("block", Plane::through({0, 0, 0}, {0, 0, 1}), 40, 30, 20));
  std::vector<Mesh::Triangle> some;
  for (const Mesh::Triangle& triangle : whole.triangles()) {
    const auto x = [&](std::size_t corner) { return whole.points()[triangle[corner]].x; };
    if (x(0) > 0 || x(1) > 0 || x(2) > 0) some.push_back(triangle);
  }
  const auto slices = slicesOf(Mesh(whole.points(), some), levels({10}), "s", progress);
  ASSERT_EQ(slices.size(), 1u);
  EXPECT_EQ(slices[0].closed, 0);
  EXPECT_EQ(slices[0].open, 1);
  EXPECT_NEAR(lengthOfCurve(slices[0].curve), 110, 1e-4);
}

TEST(Slices, CurvesAreRefused) {
  Progress progress;
  EXPECT_THROW(slicesOf(curveBody({Segment{{0, 0, 0}, {0, 0, 9}}}, {}), levels({1}), "s", progress), Error);
}

}  // namespace
}  // namespace kervo
