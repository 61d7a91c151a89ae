#include "geom/sweep/sweep.h"
#include "drawing/regions.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

using testing::HasSubstr;

std::vector<Region> disc(double radius, const Plane& plane = {}) {
  Progress progress;
  return findRegions(plane, {{"disc", CircleCurve{{0, 0}, radius}}}, progress);
}

double swept(const SweepLimit& start, const SweepLimit& end, bool alongNormal = true, const Box& around = {}) {
  Progress progress;
  const std::vector<SweptRegion> result = sweep("cut", disc(2), alongNormal, start, end, around, progress);
  EXPECT_EQ(result.size(), 1u);
  const Shape solid = solidOf(result.front());
  EXPECT_TRUE(solid.watertight());
  EXPECT_TRUE(solid.valid());
  return solid.volume() / (4 * pi);
}

TEST(Sweep, DistancesAndOffsetsEitherWay) {
  EXPECT_NEAR(swept(SweepLimit::at(0), SweepLimit::at(7)), 7, 1e-9);
  EXPECT_NEAR(swept(SweepLimit::at(3), SweepLimit::at(7)), 7, 1e-9);
  EXPECT_NEAR(swept(SweepLimit::at(-3.5), SweepLimit::at(7), false), 7, 1e-9);
}

TEST(Sweep, ThroughEverythingReachesBeyondTheBox) {
  Box around;
  around.add(Point{-10, -10, -40});
  around.add(Point{10, 10, 25});
  EXPECT_GT(swept(SweepLimit::at(0), SweepLimit::beyond(), true, around), 25);
  EXPECT_GT(swept(SweepLimit::at(0), SweepLimit::beyond(), false, around), 40);
  EXPECT_GT(swept(SweepLimit::beyond(), SweepLimit::beyond(), true, around), 65);
}

TEST(Sweep, ToAParallelATiltedAndACurvedFace) {
  const Shape target = makeBlock("t", Plane::through({-50, -50, 12}, {0, 0, 1}), 100, 100, 5);
  EXPECT_NEAR(swept(SweepLimit::at(0), SweepLimit::atFace(faceNamed(target, "t:bottom"))), 12, 1e-9);
  // On a tilted plane the mean height of a disc is the height at its centre.
  const Shape tilted = makeBlock("t", Plane::through({0, 0, 10}, {0.3, 0.2, 1}), 1, 1, 1);
  EXPECT_NEAR(swept(SweepLimit::at(0), SweepLimit::atFace(faceNamed(tilted, "t:bottom"))), 10, 1e-6);
  // Below a horizontal cylinder of radius 12 whose axis is 20 above: 20 − mean of sqrt(144 − y²) over the disc.
  const Shape pipe = makeCylinder("p", Plane::through({-30, 0, 20}, {1, 0, 0}), 12, 60);
  double mean = 0;
  const int n = 20000;
  for (int i = 0; i < n; ++i) {
    const double y = -2 + 4 * (i + 0.5) / n;
    mean += std::sqrt(144 - y * y) * 2 * std::sqrt(4 - y * y) * 4 / n / (4 * pi);
  }
  EXPECT_NEAR(swept(SweepLimit::at(0), SweepLimit::atFace(faceNamed(pipe, "p:side"))), 20 - mean, 1e-4);
}

TEST(Sweep, FromAFaceToADepthAndToAnotherFace) {
  const Shape tilted = makeBlock("t", Plane::through({0, 0, 10}, {0.3, 0.2, 1}), 1, 1, 1);
  const Face bottom = faceNamed(tilted, "t:bottom");
  EXPECT_NEAR(swept(SweepLimit::atFace(bottom), SweepLimit::at(5)), 5, 1e-6);
  const Shape other = makeBlock("o", Plane::through({0, 0, 30}, {0, 0.5, 1}), 1, 1, 1);
  EXPECT_NEAR(swept(SweepLimit::atFace(bottom), SweepLimit::atFace(faceNamed(other, "o:bottom"))), 20, 1e-6);
  const Shape flat = makeBlock("f", Plane::through({0, 0, 4}, {0, 0, 1}), 1, 1, 3);
  EXPECT_NEAR(swept(SweepLimit::atFace(faceNamed(flat, "f:bottom")), SweepLimit::atFace(faceNamed(flat, "f:top"))), 3,
              1e-9);
}

TEST(Sweep, NamesSidesStartAndEnd) {
  Progress progress;
  for (bool along : {true, false}) {
    const Shape solid =
        solidOf(sweep("cut", disc(2), along, SweepLimit::at(0), SweepLimit::at(7), {}, progress).front());
    EXPECT_NEAR(faceNamed(solid, "cut:start").samplePoint().z, 0, 1e-9);
    EXPECT_NEAR(faceNamed(solid, "cut:end").samplePoint().z, along ? 7 : -7, 1e-9);
    EXPECT_EQ(faceNamed(solid, "cut:side:disc").surfaceName(), "cylinder");
  }
}

TEST(Sweep, SaysWhatIsWrongWithTheReach) {
  const auto errorOf = [](const SweepLimit& start, const SweepLimit& end) -> std::string {
    Progress progress;
    try {
      sweep("cut", disc(2), true, start, end, {}, progress);
    } catch (const Error& error) {
      return error.what();
    }
    return "no error";
  };
  EXPECT_THAT(errorOf(SweepLimit::at(0), SweepLimit::at(0)), HasSubstr("no depth"));
  const Shape behind = makeBlock("b", Plane::through({0, 0, -10}, {0, 0, 1}), 5, 5, 5);
  EXPECT_THAT(errorOf(SweepLimit::at(0), SweepLimit::atFace(faceNamed(behind, "b:top"))),
              HasSubstr("behind the start"));
  const Shape upright = makeBlock("u", Plane::through({20, 0, 5}, {0, 0, 1}), 5, 5, 5);
  EXPECT_THAT(errorOf(SweepLimit::at(0), SweepLimit::atFace(faceNamed(upright, "u:left"))),
              HasSubstr("does not reach across"));
  const Shape crossing = makeBlock("c", Plane::through({0, 0, 0}, {0.5, 0, 1}), 5, 5, 5);
  EXPECT_THAT(errorOf(SweepLimit::at(0), SweepLimit::atFace(faceNamed(crossing, "c:bottom"))),
              HasSubstr("crosses the profile"));
}

}  // namespace
}  // namespace kervo
