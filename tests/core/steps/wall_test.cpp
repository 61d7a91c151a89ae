// Walls along lines: areas by hand for corners, tees, arcs and sides.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

DrawnCurve curve(const char* id, const char* kind, std::initializer_list<const char*> numbers) {
  DrawnCurve made{id, kind, {}};
  for (const char* number : numbers) made.numbers.emplace_back(number);
  return made;
}

Model wall(std::vector<DrawnCurve> lines, std::map<std::string, FieldValue> more = {}) {
  std::map<std::string, FieldValue> fields{
      {"lines", RegionPick{.drawing = "d"}}, {"thickness", Expression("200 mm")}, {"height", Expression("1 m")}};
  for (auto& [key, value] : more) fields.insert_or_assign(key, value);
  return made(documentOf({drawing("d", PlanePick::standard("xy"), std::move(lines)), step("w", "wall", fields)}));
}
double areaOf(const Model& model) {
  EXPECT_EQ(errorOf(model, "w"), "no error");
  return volume(model, "w") / 1000;
}

TEST(WallStep, CornersAreClosedOnEitherSide) {
  const std::vector<DrawnCurve> corner{curve("a", "line", {"0", "0", "4 m", "0"}),
                                       curve("b", "line", {"4 m", "0", "4 m", "3 m"})};
  EXPECT_NEAR(areaOf(wall(corner)), 200.0 * (4000 + 3000), 1e-3) << "the outer corner makes up for the inner one";
  EXPECT_NEAR(areaOf(wall(corner, {{"side", text("left")}})), 200.0 * (4000 + 3000 - 200), 1e-3) << "inside";
  EXPECT_NEAR(areaOf(wall(corner, {{"side", text("right")}})), 200.0 * (4000 + 3000 + 200), 1e-3) << "outside";
  // Whichever way the second line was drawn.
  const std::vector<DrawnCurve> turned{corner[0], curve("b", "line", {"4 m", "3 m", "4 m", "0"})};
  EXPECT_NEAR(areaOf(wall(turned, {{"side", text("left")}})), 200.0 * (4000 + 3000 - 200), 1e-3);
  EXPECT_EQ(wall(corner).find("w")->shape().faceCount(), 8);
}

TEST(WallStep, ARoomWithATeeIsOneBody) {
  const Model model = wall({curve("a", "line", {"0", "0", "6 m", "0"}), curve("b", "line", {"6 m", "0", "6 m", "4 m"}),
                            curve("c", "line", {"6 m", "4 m", "0", "4 m"}), curve("e", "line", {"0", "4 m", "0", "0"}),
                            curve("t", "line", {"2 m", "0", "2 m", "4 m"})});
  EXPECT_NEAR(areaOf(model), 6200.0 * 4200 - 5800.0 * 3800 + 3800.0 * 200, 1e-2);
  EXPECT_EQ(model.find("w")->shape().solidCount(), 1);
  EXPECT_TRUE(model.find("w")->shape().watertight());
}

TEST(WallStep, FollowsArcsCirclesAndSharpTurns) {
  EXPECT_NEAR(areaOf(wall({curve("a", "line", {"0", "0", "2 m", "0"}),
                           curve("b", "arc", {"2 m", "1 m", "1 m", "-90 deg", "0 deg"}),
                           curve("c", "line", {"3 m", "1 m", "3 m", "3 m"})})),
              200 * (2000 + pi / 2 * 1000 + 2000), 1e-2);
  EXPECT_NEAR(areaOf(wall({circle("k", "0", "0", "2 m")})), pi * (2100.0 * 2100 - 1900.0 * 1900), 1e-1);
  // Three at 120°: each runs to the middle.
  const double y = 200 * (1000 * 3) - 3 * 100.0 * 100 / std::tan(pi / 3);
  EXPECT_NEAR(areaOf(wall({curve("a", "line", {"0", "0", "1 m", "0"}),
                           curve("b", "line", {"0", "0", "-500 mm", "866.0254037844386 mm"}),
                           curve("c", "line", {"0", "0", "-500 mm", "-866.0254037844386 mm"})})),
              y, 1e-2);
  EXPECT_THAT(errorOf(wall({curve("b", "arc", {"0", "0", "50 mm", "0 deg", "90 deg"})}), "w"),
              HasSubstr("bent too tightly"));
}

TEST(WallStep, IsJoinedToStock) {
  std::vector<Step> steps{block("slab", "6 m", "4 m", "200 mm", {"-1 m", "-1 m", "-200 mm"}),
                          drawing("d", PlanePick::standard("xy"), {curve("a", "line", {"0", "0", "4 m", "0"})}),
                          step("w", "wall",
                               {{"lines", RegionPick{.drawing = "d"}},
                                {"thickness", Expression("200 mm")},
                                {"height", Expression("2 m")},
                                {"then", text("joined")},
                                {"stock", bodies({"slab"})}})};
  const Model model = made(documentOf(steps));
  ASSERT_EQ(errorOf(model, "w"), "no error");
  EXPECT_NEAR(volume(model, "slab"), 6000.0 * 4000 * 200 + 200.0 * 4000 * 2000, 1);
}

}  // namespace
}  // namespace kervo
