// Round holes that run through each other: each is known, closed, moved and resized by itself.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/openings/filled.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

Shape cut(const Shape& stock, const std::vector<Shape>& cutters) {
  Progress progress;
  return divide(stock, cutters, progress).outside;
}
Shape bore(const char* name, Point from, Vector along, double radius, double length) {
  return makeCylinder(name, Plane::through(from, along), radius, length);
}
const double block = 60.0 * 40 * 30;
Shape plain() {
  return makeBlock("b", {}, 60, 40, 30);
}
/// Along x through the middle, and along y across it.
Shape crossed(double radius, double across) {
  return cut(plain(), {bore("x", {-1, 20, 15}, {1, 0, 0}, radius, 62), bore("y", {30, -1, 15}, {0, 1, 0}, across, 42)});
}
/// What two cylinders of one radius have in common that cross at a right angle: 16/3·r³.
double shared(double radius) {
  return 16.0 / 3 * radius * radius * radius;
}

TEST(Crossing, TwoEqualHolesAreTwoOpenings) {
  const Shape body = crossed(6, 6);
  ASSERT_NEAR(body.volume(), block - pi * 36 * 100 + shared(6), 1e-6 * block);
  const std::vector<Opening> openings = openingsOf(body);
  ASSERT_EQ(openings.size(), 2u);
  for (const Opening& each : openings) {
    EXPECT_EQ(each.form, OpeningForm::Round);
    EXPECT_TRUE(each.through);
    EXPECT_NEAR(each.diameter, 12, 1e-9);
    EXPECT_EQ(each.walls.size(), 2u);
    EXPECT_EQ(each.crossing, openings[0].crossing);
    EXPECT_GT(each.crossing.size(), each.faces.size());
  }
}

TEST(Crossing, ANarrowHoleOnBothSidesOfAWideOneIsOne) {
  const std::vector<Opening> openings = openingsOf(crossed(8, 3));
  ASSERT_EQ(openings.size(), 2u);
  const Opening& narrow = openings[0].diameter < 10 ? openings[0] : openings[1];
  EXPECT_NEAR(narrow.diameter, 6, 1e-9);
  EXPECT_TRUE(narrow.through);
  EXPECT_EQ(narrow.walls.size(), 2u);
  EXPECT_NEAR(narrow.depth, 40, 1e-6);
}

TEST(Crossing, ClosingOneLeavesTheOther) {
  for (const auto& [radius, across] : {std::pair(6.0, 6.0), std::pair(8.0, 3.0), std::pair(5.0, 7.0)}) {
    const Shape body = crossed(radius, across);
    const std::vector<Opening> openings = openingsOf(body);
    ASSERT_EQ(openings.size(), 2u) << across;
    for (int i = 0; i < 2; ++i) {
      Progress progress;
      const FilledOpenings closed = filled(body, openings, {i}, progress);
      const Opening& its = openings[static_cast<std::size_t>(i)];
      const double length = std::abs(its.frame.normal.x) > 0.5 ? 60 : 40;
      ASSERT_EQ(closed.fillings.size(), 1u);
      EXPECT_NEAR(closed.fillings[0].volume(), pi * its.diameter * its.diameter / 4 * length, 1e-6 * block) << across;
      ASSERT_EQ(closed.again.size(), 1u);
      const Shape after = cut(closed.body, closed.again);
      const Opening& other = openings[static_cast<std::size_t>(1 - i)];
      const double left = std::abs(other.frame.normal.x) > 0.5 ? 60 : 40;
      EXPECT_NEAR(after.volume(), block - pi * other.diameter * other.diameter / 4 * left, 1e-6 * block) << across;
      EXPECT_EQ(openingsOf(after).size(), 1u) << across;
      EXPECT_TRUE(after.valid() && after.watertight());
    }
    Progress progress;
    const FilledOpenings both = filled(body, openings, {0, 1}, progress);
    EXPECT_NEAR(both.body.volume(), block, 1e-6 * block);
    EXPECT_TRUE(both.again.empty());
  }
}

TEST(Crossing, BlindHolesThatMeetAreTwoAndThoseBesideEachOtherOne) {
  const Shape body =
      cut(plain(), {bore("x", {-1, 20, 15}, {1, 0, 0}, 5, 41), bore("z", {30, 20, 31}, {0, 0, -1}, 5, 26)});
  const std::vector<Opening> openings = openingsOf(body);
  ASSERT_EQ(openings.size(), 2u);
  Progress progress;
  for (int i = 0; i < 2; ++i) {
    const FilledOpenings closed = filled(body, openings, {i}, progress);
    const Shape after = cut(closed.body, closed.again);
    const bool along = std::abs(openings[static_cast<std::size_t>(i)].frame.normal.x) > 0.5;
    EXPECT_NEAR(after.volume(), block - pi * 25 * (along ? 25 : 40), 1e-6 * block);
  }
  // Two parallel ones that overlap are one opening, as they always were.
  EXPECT_EQ(
      openingsOf(cut(plain(), {bore("p", {20, 20, -1}, {0, 0, 1}, 6, 32), bore("q", {28, 20, -1}, {0, 0, 1}, 6, 32)}))
          .size(),
      1u);
}

}  // namespace
}  // namespace kervo
