#include "drawing/snap.h"

#include <gmock/gmock.h>

#include "core/drawing/drawing_builder.h"
#include "geom/planes.h"

namespace kervo {
namespace {

using testing::ElementsAre;

class SnapTest : public testing::Test {
 protected:
  Snap at(PlanePoint place, SnapWanted wanted = {}) {
    if (wanted.reach == 0) wanted.reach = 1;
    const DrawingValues values{std::vector<std::vector<double>>(made.drawing.curves.size()),
                               std::vector<double>(made.drawing.constraints.size(), 0)};
    return Snapper(made.drawing, values, solve(made.drawing, values)).at(place, wanted);
  }
  DrawingBuilder made;
  std::string line = made.line(made.point(10, 0), made.point(30, 0));
  std::string round = made.circle(made.point(50, 20), 8);
  std::string upright = made.line(made.point(25, -10), made.point(25, 10));
};

TEST_F(SnapTest, PointsComeFirst) {
  const Snap end = at({10.4, 0.3});
  EXPECT_EQ(end.to, SnapTo::Point);
  EXPECT_EQ(end.at, (PlanePoint{10, 0}));
  EXPECT_EQ(at({0.3, -0.5}).on, std::vector<std::string>{originId});
  EXPECT_EQ(at({50.2, 20.3}).to, SnapTo::Point);
}

TEST_F(SnapTest, MiddlesCrossingsQuadrantsAndPlacesOnCurves) {
  EXPECT_EQ(at({20.2, 0.5}).to, SnapTo::Middle);
  EXPECT_EQ(at({20.2, 0.5}).at, (PlanePoint{20, 0}));
  // Where the other line's middle is as well, what comes first of the same rank is the nearest.
  const Snap crossing = at({25.1, 0.1});
  EXPECT_EQ(crossing.at, (PlanePoint{25, 0}));
  const Snap top = at({50.5, 27.9});
  EXPECT_EQ(top.to, SnapTo::Quadrant);
  EXPECT_FALSE(top.level);
  EXPECT_EQ(top.at, (PlanePoint{50, 28}));
  const Snap on = at({15, 0.6});
  EXPECT_EQ(on.to, SnapTo::Curve);
  EXPECT_THAT(on.on, ElementsAre(line));
  EXPECT_EQ(on.at, (PlanePoint{15, 0}));
  const Snap beyond = at({34, 0.2});
  EXPECT_TRUE(beyond.extends);
  EXPECT_EQ(beyond.at, (PlanePoint{34, 0}));
}

TEST_F(SnapTest, WhatDependsOnWhereOneCameFrom) {
  // Straight down on the line.
  EXPECT_EQ(at({14.1, 0.2}, {.from = PlanePoint{14, 12}}).to, SnapTo::Square);
  // A tangent from outside touches where radius and line are at a right angle.
  const PlanePoint from{50, 60};
  const double share = 8.0 / 40;
  const PlanePoint touch{50 + 8 * std::sqrt(1 - share * share), 20 + 8 * share};
  const Snap tangent = at(touch + PlanePoint{0.2, 0.1}, {.from = from});
  EXPECT_EQ(tangent.to, SnapTo::Tangent);
  EXPECT_NEAR(distance(tangent.at, touch), 0, 1e-9);
  EXPECT_EQ(at({80, 60.4}, {.from = from}).to, SnapTo::Level);
  EXPECT_EQ(at({80, 60.4}, {.from = from}).at, (PlanePoint{80, 60}));
  EXPECT_EQ(at({49.8, 90}, {.from = from}).to, SnapTo::Upright);
}

TEST_F(SnapTest, TheGridIsLast) {
  const Snap grid = at({82.3, 71.8}, {.grid = 5.0});
  EXPECT_EQ(grid.to, SnapTo::Grid);
  EXPECT_EQ(grid.at, (PlanePoint{80, 70}));
  EXPECT_EQ(at({82.3, 71.8}).to, SnapTo::Free);
  // What is dragged is no goal.
  EXPECT_NE(at({10.1, 0}, {.without = {"p1", "p2", line}}).to, SnapTo::Point);
}

}  // namespace
}  // namespace kervo
