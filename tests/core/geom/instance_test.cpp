#include "geom/instance.h"

#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"
#include "geom/display/tessellate.h"
#include "geom/divide/boolean.h"
#include "geom/kernel/shape_body.h"
#include "geom/primitives.h"
#include "geom/topology.h"
#include "support/meshes.h"

namespace kervo {
namespace {

/// A plate 40 × 20 × 5 with a hole of radius 3.
Shape drilledPlate() {
  Progress progress;
  return divide(makeBlock("plate", {}, 40, 20, 5),
                {makeCylinder("hole", Plane::through({10, 10, -1}, {0, 0, 1}), 3, 7)}, progress)
      .outside;
}
const double plateVolume = 40 * 20 * 5 - std::numbers::pi * 9 * 5;

Plane leaning(Point at) {
  const Vector x = normalized(Vector{1, 2, -1}), n = normalized(cross(x, {0, 0, 1}));
  return {at, x, cross(n, x), n};
}

TEST(Instance, HasWhatThePartHasAtAnotherPlace) {
  const Shape part = drilledPlate();
  const Plane place = leaning({300, -20, 7});
  const Shape instance = placed(part, place);
  EXPECT_NEAR(instance.volume(), plateVolume, 1e-9 * plateVolume);
  EXPECT_NEAR(instance.area(), part.area(), 1e-9 * part.area());
  EXPECT_EQ(instance.faceCount(), part.faceCount());
  EXPECT_TRUE(instance.valid() && instance.watertight());
  EXPECT_EQ(identityOfPart(instance), identityOfPart(part)) << "its surfaces are the part's";
  const Motion motion = Motion::onto(Plane{}, place);
  const std::vector<Face> before = facesOf(part), after = facesOf(instance);
  for (std::size_t i = 0; i < before.size(); ++i) {
    EXPECT_EQ(after[i].origins(), before[i].origins());
    EXPECT_NEAR(distance(after[i].samplePoint(), motion(before[i].samplePoint())), 0, 1e-9);
    EXPECT_NEAR(distance(after[i].normal(), motion.turned(before[i].normal())), 0, 1e-9);
  }
  // The same volume measured from nothing.
  EXPECT_NEAR(moved(part, motion).volume(), instance.volume(), 1e-9 * plateVolume);
  EXPECT_NEAR(instance.box().low.x, moved(part, motion).box().low.x, 1e-6);
}

TEST(Instance, KnowsWhereItStandsAndWhatItIs) {
  const Shape part = drilledPlate();
  EXPECT_FALSE(placeOf(part).has_value());
  const Plane here = leaning({300, -20, 7}), there = leaning({0, 0, 50});
  const Shape one = placed(part, here), other = placed(one, there);
  ASSERT_TRUE(placeOf(one).has_value());
  EXPECT_NEAR(distance(placeOf(one)->origin, here.origin), 0, 1e-12);
  EXPECT_NEAR(distance(placeOf(one)->x, here.x) + distance(placeOf(one)->normal, here.normal), 0, 1e-12);
  EXPECT_NEAR(distance(partOf(one).box().high, part.box().high), 0, 1e-9);
  const Motion way = fromOneToOther(one, placed(part, there));
  EXPECT_NEAR(distance(way(here.origin), there.origin), 0, 1e-9);
  EXPECT_NE(identityOfPart(other), identityOfPart(part)) << "an instance of an instance is one of a part of its own";
  EXPECT_NEAR(other.volume(), plateVolume, 1e-9 * plateVolume);
  EXPECT_THROW(placed(Shape(test::boxMesh({0, 0, 0}, {1, 1, 1})), here), Error);
}

TEST(Instance, IsCutAsAShapeOfItsOwn) {
  const Shape part = drilledPlate();
  const Plane place = leaning({300, -20, 7});
  const Shape instance = placed(part, place);
  const Shape own = plain(instance);
  EXPECT_EQ(&own.body(), &plain(instance).body()) << "made once";
  EXPECT_FALSE(placeOf(own).has_value());
  EXPECT_NE(identityOfPart(own), identityOfPart(part));
  EXPECT_EQ(facesOf(own).front().origins(), facesOf(part).front().origins());
  Progress progress;
  const Division halves = divide(own, {makeBlock("half", place, 20, 20, 5)}, progress);
  EXPECT_NEAR(halves.inside.volume(), 20 * 20 * 5 - std::numbers::pi * 9 * 5, 1e-6);
  EXPECT_NEAR(part.volume(), plateVolume, 1e-9 * plateVolume);
}

TEST(Instance, SharesItsTriangles) {
  const Shape part = drilledPlate();
  const Plane place = leaning({300, -20, 7});
  Progress progress;
  const MeshQuality quality = MeshQuality::forSize(part.roughBox().diagonal());
  const BodyMesh before = tessellate(part, quality, progress),
                 after = tessellate(placed(part, place), quality, progress);
  ASSERT_EQ(before.points.size(), after.points.size());
  const Motion motion = Motion::onto(Plane{}, place);
  for (std::size_t i = 0; i + 2 < before.points.size(); i += 3) {
    const Point wanted = motion({before.points[i], before.points[i + 1], before.points[i + 2]});
    EXPECT_NEAR(distance(wanted, {after.points[i], after.points[i + 1], after.points[i + 2]}), 0, 1e-4);
  }
  EXPECT_EQ(before.triangles, after.triangles);
}

}  // namespace
}  // namespace kervo
