// Faces changed with their neighbours following: volumes by formulas, rounds that keep their radius, and what is
// refused.
#include "geom/faces/changed_faces.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <numbers>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/surface/blended_edges.h"
#include "geom/topology.h"

namespace kervo {
namespace {

using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

Plane at(double x, double y, double z, Vector normal = {0, 0, 1}) {
  return Plane::through({x, y, z}, normal);
}
Shape cut(const Shape& body, const std::vector<Shape>& tools) {
  Progress progress;
  return divide(body, tools, progress).outside;
}
Shape join(const std::vector<Shape>& bodies) {
  Progress progress;
  return unite(bodies, progress).shape;
}

/// Those of the body's faces for which that is true.
std::set<int> facesWhere(const Shape& body, const std::function<bool(const Face&)>& wanted) {
  std::set<int> numbers;
  const std::vector<Face> faces = facesOf(body);
  for (std::size_t i = 0; i < faces.size(); ++i)
    if (wanted(faces[i])) numbers.insert(static_cast<int>(i));
  return numbers;
}
std::set<int> facing(const Shape& body, Vector way) {
  return facesWhere(body, [&](const Face& face) {
    const auto plane = face.plane();
    return plane && length(plane->normal - way) < 1e-9;
  });
}
std::set<int> named(const Shape& body, const std::string& name) {
  return facesWhere(body, [&](const Face& face) { return face.origins().front() == name; });
}
Shape with(const Shape& body, const std::set<int>& faces, const FaceChange& change) {
  Progress progress;
  std::map<int, FaceChange> changes;
  for (const int face : faces) changes[face] = change;
  return withFacesChanged(body, changes, progress);
}
FaceChange by(double x, double y, double z) {
  return {Motion::by({x, y, z}), 0, {}};
}

void expectSound(const Shape& shape, double volume) {
  EXPECT_NEAR(shape.volume(), volume, 1e-9 * volume);
  EXPECT_TRUE(shape.valid());
  EXPECT_TRUE(shape.watertight());
}

/// 20 × 20 at the bottom, 12 × 12 at a height of 10.
Shape frustum() {
  Shape shape = makeBlock("f", {}, 20, 20, 10);
  Progress progress;
  std::map<int, FaceChange> changes;
  const double angle = std::atan2(4, 10);
  changes[*facing(shape, {-1, 0, 0}).begin()] = {Motion::turn({0, 0, 0}, {0, 1, 0}, angle), 0, {}};
  changes[*facing(shape, {1, 0, 0}).begin()] = {Motion::turn({20, 0, 0}, {0, 1, 0}, -angle), 0, {}};
  changes[*facing(shape, {0, -1, 0}).begin()] = {Motion::turn({0, 0, 0}, {1, 0, 0}, -angle), 0, {}};
  changes[*facing(shape, {0, 1, 0}).begin()] = {Motion::turn({0, 20, 0}, {1, 0, 0}, angle), 0, {}};
  return withFacesChanged(shape, changes, progress);
}
double frustumVolume(double height) {
  const double top = 20 - 0.8 * height;
  return height / 3 * (400 + top * top + 20 * top);
}

TEST(WithFacesChanged, MovesOneSideOfABlock) {
  const Shape block = makeBlock("b", {}, 20, 30, 10);
  const Shape higher = with(block, facing(block, {0, 0, 1}), by(0, 0, 5));
  expectSound(higher, 20 * 30 * 15);
  expectSound(with(block, facing(block, {0, 0, 1}), by(7, 7, -3)), 20 * 30 * 7);
  EXPECT_EQ(facesOf(higher)[0].origins(), facesOf(block)[0].origins());
  EXPECT_EQ(higher.faceCount(), 6);
  EXPECT_EQ(higher.edgeCount(), 12);
}

TEST(WithFacesChanged, TurnsSidesAndFollowsTapers) {
  const Shape shape = frustum();
  expectSound(shape, frustumVolume(10));
  expectSound(with(shape, facing(shape, {0, 0, 1}), by(0, 0, 2)), frustumVolume(12));
  expectSound(with(shape, facing(shape, {0, 0, 1}), by(0, 0, -2)), frustumVolume(8));
  const Shape bored = cut(shape, {makeCylinder("h", at(10, 10, -1), 3, 20)});
  expectSound(with(bored, facing(bored, {0, 0, 1}), by(0, 0, 2)), frustumVolume(12) - pi * 9 * 12);
}

TEST(WithFacesChanged, MakesWallsThickerAndHolesSmaller) {
  const Shape block = cut(makeBlock("b", {}, 40, 40, 10), {makeCylinder("h", at(20, 20, -1), 5, 12)});
  Progress progress;
  std::map<int, FaceChange> all;
  for (int i = 0; i < block.faceCount(); ++i) all[i] = {{}, 1, {}};
  expectSound(withFacesChanged(block, all, progress), (42 * 42 - pi * 16) * 12);
  expectSound(with(block, named(block, "h:side"), {{}, -2, {}}), (1600 - pi * 49) * 10);
  EXPECT_ANY_THROW(with(block, named(block, "h:side"), {{}, 5, {}}));
}

TEST(WithFacesChanged, MovesABossAndAHoleAcross) {
  const Shape boss = join({makeBlock("b", {}, 40, 40, 10), makeCylinder("p", at(15, 15, 5), 4, 12)});
  std::set<int> faces = named(boss, "p:side");
  faces.merge(named(boss, "p:top"));
  ASSERT_EQ(faces.size(), 2u);
  const Shape moved = with(boss, faces, by(10, 5, 3));
  expectSound(moved, 16000 + pi * 16 * 10);
  const Shape hole = cut(makeBlock("b", {}, 40, 40, 10), {makeCylinder("h", at(15, 15, -1), 4, 12)});
  const Shape shifted = with(hole, named(hole, "h:side"), by(12, 0, 0));
  expectSound(shifted, 16000 - pi * 16 * 10);
  EXPECT_NEAR(edgesOf(shifted).size(), edgesOf(hole).size(), 0);
}

TEST(WithFacesChanged, RoundsKeepTheirRadius) {
  const auto rounded = [](double width) {
    Progress progress;
    const Shape block = makeBlock("b", {}, width, 30, 10);
    std::vector<Edge> upper;
    for (const Edge& edge : edgesOf(block))
      if (std::abs(edge.middle().z - 10) < 1e-9) upper.push_back(edge);
    return roundEdges("r", block, upper, {2}, progress).solid;
  };
  const Shape body = rounded(20);
  const Shape higher = with(body, facing(body, {0, 0, 1}), by(0, 0, 4));
  expectSound(higher, body.volume() + 20 * 30 * 4);
  EXPECT_EQ(higher.faceCount(), body.faceCount());
  expectSound(with(body, facing(body, {1, 0, 0}), by(3, 0, 0)), rounded(23).volume());
}

TEST(WithFacesChanged, TakesOtherSurfacesOver) {
  const Shape block = makeBlock("b", {}, 20, 30, 10);
  // A roof: the top onto a slope that is 8 high in front and 12 behind.
  const Shape slope = makeBlock("s", at(0, 0, 8, {0, -4, 30}), 50, 50, 5);
  FaceChange change;
  for (const Face& face : facesOf(slope))
    if (face.origins().front() == "s:bottom") change.onto = face;
  expectSound(with(block, facing(block, {0, 0, 1}), change), 20 * 30 * 10);
  // Onto a ball's surface: a dome over the block.
  const Shape ball = makeSphere("k", at(10, 15, 0), 25);
  change.onto = facesOf(ball).front();
  const Shape dome = with(block, facing(block, {0, 0, 1}), change);
  const Shape expected = [&] {
    Progress progress;
    return divide(makeBlock("b", {}, 20, 30, 40), {ball}, progress).inside;
  }();
  EXPECT_NEAR(dome.volume(), expected.volume(), 1e-6 * expected.volume());
  EXPECT_TRUE(dome.valid());
}

TEST(WithFacesChanged, RefusesWhatWouldPassOrCrossSomething) {
  const Shape block = makeBlock("b", {}, 20, 30, 10);
  EXPECT_ANY_THROW(with(block, facing(block, {0, 0, 1}), by(0, 0, -10)));
  EXPECT_ANY_THROW(with(block, facing(block, {0, 0, 1}), by(0, 0, -12)));
  EXPECT_ANY_THROW(with(frustum(), facing(frustum(), {0, 0, 1}), by(0, 0, 16))) << "beyond its tip";
  const Shape step = cut(block, {makeBlock("t", at(10, -1, 5), 20, 40, 20)});
  // The lower top up to and beyond the upper one.
  std::set<int> lower = facesWhere(step, [](const Face& face) {
    const auto plane = face.plane();
    return plane && plane->normal.z > 0.9 && face.samplePoint().z < 6;
  });
  ASSERT_EQ(lower.size(), 1u);
  EXPECT_ANY_THROW(with(step, lower, by(0, 0, 6)));
  const Shape hole = cut(makeBlock("b", {}, 40, 40, 10), {makeCylinder("h", at(15, 15, -1), 4, 12)});
  EXPECT_ANY_THROW(with(hole, named(hole, "h:side"), by(-12, 0, 0))) << "out of the side";
}

}  // namespace
}  // namespace kervo
