#include "base/quantity.h"

#include <gtest/gtest.h>

#include <cmath>

#include <numbers>

namespace kervo {
namespace {

TEST(Quantity, IsWrittenInTheUnitOfItsKind) {
  const Unit mm = *findUnit("mm"), inch = *findUnit("in");
  EXPECT_EQ(format({25.4, lengthDimension}, mm), "25.4 mm");
  EXPECT_EQ(format({25.4, lengthDimension}, inch), "1 in");
  EXPECT_EQ(format({645.16, {2, 0}}, inch), "1 in^2");
  EXPECT_EQ(format({std::numbers::pi / 2, angleDimension}, mm), "90 deg");
  EXPECT_EQ(format({0.25, plainNumber}, mm), "0.25");
  EXPECT_EQ(format({-0.0, lengthDimension}, mm), "0 mm");
}

TEST(Quantity, NamesWhatItMeasures) {
  EXPECT_EQ(plainNumber.name(), "a plain number");
  EXPECT_EQ(lengthDimension.name(), "a length");
  EXPECT_EQ((Dimensionality{2, 0}).name(), "an area");
  EXPECT_EQ((Dimensionality{3, 0}).name(), "a volume");
  EXPECT_EQ((Dimensionality{1, 1}).name(), "mm^1 rad^1");
}

TEST(Quantity, KnowsItsUnits) {
  EXPECT_EQ(unitsEnd() - unitsBegin(), 7);
  for (const Unit* unit = unitsBegin(); unit != unitsEnd(); ++unit)
    EXPECT_EQ(findUnit(unit->name)->factor, unit->factor);
  EXPECT_FALSE(findUnit("MM"));
  EXPECT_FALSE(findUnit(""));
}

TEST(Quantity, NumbersAreAsShortAsTheirDigitsAllow) {
  EXPECT_EQ(formatNumber(2), "2");
  EXPECT_EQ(formatNumber(2.50), "2.5");
  EXPECT_EQ(formatNumber(1e20), "1e+20");
  EXPECT_EQ(formatNumber(1.0 / 3, 3), "0.333");
}

TEST(Quantity, WhatRoundingLeavesOfZeroIsZero) {
  EXPECT_EQ(format({-2.22e-16, lengthDimension}, *findUnit("mm"), 6), "0 mm");
  EXPECT_EQ(format({-0.0, lengthDimension}, *findUnit("mm"), 6), "0 mm");
  EXPECT_EQ(format({-1e-7, lengthDimension}, *findUnit("mm"), 6), "-1e-07 mm");
  EXPECT_FALSE(std::signbit(withoutRounding(-0.0)));
}

}  // namespace
}  // namespace kervo
