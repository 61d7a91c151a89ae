#include "drawing/curve_kind.h"
#include "drawing/regions.h"

#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

double areaOf(const std::vector<PlanarCurve>& curves) {
  Progress progress;
  double sum = 0;
  for (const Region& region : findRegions({}, curves, progress)) sum += region.area();
  return sum;
}

TEST(CurveKinds, AreFoundByName) {
  for (const CurveKind* kind : curveKinds()) EXPECT_EQ(findCurveKind(kind->name), kind);
  EXPECT_EQ(findCurveKind("squiggle"), nullptr);
}

TEST(CurveKinds, ARectangleIsFourNamedLines) {
  const auto curves = findCurveKind("rectangle")->curves("r", {1, 2, 10, 5});
  ASSERT_EQ(curves.size(), 4u);
  EXPECT_EQ(curves[0].id, "r.bottom");
  EXPECT_EQ(curves[1].id, "r.right");
  EXPECT_EQ(curves[2].id, "r.top");
  EXPECT_EQ(curves[3].id, "r.left");
  EXPECT_NEAR(areaOf(curves), 50, 1e-9);
  EXPECT_EQ(curves[2].geometry->at(0), (PlanePoint{11, 7}));
}

TEST(CurveKinds, ARectangleNeedsWidthAndHeight) {
  EXPECT_THROW(findCurveKind("rectangle")->curves("r", {0, 0, 0, 5}), Error);
  EXPECT_THROW(findCurveKind("rectangle")->curves("r", {0, 0, 3, -5}), Error);
  EXPECT_THROW(findCurveKind("rectangle")->curves("r", {0, 0, 3, std::nan("")}), Error);
}

TEST(CurveKinds, ArcsMayBeGivenAcrossTheFullTurn) {
  // A half disc: from 270° to 90° is the right half, however many turns are written.
  for (const auto& [from, to] : {std::pair(-90.0, 90.0), std::pair(270.0, 90.0), std::pair(270.0, 450.0)}) {
    auto curves = findCurveKind("arc")->curves("a", {0, 0, 4, from * pi / 180, to * pi / 180});
    curves.push_back(findCurveKind("line")->curves("l", {0, 4, 0, -4}).front());
    EXPECT_NEAR(areaOf(curves), 8 * pi, 1e-9) << from;
  }
}

TEST(CurveKinds, ACircleIsAllOfIt) {
  EXPECT_NEAR(areaOf(findCurveKind("circle")->curves("c", {3, 4, 2})), 4 * pi, 1e-9);
}

}  // namespace
}  // namespace kervo
