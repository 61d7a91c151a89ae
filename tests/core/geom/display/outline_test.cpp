#include "geom/display/outline.h"
#include "drawing/regions.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace kervo {
namespace {

double lengthOf(const Polyline& line) {
  double sum = 0;
  for (std::size_t i = 1; i < line.size(); ++i) sum += distance(line[i - 1], line[i]);
  return sum;
}

const Plane tilted = Plane::through({1, 2, 3}, {1, 1, 1});

TEST(Outline, OfCurvesLiesOnThePlane) {
  const std::vector<PlanarCurve> curves{{"l", LineCurve{{0, 0}, {3, 4}}},
                                        {"a", ArcCurve{{0, 0}, 2, 0, std::numbers::pi / 2}},
                                        {"c", CircleCurve{{1, 1}, 5}}};
  const double lengths[] = {5, std::numbers::pi, 10 * std::numbers::pi};
  for (std::size_t i = 0; i < 3; ++i) {
    const Polyline line = curves[i].geometry->on(tilted).outline();
    EXPECT_NEAR(lengthOf(line), lengths[i], 0.002 * lengths[i]);
    for (const Point& point : line) EXPECT_NEAR(tilted.signedDistance(point), 0, 1e-9);
  }
}

TEST(Outline, OfARegionHasALoopForEveryIsland) {
  Progress progress;
  const auto regions =
      findRegions(tilted, {{"outer", CircleCurve{{0, 0}, 10}}, {"hole", CircleCurve{{2, 0}, 3}}}, progress);
  ASSERT_EQ(regions.size(), 2u);
  for (const Region& region : regions) {
    const auto loops = outlinesOf(region);
    EXPECT_EQ(loops.size(), static_cast<std::size_t>(region.islandCount()) + 1);
    for (const Polyline& loop : loops) EXPECT_LT(distance(loop.front(), loop.back()), 1e-6);
    EXPECT_NEAR(tilted.signedDistance(middleOf(region)), 0, 1e-9);
  }
}

TEST(Outline, RectangleCoversTheBoxSeenAlongThePlane) {
  Box box;
  box.add(Point{0, 0, 0});
  box.add(Point{30, 20, 10});
  const Polyline rectangle = rectangleAround(box, Plane{}, 5);
  ASSERT_EQ(rectangle.size(), 5u);
  EXPECT_NEAR(lengthOf(rectangle), 2 * (40 + 30), 1e-9);
}

}  // namespace
}  // namespace kervo
