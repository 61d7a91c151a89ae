// From the smallest body that Kervo takes to the largest: cuts against their formulas.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

class Sizes : public testing::TestWithParam<double> {};

TEST_P(Sizes, CutsAreExact) {
  const double size = GetParam();
  Progress progress;
  for (const double away : {0.0, 3.0}) {
    const Plane place = Plane::through({away * size, 2 * away * size, 0}, {0, 0, 1});
    const Shape block = makeBlock("block", place, size, size, size);
    const Point corner = place.origin + Vector{size, size, size};
    const Shape hole = makeCylinder("hole", Plane::through(place.origin + Vector{size / 2, size / 2, -size}, {0, 0, 1}),
                                    0.3 * size, 4 * size);
    const Division bored = divide(block, {hole}, progress);
    const double bore = pi * 0.09 * std::pow(size, 3);
    EXPECT_NEAR(bored.inside.volume() / bore, 1, 1e-9);
    EXPECT_NEAR(bored.outside.volume() / (std::pow(size, 3) - bore), 1, 1e-9);
    EXPECT_EQ(bored.remedy, "");
    const Division bitten =
        divide(block, {makeSphere("ball", Plane::through(corner, {0.3, 0.2, 1}), size / 2)}, progress);
    EXPECT_NEAR(bitten.inside.volume() / (pi / 48 * std::pow(size, 3)), 1, 1e-9);
    EXPECT_EQ(bitten.remedy, "");
  }
}

// A watch's part of 0.01 mm, a building of 200 m, and the ends of what is exact.
INSTANTIATE_TEST_SUITE_P(FromAWatchToACity, Sizes, testing::Values(1e-3, 0.01, 1.0, 2e5, 1e6));

TEST(SizeLimits, NothingSmallerOrLargerIsMade) {
  const Shape block = makeBlock("block", {}, 10, 10, 10);
  const auto scaled = [&](double factor) { return moved(block, Motion::scale({}, factor)); };
  const auto errorOf = [&](double factor) -> std::string {
    try {
      scaled(factor);
    } catch (const Error& error) {
      return error.what();
    }
    return "no error";
  };
  EXPECT_THAT(errorOf(1e-9), HasSubstr("smallest body is 0.001 mm"));
  EXPECT_THAT(errorOf(1e-4 / 2), HasSubstr("smallest body"));
  EXPECT_NEAR(scaled(1e-4).volume() / 1e-9, 1, 1e-6);
  EXPECT_THAT(errorOf(1e7), HasSubstr("beyond 10000000 mm"));
  EXPECT_NEAR(scaled(1e5).volume() / 1e18, 1, 1e-9);
  EXPECT_THROW(makeBlock("block", {}, 2e7, 1, 1), Error);
  EXPECT_THROW(makeBlock("block", {}, 1e-6, 1, 1), Error);
  // What is that small already may be moved.
  const Shape speck = scaled(1e-4);
  EXPECT_NO_THROW(moved(speck, Motion::by({1, 0, 0})));
}

}  // namespace
}  // namespace kervo
