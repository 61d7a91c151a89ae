#include "geom/surface/sheet.h"
#include "drawing/regions.h"
#include "geom/surface/extension.h"

#include <gtest/gtest.h>

#include "base/error.h"
#include "geom/divide/partition.h"
#include "geom/primitives.h"
#include "geom/surface/reach_gap.h"
#include "geom/sweep/path.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

std::vector<Face> facesNamed(const Shape& shape, const std::vector<std::string>& names) {
  std::vector<Face> result;
  for (const std::string& name : names)
    for (const Face& face : facesOf(shape))
      if (face.origins().front() == name) result.push_back(face);
  return result;
}

class SheetTest : public testing::Test {
 protected:
  Progress progress;
  Shape block = makeBlock("b", {}, 20, 10, 5);
};

TEST_F(SheetTest, LiftedFacesAreOneSurfaceWithTheirNames) {
  const Shape surface = lifted(facesNamed(block, {"b:top", "b:right"}));
  EXPECT_EQ(surface.kind(), BodyKind::Surface);
  EXPECT_EQ(surface.faceCount(), 2);
  EXPECT_NEAR(surface.area(), 200 + 50, 1e-9);
  EXPECT_EQ(surface.edgeCount(), 7);  // one is shared
  EXPECT_EQ(facesNamed(surface, {"b:top"}).size(), 1u);
}

TEST_F(SheetTest, PlanarSurfaceGrowsWithMitredCorners) {
  const Shape larger = extended(lifted(facesNamed(block, {"b:top"})), 3, "split");
  EXPECT_NEAR(larger.area(), 26 * 16, 1e-6);
  EXPECT_EQ(larger.faceCount(), 1);
  EXPECT_EQ(facesOf(larger).front().origins().front(), "b:top");
  EXPECT_NEAR(facesOf(larger).front().normal().z, 1, 1e-9);
}

TEST_F(SheetTest, CylinderPartGrowsAlongAndAround) {
  const Shape rod = makeCylinder("r", {}, 10, 20);
  const Shape larger = extended(lifted(facesNamed(rod, {"r:side"})), 5, "split");
  EXPECT_NEAR(larger.area(), 2 * pi * 10 * 30, 1e-6);
}

TEST_F(SheetTest, FoldedSurfaceGrowsByStripsWithMitres) {
  // Two faces at a right angle: each grows by 4 along its outer borders, and they stay joined.
  const Shape larger = extended(lifted(facesNamed(block, {"b:top", "b:right"})), 4, "split");
  EXPECT_EQ(larger.kind(), BodyKind::Surface);
  // top 20 × 10 becomes 24 × 18, right 10 × 5 becomes 18 × 9.
  EXPECT_NEAR(larger.area(), 24 * 18 + 18 * 9, 1e-5);
  EXPECT_GT(facesNamed(larger, {"split:extension"}).size(), 3u);
}

TEST_F(SheetTest, ClosedSurfaceHasNothingToExtend) {
  const Shape ball = makeSphere("s", {}, 5);
  EXPECT_THROW(extended(lifted(facesOf(ball)), 2, "x"), Error);
  EXPECT_THROW(extended(lifted(facesNamed(block, {"b:top"})), 0, "x"), Error);
}

TEST_F(SheetTest, PlanarSurfaceThickensToAPrism) {
  const Shape slab = thickened(lifted(facesNamed(block, {"b:top"})), -1, 2, "k", progress);
  EXPECT_NEAR(slab.volume(), 600, 1e-9);
  EXPECT_NEAR(slab.box().low.z, 4, 1e-9);
  EXPECT_NEAR(slab.box().high.z, 7, 1e-9);
  ASSERT_EQ(facesNamed(slab, {"k:front"}).size(), 1u);
  EXPECT_NEAR(facesNamed(slab, {"k:front"}).front().samplePoint().z, 7, 1e-9);
}

TEST_F(SheetTest, CylinderThickensToARing) {
  const Shape rod = makeCylinder("r", {}, 10, 20);
  const Shape ring = thickened(lifted(facesNamed(rod, {"r:side"})), -1, 1, "k", progress);
  EXPECT_NEAR(ring.volume(), pi * (121 - 81) * 20, 1e-4);
  EXPECT_EQ(facesNamed(ring, {"k:front"}).size(), 1u);
  EXPECT_EQ(facesNamed(ring, {"k:back"}).size(), 1u);
  EXPECT_THROW(thickened(lifted(facesNamed(rod, {"r:side"})), -12, 1, "k", progress), Error);
}

TEST_F(SheetTest, SweptPathIsThickenedRoundItsCorner) {
  const std::vector<PlanarCurve> curves{{"a", LineCurve{{0, 0}, {10, 0}}}, {"b", LineCurve{{10, 0}, {10, 10}}}};
  const std::vector<Path> paths = findPaths({}, curves, {});
  ASSERT_EQ(paths.size(), 1u);
  const Shape wall = sweptPath(paths.front(), "p", 0, 5, 0);
  EXPECT_NEAR(wall.area(), 100, 1e-9);
  const Shape solid = thickened(wall, -1, 1, "k", progress);
  EXPECT_NEAR(solid.volume(), (11 + 9) * 2 * 5, 1e-4);
}

TEST_F(SheetTest, GrownBlockIsLargerOnEverySide) {
  const Shape larger = grown(block, 0.5, progress);
  EXPECT_NEAR(larger.volume(), 21 * 11 * 6, 1e-6);
  EXPECT_EQ(facesNamed(larger, {"b:top"}).size(), 1u);
  EXPECT_NEAR(grown(block, -0.5, progress).volume(), 19 * 9 * 4, 1e-6);
  EXPECT_NEAR(grown(makeCylinder("c", {}, 4, 10), 0.2, progress).volume(), pi * 4.2 * 4.2 * 10.4, 1e-4);
}

TEST_F(SheetTest, ShrinkingToNothingIsRefused) {
  EXPECT_THROW(grown(block, -3, progress), Error);
}

TEST_F(SheetTest, GapSaysWhereAndHowMuchIsMissing) {
  const Shape stock = makeBlock("s", at(-10, -10, 0), 20, 20, 10);
  // A sheet that covers x from −20 to 4 only.
  const Shape source = makeBlock("c", at(-20, -20, 4), 24, 40, 1);
  const Shape sheet = lifted(facesNamed(source, {"c:top"}));
  const auto gap = gapOf(stock, sheet, progress);
  ASSERT_TRUE(gap);
  EXPECT_NEAR(gap->missing, 6, 1e-9);
  ASSERT_EQ(gap->border.size(), 1u);
  for (const Point& point : gap->border.front()) EXPECT_NEAR(point.x, 4, 1e-9);
  EXPECT_FALSE(gapOf(stock, extended(sheet, 6.1, "x"), progress));
  EXPECT_EQ(partition({stock}, {extended(sheet, 6.1, "x")}, progress).parts.size(), 2u);
}

TEST_F(SheetTest, MeetingTellsTouchingFromInsideAndApart) {
  const Shape stock = makeBlock("s", {}, 10, 10, 10);
  EXPECT_EQ(meetingOf(stock, makeBlock("t", at(10, 0, 0), 5, 5, 5)), Meeting::Touching);
  EXPECT_EQ(meetingOf(stock, makeBlock("t", at(2, 2, 2), 5, 5, 5)), Meeting::CutterInside);
  EXPECT_EQ(meetingOf(stock, makeBlock("t", at(-2, -2, -2), 50, 50, 50)), Meeting::StockInside);
  EXPECT_EQ(meetingOf(stock, makeBlock("t", at(20, 0, 0), 5, 5, 5)), Meeting::Apart);
}

TEST(PathTest, OpenCurvesAreChainedAndClosedOnesLeftOut) {
  const std::vector<PlanarCurve> curves{{"l2", LineCurve{{5, 0}, {9, 3}}},
                                        {"l1", LineCurve{{5, 0}, {0, 0}}},
                                        {"hole", CircleCurve{{50, 50}, 2}},
                                        {"far", LineCurve{{20, 0}, {30, 0}}}};
  Progress progress;
  const std::vector<Path> paths = findPaths({}, curves, findRegions({}, curves, progress));
  ASSERT_EQ(paths.size(), 2u);
  EXPECT_NEAR(paths[0].length(), 10, 1e-12);
  EXPECT_NEAR(paths[1].length(), 10, 1e-12);
  EXPECT_EQ(paths[1].name(), "far");
}

TEST(PathTest, EndsGoStraightOnAlongTheirTangents) {
  const std::vector<PlanarCurve> curves{{"a", ArcCurve{{0, 0}, 10, 0, pi / 2}}};
  const std::vector<Path> paths = findPaths({}, curves, {});
  ASSERT_EQ(paths.size(), 1u);
  const Shape wall = sweptPath(paths.front(), "p", -2, 3, 7);
  EXPECT_NEAR(wall.area(), (10 * pi / 2 + 14) * 5, 1e-9);
  EXPECT_NEAR(wall.box().low.x, -7, 1e-9);
  EXPECT_NEAR(wall.box().low.y, -7, 1e-9);
}

}  // namespace
}  // namespace kervo
