// Distances, angles and overlaps between parts of bodies whose places are known.
#include "geom/measure/between.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "geom/motion.h"
#include "geom/primitives.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

Between between(const MeasuredPart& a, const MeasuredPart& b) {
  Progress progress;
  return measuredBetween(a, b, progress);
}

/// The edge between the faces of these names.
Edge edgeOf(const Shape& shape, const std::string& a, const std::string& b) {
  for (const Edge& edge : edgesOf(shape)) {
    const std::string one = edge.firstOrigins().front(), other = edge.secondOrigins().front();
    if ((one == a && other == b) || (one == b && other == a)) return edge;
  }
  throw Error("no such edge");
}

TEST(MeasuredBetween, PointsBodiesAndFacesAtKnownDistances) {
  EXPECT_NEAR(between(Point{1, 2, 3}, Point{4, 6, 3}).distance, 5, 1e-12);
  const Shape low = makeBlock("low", at(0, 0, 0), 10, 10, 10), high = makeBlock("high", at(13, 0, 14), 10, 10, 10);
  const Between gap = between(low, high);
  EXPECT_NEAR(gap.distance, 5, 1e-9) << "edge to edge: 3, 4, 5";
  EXPECT_NEAR(gap.from.x, 10, 1e-9);
  EXPECT_NEAR(gap.to.z, 14, 1e-9);
  EXPECT_FALSE(gap.overlap);
  const Between faces = between(faceNamed(low, "low:top"), faceNamed(high, "high:bottom"));
  ASSERT_TRUE(faces.planes);
  EXPECT_NEAR(*faces.planes, 4, 1e-9) << "between the planes";
  EXPECT_NEAR(faces.distance, 5, 1e-9) << "between the faces themselves";
  EXPECT_FALSE(faces.angle);
}

TEST(MeasuredBetween, AnglesOfFacesEdgesAndAxes) {
  const Shape block = makeBlock("b", at(0, 0, 0), 10, 20, 30);
  EXPECT_NEAR(*between(faceNamed(block, "b:top"), faceNamed(block, "b:front")).angle, pi / 2, 1e-12);
  const Shape turned = moved(makeBlock("t", at(0, 0, 0), 10, 20, 30), Motion::turn({}, {1, 0, 0}, pi / 6));
  EXPECT_NEAR(*between(faceNamed(block, "b:top"), faceNamed(turned, "t:bottom")).angle, pi / 6, 1e-12)
      << "of the wedge between them";
  EXPECT_NEAR(*between(edgeOf(block, "b:top", "b:front"), edgeOf(block, "b:top", "b:right")).angle, pi / 2, 1e-12);
  EXPECT_NEAR(*between(edgeOf(turned, "t:right", "t:front"), faceNamed(block, "b:top")).angle, pi / 3, 1e-9);
}

TEST(MeasuredBetween, AxesOfRoundParts) {
  const Shape one = makeCylinder("one", at(0, 0, 0), 4, 20), other = makeCylinder("other", at(30, 40, 5), 6, 20);
  const Between sides = between(faceNamed(one, "one:side"), faceNamed(other, "other:side"));
  EXPECT_NEAR(*sides.axes, 50, 1e-9);
  EXPECT_NEAR(sides.distance, 40, 1e-9);
  EXPECT_NEAR(*sides.angle, 0, 1e-9);
  EXPECT_NEAR(*radiusOf(faceNamed(one, "one:side")), 4, 1e-12);
  EXPECT_NEAR(*radiusOf(edgeOf(one, "one:side", "one:top")), 4, 1e-12);
  EXPECT_FALSE(radiusOf(faceNamed(one, "one:top")));
}

TEST(MeasuredBetween, SolidsThatInterfereTellTheirOverlap) {
  const Shape block = makeBlock("b", at(0, 0, 0), 10, 10, 10), pin = makeCylinder("pin", at(5, 5, -5), 2, 30);
  const Between through = between(block, pin);
  EXPECT_EQ(through.distance, 0);
  EXPECT_NEAR(through.overlap.value_or(-1), pi * 4 * 10, 1e-6);
  const Between inside = between(block, makeBlock("in", at(4, 4, 4), 1, 1, 1));
  EXPECT_EQ(inside.distance, 0);
  EXPECT_NEAR(inside.overlap.value_or(-1), 1, 1e-9);
  const Between beside = between(block, makeBlock("n", at(10, 0, 0), 10, 10, 10));
  EXPECT_NEAR(beside.overlap.value_or(-1), 0, 1e-9) << "they touch";
}

}  // namespace
}  // namespace kervo
