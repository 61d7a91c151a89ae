#include "drawing/text_outline.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "base/error.h"
#include "drawing/drawing_result.h"
#include "drawing/drawn_by_hand.h"
#include "drawing/regions.h"
#include "drawing_builder.h"

namespace kervo {
namespace {

using testing::HasSubstr;

std::vector<Region> regionsOf(const std::string& text, double height) {
  Progress progress;
  return findRegions({}, textOutline("t", text, height, {}), progress);
}

PlaneBox boxOf(const std::vector<PlanarCurve>& curves) {
  PlaneBox box{{1e9, 1e9}, {-1e9, -1e9}};
  for (const PlanarCurve& curve : curves)
    for (int i = 0; i <= 32; ++i) {
      const PlanePoint at = curve.geometry->at(i / 32.0);
      box.low = {std::min(box.low.u, at.u), std::min(box.low.v, at.v)};
      box.high = {std::max(box.high.u, at.u), std::max(box.high.v, at.v)};
    }
  return box;
}

TEST(TextOutline, CapitalsAreAsHighAsAsked) {
  for (const double height : {2.0, 7.5, 100.0}) {
    const PlaneBox box = boxOf(textOutline("t", "HEFT", height, {}));
    EXPECT_NEAR(box.low.v, 0, 1e-9);
    EXPECT_NEAR(box.high.v, height, 1e-9);
  }
}

TEST(TextOutline, LettersHaveTheirHolesAndNames) {
  // O, e and 8 have one, one and two holes: each letter is a region with its islands, which are regions as well.
  const auto regions = regionsOf("O8i", 10);
  int islands = 0;
  std::set<std::string> letters;
  for (const Region& region : regions) {
    islands += region.islandCount();
    letters.insert(region.name().substr(0, 3));
  }
  EXPECT_EQ(regions.size(), 1u + 1 + 1 + 2 + 2) << "an i has two parts";
  EXPECT_EQ(islands, 3);
  EXPECT_EQ(letters, (std::set<std::string>{"t:1", "t:2", "t:3"}));
  EXPECT_TRUE(regionsOf("l", 10).front().name().starts_with("t:1"));
}

TEST(TextOutline, AreasGrowWithTheSquareOfTheHeight) {
  const auto area = [](double height) {
    double sum = 0;
    for (const Region& region : regionsOf("Kervo 42", height)) sum += region.area();
    return sum;
  };
  EXPECT_NEAR(area(20) / area(10), 4, 1e-9);
  // The bar of a hyphen is a rectangle.
  const auto hyphen = regionsOf("-", 10);
  ASSERT_EQ(hyphen.size(), 1u);
  const PlaneBox box = boxOf(textOutline("t", "-", 10, {}));
  EXPECT_NEAR(hyphen[0].area(), (box.high.u - box.low.u) * (box.high.v - box.low.v), 1e-9);
}

TEST(TextOutline, LettersAreKerned) {
  const auto width = [](const std::string& text) { return boxOf(textOutline("t", text, 10, {})).high.u; };
  EXPECT_LT(width("AV"), width("AH") - 0.2) << "the V leans over the A";
}

TEST(TextOutline, SaysWhatItCannotWrite) {
  try {
    textOutline("t", "wind \xF0\x9F\x8C\xAC vane", 10, {});
    FAIL();
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("the font has no letter \"\xF0\x9F\x8C\xAC\""));
  }
  EXPECT_THROW(textOutline("t", "   ", 10, {}), Error);
  EXPECT_THROW(textOutline("t", "a", 0, {}), Error);
}

TEST(TextOutline, AsACurveOfADrawingItFollowsItsPointAndNumbers) {
  DrawingBuilder made;
  const std::string start = made.point(3, 4);
  made.drawing.curves.push_back({.id = "t1",
                                 .kind = "text",
                                 .numbers = {Expression("8 mm"), Expression("90 deg")},
                                 .points = {start},
                                 .text = "IH"});
  made.values.numbers.push_back({8, std::numbers::pi / 2});
  made.hold("coincident", {start, originId});
  const Solution solution = made.solved();
  EXPECT_EQ(solution.freedoms, 0);
  const PlaneBox box = boxOf(curvesOf(made.drawing, made.values, solution, true));
  EXPECT_NEAR(box.low.u, -8, 1e-9);
  EXPECT_NEAR(box.high.u, 0, 1e-9);
  // No constraint can be on the letters themselves.
  EXPECT_THROW(requireSound([&] {
                 Drawing wrong = made.drawing;
                 wrong.constraints.push_back({.id = "k9", .kind = "horizontal", .on = {"t1"}});
                 return wrong;
               }()),
               Error);
}

TEST(TextOutline, DrawnByHandItIsAsLongAsTheStroke) {
  const Drawing drawn = withStroke({}, {}, "text", Stroke::between({0, 0}, {60, 0}, 0.1));
  ASSERT_EQ(drawn.curves.size(), 1u);
  EXPECT_EQ(drawn.curves[0].numbers[1].text(), "0 deg");
  const double height = std::stod(drawn.curves[0].numbers[0].text());
  EXPECT_NEAR(boxOf(textOutline("t", drawn.curves[0].text, height, {})).high.u, 60, 3);
}

}  // namespace
}  // namespace kervo
