// The checked boolean: known volumes, identities over random pairs, and the case the kernel gets wrong silently.
#include "geom/divide/boolean.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>
#include <set>

#include "base/error.h"
#include "geom/primitives.h"
#include "geom/surface/placed_face.h"
#include "geom/topology.h"
#include "support/body_pairs.h"

namespace kervo {
namespace {

using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

Plane at(double x, double y, double z) {
  return Plane::through({x, y, z}, {0, 0, 1});
}

std::set<std::string> namesOf(const Shape& shape) {
  std::set<std::string> names;
  for (const Face& face : facesOf(shape)) names.insert(face.origins().begin(), face.origins().end());
  return names;
}

TEST(Divide, CutsABoreWithBothSidesInBalance) {
  Progress progress;
  const Shape block = makeBlock("block", {}, 120, 60, 40);
  const Division cut = divide(block, {makeCylinder("bore", at(60, 30, -1), 24, 42)}, progress);
  EXPECT_NEAR(cut.outside.volume(), 288000 - pi * 576 * 40, 1e-4);
  EXPECT_NEAR(cut.inside.volume(), pi * 576 * 40, 1e-4);
  EXPECT_NEAR(cut.balance.residual(), 0, 1e-4);
  EXPECT_EQ(cut.remedy, "");
  EXPECT_TRUE(cut.outside.watertight());
  EXPECT_TRUE(cut.outside.valid());
  EXPECT_EQ(cut.outside.faceCount(), 7);
}

TEST(Divide, CarriesNamesToBothSides) {
  Progress progress;
  const Division cut =
      divide(makeBlock("block", {}, 10, 10, 10), {makeBlock("tool", at(5, -1, -1), 20, 12, 12)}, progress);
  EXPECT_EQ(namesOf(cut.outside), (std::set<std::string>{"block:left", "block:front", "block:back", "block:bottom",
                                                         "block:top", "tool:left"}));
  EXPECT_EQ(namesOf(cut.inside), (std::set<std::string>{"block:right", "block:front", "block:back", "block:bottom",
                                                        "block:top", "tool:left"}));
}

TEST(Divide, TakesSeveralCuttersAtOnceAlsoOverlappingOnes) {
  Progress progress;
  const Shape plate = makeBlock("plate", {}, 100, 50, 5);
  const Division cut = divide(plate,
                              {makeBlock("a", at(10, 10, -1), 20, 20, 7), makeBlock("b", at(20, 20, -1), 20, 20, 7),
                               makeCylinder("c", at(80, 25, -1), 6, 7)},
                              progress);
  EXPECT_NEAR(cut.inside.volume(), (400 + 400 - 100 + pi * 36) * 5, 1e-5);
}

TEST(Divide, LeavesAStockAloneThatNoCutterMeets) {
  Progress progress;
  const Shape block = makeBlock("block", {}, 10, 10, 10);
  for (const Shape& cutter : {makeBlock("far", at(50, 0, 0), 5, 5, 5), makeBlock("touching", at(10, 2, 2), 5, 5, 5),
                              makeBlock("box overlaps only", Plane::through({11, 11, 5}, {1, 1, 0}), 5, 5, 5)}) {
    const Division cut = divide(block, {cutter}, progress);
    EXPECT_EQ(&cut.outside.body(), &block.body());
    EXPECT_TRUE(cut.inside.empty());
  }
}

TEST(Divide, MayConsumeTheWholeStock) {
  Progress progress;
  const Division cut =
      divide(makeBlock("block", {}, 10, 10, 10), {makeBlock("all", at(-1, -1, -1), 20, 20, 20)}, progress);
  EXPECT_TRUE(cut.outside.empty());
  EXPECT_NEAR(cut.inside.volume(), 1000, 1e-9);
  const Division same = divide(makeSphere("a", {}, 5), {makeSphere("b", {}, 5)}, progress);
  EXPECT_TRUE(same.outside.empty());
}

TEST(Divide, FindsACutterWhollyInsideTheStock) {
  Progress progress;
  const Division cut = divide(makeBlock("block", {}, 10, 10, 10), {makeSphere("void", at(5, 5, 5), 2)}, progress);
  EXPECT_NEAR(cut.outside.volume(), 1000 - 4.0 / 3 * pi * 8, 1e-8);
  EXPECT_TRUE(cut.outside.watertight());
}

TEST(Divide, SplitsIntoPieces) {
  Progress progress;
  const Division cut =
      divide(makeBlock("bar", {}, 100, 10, 10),
             {makeBlock("saw", at(30, -1, -1), 2, 12, 12), makeBlock("saw", at(60, -1, -1), 2, 12, 12)}, progress);
  const std::vector<Shape> pieces = cut.outside.pieces();
  ASSERT_EQ(pieces.size(), 3u);
  double sum = 0;
  for (const Shape& piece : pieces) sum += piece.volume();
  EXPECT_NEAR(sum, 9600, 1e-6);
}

TEST(Divide, StopsOnRequest) {
  Progress progress;
  progress.requestStop();
  EXPECT_THROW(divide(makeBlock("a", {}, 10, 10, 10), {makeSphere("b", {}, 5)}, progress), Stopped);
}

// The kernel alone answers "nothing in common, valid" for some of these, where the torus' whole volume is.
TEST(Divide, TorusAgainstATangentCylinderIsRightOrRefused) {
  Progress progress;
  const double whole = 2 * pi * pi * 8 * 4;
  int right = 0, refused = 0;
  for (double offset : {0.0, 1e-8, -1e-8, 3e-8, -3e-8, 1e-7, -1e-7}) {
    const Shape torus = makeTorus("torus", {}, 8, 2);
    const Shape cylinder = makeCylinder("cylinder", at(0, 0, -5), 10 + offset, 10);
    try {
      const Division cut = divide(torus, {cylinder}, progress);
      EXPECT_NEAR(cut.inside.volume(), whole, whole * 1e-4) << offset;
      EXPECT_NEAR(cut.outside.volume(), 0, whole * 1e-4) << offset;
      ++right;
    } catch (const Error& error) {
      EXPECT_THAT(error.what(), HasSubstr("no sound result"));
      ++refused;
    }
    try {
      const Division cut = divide(cylinder, {torus}, progress);
      EXPECT_NEAR(cut.inside.volume(), whole, whole * 1e-4) << offset;
      ++right;
    } catch (const Error&) {
      ++refused;
    }
  }
  RecordProperty("right", right);
  RecordProperty("refused", refused);
  EXPECT_GE(right, 7);
}

// A ball that touches its cylinder all round: the kernel leaves half of the ball's face hanging in the cylinder, where
// it divides nothing, and the cut looked like a miss.
TEST(Divide, BallThatTouchesItsCylinderAllRoundIsRightOrRefused) {
  Progress progress;
  BodyPairs pairs(20261125);
  for (int i = 0; i < 2019; ++i) pairs.next();
  const auto [cylinder, ball] = pairs.next();
  ASSERT_EQ(facesOf(cylinder).front().surfaceName(), "cylinder");
  ASSERT_EQ(facesOf(ball).front().surfaceName(), "sphere");
  try {
    const Division division = divide(cylinder, {ball}, progress);
    EXPECT_NEAR(division.inside.volume(), ball.volume(), 1e-6 * ball.volume());
    EXPECT_NEAR(division.outside.volume(), cylinder.volume() - ball.volume(), 1e-6 * ball.volume());
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("gives no sound result"));
  }
}

TEST(Unite, RemovesSeamsAndMergesNames) {
  Progress progress;
  const Shape left = makeBlock("left", {}, 10, 10, 5);
  const Shape right = makeBlock("right", at(10, 0, 0), 10, 10, 5);
  const Shape both = unite({left, right}, progress).shape;
  EXPECT_NEAR(both.volume(), 1000, 1e-8);
  EXPECT_EQ(both.faceCount(), 6);
  bool merged = false;
  for (const Face& face : facesOf(both)) merged |= face.origins() == std::vector<std::string>{"left:top", "right:top"};
  EXPECT_TRUE(merged);
}

TEST(Unite, JoinsManyAndKeepsApartWhatDoesNotTouch) {
  Progress progress;
  const Shape all =
      unite({makeBlock("a", {}, 10, 10, 10), makeBlock("b", at(5, 5, 5), 10, 10, 10), makeSphere("c", at(50, 0, 0), 3)},
            progress)
          .shape;
  EXPECT_NEAR(all.volume(), 1000 + 1000 - 125 + 4.0 / 3 * pi * 27, 1e-6);
  EXPECT_EQ(all.pieces().size(), 2u);
}

TEST(Intersect, KeepsWhatLiesInAll) {
  Progress progress;
  const Shape common = intersect({makeBlock("a", {}, 10, 10, 10), makeBlock("b", at(5, 0, 0), 10, 10, 10),
                                  makeBlock("c", at(0, 5, 0), 10, 10, 10)},
                                 progress);
  EXPECT_NEAR(common.volume(), 250, 1e-9);
  EXPECT_TRUE(intersect({makeBlock("a", {}, 1, 1, 1), makeBlock("b", at(5, 0, 0), 1, 1, 1)}, progress).empty());
}

TEST(SplitBySurfaces, DividesOnlyWhereTheSurfaceReachesThrough) {
  Progress progress;
  const Shape block = makeBlock("block", {}, 10, 10, 10);
  for (const Face& face : facesOf(makeBlock("tool", at(4, 0, 0), 1, 1, 1))) {
    if (face.origins().front() != "tool:left") continue;
    const std::vector<Shape> parts = splitBySurfaces(block, {enlarged(face, block.box(), "cut")}, progress);
    ASSERT_EQ(parts.size(), 2u);
    EXPECT_NEAR(parts[0].volume() * parts[1].volume(), 400 * 600, 1e-6);
    EXPECT_TRUE(namesOf(parts[0]).contains("cut"));
  }
}

/// A random solid of one of five kinds, turned and moved at random.
Shape randomSolid(std::mt19937& random, const std::string& name) {
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  const Plane plane = Plane::through({between(-3, 3), between(-3, 3), between(-3, 3)},
                                     {between(-1, 1), between(-1, 1), between(-1, 1) + 1.1});
  switch (random() % 5) {
    case 0:
      return makeBlock(name, plane, between(5, 14), between(5, 14), between(5, 14));
    case 1:
      return makeCylinder(name, plane, between(2, 6), between(6, 16));
    case 2:
      return makeSphere(name, plane, between(3, 8));
    case 3:
      return makeCone(name, plane, between(3, 7), between(0.5, 2.5), between(6, 14));
    default:
      return makeTorus(name, plane, between(5, 8), between(1, 3));
  }
}

// vol(A) = vol(A−B) + vol(A∩B) and vol(A) + vol(B) = vol(A∪B) + vol(A∩B), from independent operations, for pairs that
// also touch, coincide or nearly do. A result may be refused, but not be wrong.
TEST(Boolean, VolumesOfRandomPairsBalance) {
  BodyPairs pairs(20261123);
  Progress progress;
  int refused = 0;
  for (int i = 0; i < 60; ++i) {
    const auto [a, b] = pairs.next();
    try {
      const Division ab = divide(a, {b}, progress), ba = divide(b, {a}, progress);
      const double scale = a.volume() + b.volume();
      EXPECT_NEAR(a.volume(), ab.outside.volume() + ab.inside.volume(), 1e-6 * a.volume()) << i;
      EXPECT_NEAR(ab.inside.volume(), ba.inside.volume(), 1e-6 * scale) << i;
      EXPECT_NEAR(scale, unite({a, b}, progress).shape.volume() + ab.inside.volume(), 1e-6 * scale) << i;
    } catch (const Error& error) {
      ++refused;
    }
  }
  RecordProperty("refused", refused);
  EXPECT_LE(refused, 2);
}

// The kernel fits one of this pair's intersection curves 0.01 mm off in one order of the arguments and not in the
// other. Both results balance and are valid; only the edges' tolerance tells.
TEST(Boolean, ABadlyFittedIntersectionCurveIsNotTaken) {
  std::mt19937 random(7);
  for (int i = 0; i < 18; ++i) {
    randomSolid(random, "a");
    randomSolid(random, "b");
  }
  const Shape a = randomSolid(random, "a"), b = randomSolid(random, "b");
  Progress progress;
  const Division ab = divide(a, {b}, progress), ba = divide(b, {a}, progress);
  EXPECT_NEAR(ab.inside.volume(), ba.inside.volume(), 1e-4 * ba.inside.volume());
}

}  // namespace
}  // namespace kervo
