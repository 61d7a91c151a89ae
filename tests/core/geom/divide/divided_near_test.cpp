// A comb of many teeth, cut where few of them are: only those few are intersected.
#include "geom/divide/divided_near.h"
#include "drawing/regions.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "geom/divide/boolean.h"
#include "geom/divide/plane_split.h"
#include "geom/motion.h"
#include "geom/primitives.h"
#include "geom/sweep/sweep.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

class DividedNearTest : public testing::Test {
 protected:
  static constexpr int teeth = 80;
  static constexpr double volume = (teeth * 10 + teeth * 0.5) * 10;

  /// 80 long, 10 high and 10 thick, with triangular teeth of 1 × 1 on top.
  DividedNearTest() {
    std::vector<PlanarCurve> curves;
    const auto line = [&](double u1, double v1, double u2, double v2) {
      curves.push_back({"l" + std::to_string(curves.size()), LineCurve{{u1, v1}, {u2, v2}}});
    };
    for (int i = 0; i < teeth; ++i) {
      line(i, 0, i + 0.5, 1);
      line(i + 0.5, 1, i + 1, 0);
    }
    line(teeth, 0, teeth, -10);
    line(teeth, -10, 0, -10);
    line(0, -10, 0, 0);
    comb = solidOf(
        sweep("comb", findRegions({}, curves, progress), true, SweepLimit::at(0), SweepLimit::at(10), {}, progress)
            .front());
  }

  bool isLocal(const std::vector<Shape>& cutters) {
    return dividedNear(comb, cutters, Attempt{0, 0}, progress).has_value();
  }

  static void expectSound(const Shape& shape) {
    EXPECT_TRUE(shape.watertight());
    EXPECT_TRUE(shape.valid());
  }

  Shape comb;
  Progress progress;
};

TEST_F(DividedNearTest, TakesPartsOfLargeBodiesOnly) {
  ASSERT_EQ(comb.faceCount(), 2 * teeth + 5);
  ASSERT_NEAR(comb.volume(), volume, 1e-9 * volume);
  const Shape saw = makeBlock("saw", at(20.25, -20, -20), 1, 40, 40);
  EXPECT_TRUE(isLocal({saw}));
  // A block is small enough to be intersected as a whole.
  EXPECT_FALSE(dividedNear(makeBlock("block", {}, 9, 9, 9), {saw}, Attempt{0, 0}, progress).has_value());
}

TEST_F(DividedNearTest, AllFacesMayBeNear) {
  const std::vector<Shape> cutters{makeBlock("along", at(-5, -0.5, 2), 100, 5, 1)};
  EXPECT_TRUE(isLocal(cutters));
  // Half of its height lies in the teeth's foot, and it takes a tenth of every tooth.
  const Division cut = divide(comb, cutters, progress);
  EXPECT_NEAR(cut.inside.volume(), teeth * 0.5 + teeth * 0.5, 1e-9 * volume);
  EXPECT_NEAR(cut.outside.volume(), volume - teeth, 1e-9 * volume);
  for (const Shape& part : {cut.inside, cut.outside}) expectSound(part);
}

TEST_F(DividedNearTest, SplitWithKerfKeepsNamesAndVolumes) {
  const PlaneSplit split =
      splitByPlane("saw", comb, Plane::through({20.5, 0, 0}, {1, 0, 0}), Kerf::centred(0.5), progress);
  ASSERT_EQ(split.front.size(), 1u);
  ASSERT_EQ(split.back.size(), 1u);
  // The kerf takes the middle of a tooth: its height falls from 1 to 1/2 on both sides.
  const double waste = (0.5 * 10 + 2 * 0.25 * 0.75) * 10;
  EXPECT_NEAR(split.waste.volume(), waste, 1e-9 * volume);
  EXPECT_NEAR(split.back[0].volume(), 10 * (20 * 10.5 + 0.25 * 10 + 0.25 * 0.25), 1e-9 * volume);
  EXPECT_NEAR(split.front[0].volume() + split.back[0].volume() + waste, volume, 1e-9 * volume);
  for (const Shape& part : {split.front[0], split.back[0], split.waste}) expectSound(part);
  EXPECT_EQ(split.back[0].faceCount(), 2 * 20 + 1 + 5);
  // The kerf's own face, and that of a tooth which was cut and of one that was not.
  EXPECT_NEAR(faceNamed(split.back[0], "saw:cut").area(), 10.5 * 10, 1e-9);
  EXPECT_NEAR(faceNamed(split.back[0], "comb:side:l40").area(), 10 * std::sqrt(1.25) / 2, 1e-9);
  EXPECT_NEAR(faceNamed(split.back[0], "comb:side:l38").area(), 10 * std::sqrt(1.25), 1e-9);
}

TEST_F(DividedNearTest, FacesOfCutterAndStockMayCoincide) {
  // Flush with the end, the underside and one flank.
  const std::vector<Shape> cutters{makeBlock("corner", at(0, -10, 0), 3, 4, 6)};
  EXPECT_TRUE(isLocal(cutters));
  const Division cut = divide(comb, cutters, progress);
  EXPECT_NEAR(cut.inside.volume(), 3 * 4 * 6, 1e-9 * volume);
  EXPECT_NEAR(cut.outside.volume(), volume - 3 * 4 * 6, 1e-9 * volume);
  EXPECT_EQ(cut.outside.faceCount(), comb.faceCount() + 3);
  expectSound(cut.outside);
}

TEST_F(DividedNearTest, CutterThatOnlyTouchesTakesNothing) {
  const Division cut = divide(comb, {makeBlock("beside", at(-3, -8, 2), 3, 4, 4)}, progress);
  EXPECT_TRUE(cut.inside.empty());
  EXPECT_NEAR(cut.outside.volume(), volume, 1e-9 * volume);
}

TEST_F(DividedNearTest, OverlappingCuttersTakeTheirCommonPartOnce) {
  const std::vector<Shape> cutters{makeBlock("a", at(10, -6, -1), 4, 4, 12), makeBlock("b", at(12, -4, -1), 4, 3, 12)};
  EXPECT_TRUE(isLocal(cutters));
  const Division cut = divide(comb, cutters, progress);
  EXPECT_NEAR(cut.inside.volume(), (4 * 4 + 4 * 3 - 2 * 2) * 10, 1e-9 * volume);
  expectSound(cut.outside);
}

TEST_F(DividedNearTest, CutterWhollyInsideLeavesAHollow) {
  const std::vector<Shape> cutters{makeBlock("notch", at(10, -1, -1), 4, 4, 12),
                                   makeSphere("bubble", at(40, -5, 5), 2)};
  EXPECT_TRUE(isLocal(cutters));
  const Division cut = divide(comb, cutters, progress);
  const double bubble = pi * 8 * 4 / 3;
  EXPECT_NEAR(cut.outside.volume(), volume - (4 * 1 + 4 * 0.5) * 10 - bubble, 1e-9 * volume);
  EXPECT_EQ(cut.outside.solidCount(), 1);
  EXPECT_EQ(cut.inside.solidCount(), 2);
  expectSound(cut.outside);
}

TEST_F(DividedNearTest, HollowBesideAThroughCutFindsItsPart) {
  const Division cut =
      divide(comb, {makeBlock("saw", at(20, -20, -20), 1, 40, 40), makeSphere("bubble", at(40, -5, 5), 2)}, progress);
  ASSERT_EQ(cut.outside.solidCount(), 2);
  std::vector<double> volumes;
  for (const Shape& part : cut.outside.pieces()) volumes.push_back(part.volume());
  std::sort(volumes.begin(), volumes.end());
  EXPECT_NEAR(volumes[0], 20 * 10.5 * 10, 1e-9 * volume);
  EXPECT_NEAR(volumes[1], 59 * 10.5 * 10 - pi * 8 * 4 / 3, 1e-9 * volume);
}

TEST_F(DividedNearTest, HollowBodyKeepsItsHollow) {
  const Shape hollow = divide(comb, {makeSphere("bubble", at(60, -5, 5), 2)}, progress).outside;
  const Division cut = divide(hollow, {makeBlock("notch", at(10, -1, -1), 4, 4, 12)}, progress);
  EXPECT_NEAR(cut.outside.volume(), volume - pi * 8 * 4 / 3 - (4 * 1 + 4 * 0.5) * 10, 1e-9 * volume);
  expectSound(cut.outside);
}

/// Cutters of all kinds, turned anyhow. The cutter as stock and the comb as its cutter go another way to the same
/// volume.
class DividedNearLaws : public DividedNearTest, public testing::WithParamInterface<unsigned> {};

TEST_P(DividedNearLaws, BothWaysRoundTheSameVolumeIsCommon) {
  std::mt19937 random(GetParam());
  const auto any = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(random); };
  const Plane place = Plane::through({any(10, 70), any(-9, 1), any(-1, 11)}, {any(-1, 1), any(-1, 1), any(-1, 1)});
  const std::vector<Shape> kinds{makeBlock("k", place, any(2, 6), any(2, 6), any(2, 20)),
                                 makeCylinder("k", place, any(1, 3), any(5, 20)), makeSphere("k", place, any(2, 5)),
                                 makeTorus("k", place, any(3, 5), any(0.5, 1.5))};
  const Shape& cutter = kinds[GetParam() % kinds.size()];
  // The parts can be put together every time.
  EXPECT_NO_THROW(isLocal({cutter}));
  const Division cut = divide(comb, {cutter}, progress);
  const Division other = divide(cutter, {comb}, progress);
  EXPECT_NEAR(cut.inside.volume(), other.inside.volume(), 1e-6 * cutter.volume());
  EXPECT_NEAR(cut.outside.volume() + cut.inside.volume(), volume, 1e-6 * volume);
  expectSound(cut.outside);
}

INSTANTIATE_TEST_SUITE_P(Random, DividedNearLaws, testing::Range(1u, 41u));

}  // namespace
}  // namespace kervo
