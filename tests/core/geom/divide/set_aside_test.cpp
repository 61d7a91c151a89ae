#include "geom/divide/set_aside.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <set>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/divide/partition.h"
#include "geom/divide/plane_split.h"
#include "geom/primitives.h"
#include "geom/topology.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

class SetAsideTest : public testing::Test {
 protected:
  /// A plate 100 × 100 × 10 with holes of radius 2 in a grid of ten by ten, through or `depth` deep.
  Shape plate(double depth = 12) {
    std::vector<Shape> drills;
    for (int i = 0; i < 100; ++i)
      drills.push_back(
          makeCylinder("hole" + std::to_string(i), at(i % 10 * 10 + 5, i / 10 * 10 + 5, 10 - depth), 2, depth + 1));
    return divide(makeBlock("plate", {}, 100, 100, 10), drills, progress).outside;
  }

  static double holes(double count, double depth) { return count * pi * 4 * depth; }

  static bool goes(const Shape& stock, const std::vector<Shape>& others,
                   SetAside::Inside inside = SetAside::Inside::MayGo) {
    return SetAside(stock, others, inside).any();
  }

  /// Of one split by the plane x = const: everything that must hold whatever was set aside.
  void checkSplit(const Shape& stock, double x, double front, double back) {
    const PlaneSplit split = splitByPlane("saw", stock, Plane::through({x, 0, 0}, {1, 0, 0}), {}, progress);
    ASSERT_EQ(split.front.size(), 1u);
    ASSERT_EQ(split.back.size(), 1u);
    EXPECT_NEAR(split.front[0].volume(), front, 1e-6 * front);
    EXPECT_NEAR(split.back[0].volume(), back, 1e-6 * back);
    for (const Shape& part : {split.front[0], split.back[0]}) {
      EXPECT_TRUE(part.watertight());
      EXPECT_TRUE(part.valid());
    }
    EXPECT_NEAR(unite({split.front[0], split.back[0]}, progress).shape.volume(), stock.volume(), 1e-6 * stock.volume());
  }

  Progress progress;
};

TEST_F(SetAsideTest, HolesClearOfTheCutComeBackWithTheirNames) {
  const Shape stock = plate();
  const Plane saw = Plane::through({50, 0, 0}, {1, 0, 0});
  const SetAside aside(stock, {makeSlab("saw", saw, 0, Box::infinity, stock.roughBox())}, SetAside::Inside::MayGo);
  ASSERT_TRUE(aside.any());
  EXPECT_EQ(aside.plain().faceCount(), 6);
  EXPECT_NEAR(aside.plain().volume(), 100000, 1e-6);

  checkSplit(stock, 50, 50000 - holes(50, 10), 50000 - holes(50, 10));
  const PlaneSplit split = splitByPlane("saw", stock, saw, {}, progress);
  EXPECT_EQ(split.front[0].faceCount(), 56);
  std::set<std::string> names;
  for (const Shape& part : {split.front[0], split.back[0]})
    for (const Face& face : facesOf(part)) names.insert(face.origins().front());
  for (int i = 0; i < 100; ++i) EXPECT_TRUE(names.contains("hole" + std::to_string(i) + ":side")) << i;
}

TEST_F(SetAsideTest, HolesThatTheCutMeetsStay) {
  const Shape stock = plate();
  // Right through a row: twenty half cylinders, and ninety whole holes.
  const SetAside aside(stock,
                       {makeSlab("saw", Plane::through({45, 0, 0}, {1, 0, 0}), 0, Box::infinity, stock.roughBox())},
                       SetAside::Inside::MayGo);
  EXPECT_EQ(aside.plain().faceCount(), 16);
  checkSplit(stock, 45, 55000 - holes(55, 10), 45000 - holes(45, 10));
  // Just touching the holes' walls, and missing them by less than is asked for.
  checkSplit(stock, 47 + 1e-4, 53000 - 1e-1 - holes(50, 10), 47000 + 1e-1 - holes(50, 10));
}

TEST_F(SetAsideTest, KerfTiltedThroughBlindHoles) {
  const Shape stock = plate(4);
  const Plane saw = Plane::through({50, 50, 5}, {1, 0.35, 0.2});
  ASSERT_TRUE(goes(stock, {makeSlab("saw", saw, -1, 1, stock.roughBox())}));
  const PlaneSplit split = splitByPlane("saw", stock, saw, Kerf::centred(2), progress);
  ASSERT_EQ(split.front.size(), 1u);
  ASSERT_EQ(split.back.size(), 1u);
  EXPECT_NEAR(stock.volume(), 100000 - holes(100, 4), 1e-3);
  EXPECT_NEAR(split.front[0].volume() + split.back[0].volume() + split.waste.volume(), stock.volume(), 1e-3);
  // The pattern looks the same from both ends of the diagonal, the holes' depth does not: the plain slab's volume is
  // known, and every hole on its own.
  const Shape whole = makeBlock("plate", {}, 100, 100, 10);
  const PlaneSplit plain = splitByPlane("saw", whole, saw, Kerf::centred(2), progress);
  double inHoles = 0;
  for (int i = 0; i < 100; ++i) {
    const Shape hole = makeCylinder("hole", at(i % 10 * 10 + 5, i / 10 * 10 + 5, 6), 2, 4);
    const PlaneSplit part = splitByPlane("saw", hole, saw, Kerf::centred(2), progress);
    for (const Shape& front : part.front) inHoles += front.volume();
  }
  EXPECT_NEAR(split.front[0].volume(), plain.front[0].volume() - inHoles, 1e-3);
}

TEST_F(SetAsideTest, ABossWithAHoleInItGoesAndComesAsOne) {
  // Twelve bosses, each with a blind hole from its top.
  std::vector<Shape> bosses{makeBlock("base", {}, 120, 40, 10)}, drills;
  for (int i = 0; i < 12; ++i) {
    bosses.push_back(makeCylinder("boss" + std::to_string(i), at(i * 10 + 5, 20, 10), 4, 6));
    drills.push_back(makeCylinder("bore" + std::to_string(i), at(i * 10 + 5, 20, 12), 2, 6));
  }
  const Shape stock = divide(unite(bosses, progress).shape, drills, progress).outside;
  const double each = pi * 16 * 6 - pi * 4 * 4;
  ASSERT_NEAR(stock.volume(), 48000 + 12 * each, 1e-3);
  const Shape saw = makeSlab("saw", Plane::through({60, 0, 0}, {1, 0, 0}), 0, Box::infinity, stock.roughBox());
  const SetAside aside(stock, {saw}, SetAside::Inside::MayGo);
  ASSERT_TRUE(aside.any());
  EXPECT_NEAR(aside.plain().volume(), 48000, 1e-6);
  checkSplit(stock, 60, 24000 + 6 * each, 24000 + 6 * each);
}

TEST_F(SetAsideTest, HolesIntoAHollowStayWhereTheyHoldItToTheOutside) {
  // Without its holes the hollow would be a shell of its own.
  std::vector<Shape> drills{makeBlock("hollow", at(5, 5, 5), 90, 90, 20)};
  for (int i = 0; i < 40; ++i)
    drills.push_back(makeCylinder("hole" + std::to_string(i), at(i % 8 * 10 + 15, i / 8 * 15 + 15, 24), 2, 8));
  const Shape stock = divide(makeBlock("box", {}, 100, 100, 30), drills, progress).outside;
  const double half = (300000 - 162000 - holes(40, 5)) / 2;
  ASSERT_NEAR(stock.volume(), 2 * half, 1e-3);
  checkSplit(stock, 50, half, half);
}

TEST_F(SetAsideTest, AHoleThatAnotherPartOfTheBodyPassesThroughStays) {
  // A plate of many holes with a handle: a rod through one wide hole, held by an arm at the side.
  std::vector<Shape> drills{makeCylinder("wide", at(75, 25, -1), 4, 12)};
  for (int i = 0; i < 60; ++i)
    drills.push_back(makeCylinder("hole" + std::to_string(i), at(i % 10 * 6 + 4, i / 10 * 8 + 4, -1), 1.5, 12));
  const Shape plate = divide(makeBlock("plate", {}, 100, 50, 10), drills, progress).outside;
  const Shape stock = unite({plate, makeCylinder("rod", at(75, 25, -20), 2, 50),
                             makeBlock("arm", at(74, 25, 28), 26, 2, 2), makeBlock("post", at(98, 25, 10), 2, 2, 20)},
                            progress)
                          .shape;
  ASSERT_EQ(stock.solidCount(), 1);
  const Shape saw = makeSlab("saw", Plane::through({50, 0, 0}, {1, 0, 0}), 0, Box::infinity, stock.roughBox());
  const SetAside aside(stock, {saw}, SetAside::Inside::MayGo);
  ASSERT_TRUE(aside.any());
  bool wideHole = false;
  for (const Face& face : facesOf(aside.plain())) wideHole |= face.origins().front() == "wide:side";
  EXPECT_TRUE(wideHole);
  const PlaneSplit split = splitByPlane("saw", stock, Plane::through({50, 0, 0}, {1, 0, 0}), {}, progress);
  ASSERT_EQ(split.front.size(), 1u);
  EXPECT_NEAR(split.front[0].volume() + split.back[0].volume(), stock.volume(), 1e-6 * stock.volume());
  EXPECT_TRUE(split.front[0].valid());
}

TEST_F(SetAsideTest, ACutterInsideAHoleLeavesTheBodyAlone) {
  const Shape stock = plate();
  const Division cut = divide(stock, {makeCylinder("pin", at(45, 45, -5), 1, 20)}, progress);
  EXPECT_TRUE(cut.inside.empty());
  EXPECT_EQ(&cut.outside.body(), &stock.body());
}

TEST_F(SetAsideTest, PartitionKeepsHolesInTheOtherBodyOpen) {
  const Shape stock = plate(), block = makeBlock("block", at(25, 25, -5), 30, 30, 30);
  // The block fills the holes inside it: those may not go, the others may.
  EXPECT_TRUE(goes(stock, {block}, SetAside::Inside::Stays));
  const Partition result = partition({stock, block}, {}, progress);
  double both = 0, blockOnly = 0, plateOnly = 0;
  for (const Part& part : result.parts) {
    if (part.in.size() == 2) both += part.shape.volume();
    if (part.in == std::vector<std::size_t>{0}) plateOnly += part.shape.volume();
    if (part.in == std::vector<std::size_t>{1}) blockOnly += part.shape.volume();
    EXPECT_TRUE(part.shape.valid());
  }
  // Holes at 25 and 55 lie on the block's sides: nine or rather (2 + ½ + ½)² of them inside.
  EXPECT_NEAR(both, 9000 - holes(9, 10), 1e-3);
  EXPECT_NEAR(blockOnly, 27000 - 9000 + holes(9, 10), 1e-3);
  EXPECT_NEAR(plateOnly, 91000 - holes(91, 10), 1e-3);
}

TEST_F(SetAsideTest, PartitionBySheetsKeepsTheSides) {
  const Shape stock = plate();
  const Shape slab = makeSlab("kerf", Plane::through({50, 50, 0}, {1, 1, 0}), -0.5, 0.5, stock.roughBox());
  const Partition result = partition({stock, slab}, {}, progress);
  double sum = 0;
  for (const Part& part : result.parts)
    if (part.isIn(0)) sum += part.shape.volume();
  EXPECT_NEAR(sum, stock.volume(), 1e-3);
}

// Whatever was set aside, the volume is that of the plate's part less that of the parts of its holes.
TEST_F(SetAsideTest, RandomPlanesThroughRandomPlates) {
  std::mt19937 random(11);
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  int used = 0;
  for (int round = 0; round < 8; ++round) {
    std::vector<Shape> drills;
    for (int i = 0; i < 49; ++i)
      drills.push_back(
          makeCylinder("h" + std::to_string(i), at(i % 7 * 14 + 7, i / 7 * 14 + 7, between(-1, 8)), between(1, 6), 12));
    const Shape whole = makeBlock("plate", {}, 98, 98, 10);
    const Shape stock = divide(whole, drills, progress).outside;
    const Shape saw = makeSlab(
        "saw",
        Plane::through({between(30, 60), between(30, 60), 5}, {between(-1, 1), between(-1, 1), between(-0.3, 0.3)}), 0,
        Box::infinity, whole.roughBox());
    used += goes(stock, {saw});
    double expected = divide(whole, {saw}, progress).inside.volume();
    for (const Shape& drill : drills) {
      const Shape hole = divide(drill, {whole}, progress).inside;
      expected -= divide(hole, {saw}, progress).inside.volume();
    }
    EXPECT_NEAR(divide(stock, {saw}, progress).inside.volume(), expected, 1e-6 * whole.volume()) << "round " << round;
  }
  EXPECT_GT(used, 4);
}

}  // namespace
}  // namespace kervo
