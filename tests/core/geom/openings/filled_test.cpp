// Openings closed, and cut again elsewhere: volumes that add up, faces that come back.
#include "geom/openings/filled.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "geom/divide/boolean.h"
#include "geom/openings/flush_cut.h"
#include "geom/openings/opening_wall.h"
#include "geom/openings/openings.h"
#include "geom/openings/reshaped.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

Plane at(double x, double y, double z, Vector normal = {0, 0, 1}) {
  return Plane::through({x, y, z}, normal);
}
Shape box(double x, double y, double z, double width, double depth, double height) {
  return makeBlock("tool", at(x, y, z), width, depth, height);
}
Shape cut(const Shape& body, const std::vector<Shape>& tools) {
  Progress progress;
  return divide(body, tools, progress).outside;
}
Filled closed(const Shape& body) {
  Progress progress;
  std::vector<std::vector<int>> faces;
  for (const Opening& each : openingsOf(body)) faces.push_back(each.faces);
  return filled(body, faces, progress);
}

TEST(Filled, MakesAPlateWholeAgain) {
  const Shape plain = makeBlock("plate", {}, 100, 60, 10);
  const Shape plate =
      cut(plain, {makeCylinder("hole", at(20, 20, -1), 5, 12), makeCylinder("blind", at(40, 20, 6), 4, 5),
                  box(55, 10, 4, 20, 12, 7), box(30, 50, -1, 16, 11, 12)});
  const Filled result = closed(plate);
  EXPECT_NEAR(result.body.volume(), 60000, 60000e-9);
  EXPECT_EQ(result.body.faceCount(), 6);
  EXPECT_EQ(result.body.edgeCount(), 12) << "the notch leaves no corners behind";
  EXPECT_TRUE(result.body.valid());
  EXPECT_TRUE(result.body.watertight());
  double sum = 0;
  for (const Shape& filling : result.fillings) {
    EXPECT_TRUE(filling.valid());
    sum += filling.volume();
  }
  EXPECT_NEAR(sum, pi * 25 * 10 + pi * 16 * 4 + 20 * 12 * 6 + 16 * 10 * 10, 1e-6);
}

TEST(Filled, ClosesADoorAndAChannel) {
  const Shape wall = cut(makeBlock("wall", {}, 5000, 300, 2700), {box(2000, -1, -1, 1000, 302, 2101)});
  const Filled door = closed(wall);
  EXPECT_EQ(door.body.faceCount(), 6);
  EXPECT_EQ(door.body.edgeCount(), 12);
  EXPECT_NEAR(door.body.volume(), 5000.0 * 300 * 2700, 5);
  ASSERT_EQ(door.fillings.size(), 1u);
  EXPECT_NEAR(door.fillings[0].volume(), 1000.0 * 300 * 2100, 1);
  EXPECT_EQ(door.fillings[0].faceCount(), 6);
  const Shape bar = cut(makeBlock("bar", {}, 40, 100, 20), {box(15, -1, 12, 10, 102, 9)});
  const Filled channel = closed(bar);
  EXPECT_EQ(channel.body.faceCount(), 6);
  EXPECT_NEAR(channel.body.volume(), 80000, 1e-4);
}

TEST(Filled, ClosesInRoundWalls) {
  const double whole = pi * (50 * 50 - 45 * 45) * 200;
  const Shape tube = cut(makeCylinder("tube", {}, 50, 200), {makeCylinder("bore", at(0, 0, -1), 45, 202)});
  Progress progress;
  const Shape open = cut(tube, {box(30, -10, 80, 40, 20, 30)});
  for (const Opening& each : openingsOf(open)) {
    if (each.faces.size() != 4) continue;
    const Filled result = filled(open, {each.faces}, progress);
    EXPECT_NEAR(result.body.volume(), whole, 1e-9 * whole);
    EXPECT_EQ(result.body.faceCount(), 4);
    EXPECT_TRUE(result.body.valid());
    // A quarter further round and a little higher.
    const OpeningWall wall(open, each);
    const Motion motion = wall.along(50 * pi / 2, 10);
    EXPECT_TRUE(wall.keepsWalls(50 * pi / 2, 10));
    const Division again = cutFlush(result.body, {moved(result.fillings[0], motion)}, progress);
    EXPECT_NEAR(again.outside.volume(), open.volume(), 1e-8 * whole);
    const Shape expected = cut(tube, {box(-10, 30, 90, 20, 40, 30)});
    EXPECT_NEAR(divide(again.outside, {expected}, progress).outside.volume(), 0, 1e-3) << "where it should be";
  }
  // Beside the seam; the bore is closed round the window, which ends at it then.
  const Shape beside = cut(tube, {box(-10, 30, 80, 20, 40, 30)});
  const std::vector<Opening> both = openingsOf(beside);
  ASSERT_EQ(both.size(), 2u);
  for (const Opening& each : both) {
    const Filled result = filled(beside, {each.faces}, progress);
    EXPECT_TRUE(result.body.valid());
    EXPECT_TRUE(result.body.watertight());
    const bool isBore = each.faces.size() == 1;
    EXPECT_EQ(result.body.faceCount(), isBore ? 3 + 5 : 4);
    EXPECT_NEAR(result.body.volume(), isBore ? beside.volume() + pi * 45 * 45 * 200 : whole, 1e-6);
  }
  // A notch in the end of the tube.
  const Shape notched = cut(tube, {box(30, -10, 180, 40, 20, 30)});
  int notches = 0;
  for (const Opening& each : openingsOf(notched)) {
    if (each.faces.size() != 3) continue;  // the bore with the notch is there as well
    ++notches;
    const Filled result = filled(notched, {each.faces}, progress);
    EXPECT_NEAR(result.body.volume(), whole, 1e-8 * whole);
    EXPECT_TRUE(result.body.valid());
  }
  EXPECT_EQ(notches, 1);
}

TEST(CutFlush, CutsOutWhatLiesFlushDirectly) {
  Progress progress;
  const Shape wall = makeBlock("wall", {}, 5000, 300, 2700);
  std::vector<Shape> windows;
  for (int i = 0; i < 3; ++i) windows.push_back(box(200 + 1500 * i, 0, 900, 1200, 300, 1300));
  int direct = 0;
  const Division division = cutFlush(wall, windows, progress, &direct);
  EXPECT_EQ(direct, 3);
  EXPECT_NEAR(division.outside.volume(), 5000.0 * 300 * 2700 - 3 * 1200.0 * 300 * 1300, 10);
  EXPECT_EQ(division.outside.faceCount(), 6 + 12);
  EXPECT_TRUE(division.outside.valid());
  EXPECT_NEAR(division.inside.volume(), 3 * 1200.0 * 300 * 1300, 5);
  // One that runs into the edge, and two that overlap, take the other way.
  const Division other = cutFlush(
      wall, {box(4500, 0, 900, 1200, 300, 1300), windows[0], box(300, 0, 800, 500, 300, 500)}, progress, &direct);
  EXPECT_LT(direct, 3);
  EXPECT_NEAR(other.inside.volume(), (500.0 * 1300 + 1200.0 * 1300 + 500.0 * 100) * 300, 10);
  EXPECT_TRUE(other.outside.valid());
}

TEST(Stretched, MakesAPocketWiderDeeperAndNarrower) {
  Progress progress;
  const Shape rounded = unite({box(3, 0, 0, 24, 20, 8), box(0, 3, 0, 30, 14, 8), makeCylinder("a", at(3, 3, 0), 3, 8),
                               makeCylinder("b", at(27, 3, 0), 3, 8), makeCylinder("c", at(3, 17, 0), 3, 8),
                               makeCylinder("d", at(27, 17, 0), 3, 8)},
                              progress)
                            .shape;
  const double corners = (4 - pi) * 9;
  ASSERT_NEAR(rounded.volume(), (30 * 20 - corners) * 8, 1e-6);
  const Shape wider = stretched(rounded, Plane::through({15, 10, 4}, {1, 0, 0}), 5);
  EXPECT_NEAR(wider.volume(), (35 * 20 - corners) * 8, 1e-6);
  EXPECT_TRUE(wider.valid());
  const Shape narrower = stretched(rounded, Plane::through({15, 10, 4}, {0, 1, 0}), -13);
  EXPECT_NEAR(narrower.volume(), (30 * 7 - corners) * 8, 1e-6);
  const Shape deeper = stretched(rounded, Plane::through({15, 10, 4}, {0, 0, -1}), 2.5);
  EXPECT_NEAR(deeper.volume(), (30 * 20 - corners) * 10.5, 1e-6);
  EXPECT_ANY_THROW(stretched(rounded, Plane::through({15, 10, 4}, {0, 1, 0}), -14)) << "the rounds would meet";
  EXPECT_ANY_THROW(stretched(makeCylinder("c", {}, 5, 10), Plane::through({0, 0, 5}, {1, 0, 0}), 2));
}

TEST(Widened, KeepsStepsChamfersAndTips) {
  Progress progress;
  const Shape stepped =
      unite({makeCylinder("hole", {}, 3, 20), makeCylinder("head", at(0, 0, 14), 6, 6)}, progress).shape;
  const Shape wider = widened(stepped, {{}, {0, 0, 1}}, 1.5);
  EXPECT_NEAR(wider.volume(), pi * (4.5 * 4.5 * 14 + 7.5 * 7.5 * 6), 1e-6);
  EXPECT_TRUE(wider.valid());
  const Shape tip = unite({makeCylinder("hole", {}, 3, 20), makeCone("tip", at(0, 0, -3), 0, 3, 3)}, progress).shape;
  const Shape deep = widened(tip, {{}, {0, 0, 1}}, 1);
  EXPECT_NEAR(deep.volume(), pi * 16 * 20 + pi * 16 * 4 / 3, 1e-6);
  EXPECT_ANY_THROW(widened(stepped, {{}, {0, 0, 1}}, -3.5));
  EXPECT_ANY_THROW(widened(box(0, 0, 0, 4, 4, 4), {{}, {0, 0, 1}}, 1));
}

// Shifted out and back, a plate has the volume and faces that it had; closed and cut again likewise.
TEST(Filled, TwoHundredRandomPlatesComeBack) {
  std::mt19937 random(17);
  std::uniform_real_distribution<double> share(0, 1);
  Progress progress;
  for (int round = 0; round < 200; ++round) {
    const double width = 80 + 60 * share(random), depth = 60 + 40 * share(random), height = 4 + 16 * share(random);
    const Shape plain = makeBlock("plate", {}, width, depth, height);
    std::vector<Shape> tools;
    // A grid of 3 × 2 cells; in each perhaps something.
    for (int i = 0; i < 3; ++i)
      for (int k = 0; k < 2; ++k) {
        const double x = width * (i + 0.5) / 3, y = depth * (k + 0.5) / 2, size = 4 + 8 * share(random);
        const double floor = share(random) < 0.5 ? -1 : height * (0.2 + 0.6 * share(random));
        switch (static_cast<int>(share(random) * 4)) {
          case 0:
            tools.push_back(makeCylinder("hole", at(x, y, floor), size / 2, height + 2));
            break;
          case 1:
            tools.push_back(box(x - size / 2, y - size / 3, floor, size, size * 2 / 3, height + 2));
            break;
          case 2:
            tools.push_back(k == 0 ? box(x - size / 2, -1, floor, size, size, height + 2)
                                   : box(x - size / 2, depth - size, floor, size, size + 1, height + 2));
            break;
          default:
            break;
        }
      }
    if (tools.empty()) continue;
    const Shape plate = cut(plain, tools);
    const std::vector<Opening> openings = openingsOf(plate);
    ASSERT_EQ(openings.size(), tools.size()) << "round " << round;
    const Filled whole = closed(plate);
    EXPECT_NEAR(whole.body.volume(), plain.volume(), 1e-9 * plain.volume()) << "round " << round;
    EXPECT_EQ(whole.body.faceCount(), 6) << "round " << round;
    const Division again = cutFlush(whole.body, whole.fillings, progress);
    EXPECT_NEAR(again.outside.volume(), plate.volume(), 1e-9 * plain.volume()) << "round " << round;
    EXPECT_EQ(again.outside.faceCount(), plate.faceCount()) << "round " << round;
  }
}

}  // namespace
}  // namespace kervo
