#include "geom/plane_split.h"

#include <gtest/gtest.h>

#include <numbers>

#include "geom/primitives.h"
#include "geom/topology.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

TEST(PlaneSplit, SpherePartsAreSphericalCaps) {
  Progress progress;
  const auto cap = [](double r, double h) { return pi * h * h * (3 * r - h) / 3; };
  for (double height : {-3.0, 0.0, 1.0, 4.9}) {
    const PlaneSplit split = splitByPlane("s", makeSphere("ball", {}, 5), Plane{}.moved(height), Kerf(), progress);
    ASSERT_EQ(split.front.size(), 1u);
    ASSERT_EQ(split.back.size(), 1u);
    EXPECT_NEAR(split.front[0].volume(), cap(5, 5 - height), 1e-7);
    EXPECT_NEAR(split.back[0].volume(), cap(5, 5 + height), 1e-7);
  }
}

TEST(PlaneSplit, KerfTakesItsWidthOnTheSideAskedFor) {
  Progress progress;
  const Shape bar = makeBlock("bar", {}, 10, 10, 100);
  const Plane at30 = Plane{}.moved(30);
  for (const auto& [kerf, back] :
       {std::pair(Kerf::centred(4), 28.0), std::pair(Kerf::inFront(4), 30.0), std::pair(Kerf::behind(4), 26.0)}) {
    const PlaneSplit split = splitByPlane("s", bar, at30, kerf, progress);
    EXPECT_NEAR(split.waste.volume(), 400, 1e-9);
    EXPECT_NEAR(split.back[0].volume(), back * 100, 1e-9);
    EXPECT_NEAR(split.front[0].volume(), (96 - back) * 100, 1e-9);
  }
}

TEST(PlaneSplit, NamesTheNewFaces) {
  Progress progress;
  for (double kerf : {0.0, 2.0}) {
    const PlaneSplit split =
        splitByPlane("s", makeBlock("bar", {}, 10, 10, 100), Plane{}.moved(30), Kerf::centred(kerf), progress);
    for (const Shape& piece : {split.front[0], split.back[0]}) {
      int cuts = 0;
      for (const Face& face : facesOf(piece)) cuts += face.origins().front() == "s:cut";
      EXPECT_EQ(cuts, 1) << kerf;
    }
  }
}

TEST(PlaneSplit, AMissIsToldForBothSides) {
  Progress progress;
  const Shape bar = makeBlock("bar", {}, 10, 10, 100);
  EXPECT_TRUE(splitByPlane("s", bar, Plane{}.moved(200), Kerf::centred(2), progress).missed());
  EXPECT_TRUE(splitByPlane("s", bar, Plane{}.moved(100), Kerf(), progress).missed());
  EXPECT_TRUE(splitByPlane("s", bar, Plane{}.moved(0), Kerf(), progress).missed());
  EXPECT_FALSE(splitByPlane("s", bar, Plane{}.moved(100), Kerf::centred(2), progress).missed())
      << "half of the kerf reaches in";
}

TEST(PlaneSplit, AKerfWiderThanTheBodyLeavesNothing) {
  Progress progress;
  const PlaneSplit split =
      splitByPlane("s", makeBlock("bar", {}, 10, 10, 10), Plane{}.moved(5), Kerf::centred(50), progress);
  EXPECT_TRUE(split.front.empty());
  EXPECT_TRUE(split.back.empty());
  EXPECT_NEAR(split.waste.volume(), 1000, 1e-9);
}

}  // namespace
}  // namespace kervo
