// Keys of other forms and at other places: dovetails, drawn outlines, rings, grids, along the border, where drawn.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "geom/divide/boolean.h"
#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

/// One block on another, 60 × 40 and 15 high each; pegs 4 mm wide and 5 mm deep, plain, alike.
Model keyed(Fields fields, std::vector<Step> before = {}) {
  std::vector<Step> steps{block("low", "60 mm", "40 mm", "15 mm"),
                          block("high", "60 mm", "40 mm", "15 mm", {"0", "0", "15 mm"})};
  steps.insert(steps.end(), before.begin(), before.end());
  fields.emplace("faces", std::vector<FaceReference>{{"low", "low:top", std::nullopt}});
  fields.emplace("width", expression("4 mm"));
  fields.emplace("depth", expression("5 mm"));
  fields.emplace("tip", expression("0"));
  fields.emplace("unique", false);
  steps.push_back(step("k", "key", std::move(fields)));
  return made(documentOf(steps));
}
constexpr double half = 60.0 * 40 * 15;
const double peg = 4 * pi * 5;

std::vector<std::string> warningsOf(const Model& model) {
  return report(model, "k").result->audit.warnings;
}
std::size_t overlaps(const Model& model) {
  Progress progress;
  return intersect({model.find("low")->shape(), model.find("high")->shape()}, progress).empty() ? 0 : 1;
}
/// The boxes of all faces that pegs made on the lower block, seen from above.
std::vector<Point> tops(const Model& model) {
  std::vector<Point> points;
  for (const Face& face : facesOf(model.find("low")->shape()))
    if (const auto plane = face.plane(); plane && plane->normal.z > 0.9 && face.middle().z > 16)
      points.push_back(face.middle());
  return points;
}

TEST(KeyPlaces, OnARing) {
  const Model model = keyed({{"placing", text("ring")}, {"ring", expression("20 mm")}, {"count", expression("5")}});
  ASSERT_EQ(errorOf(model, "k"), "no error");
  EXPECT_NEAR(volume(model, "low"), half + 5 * peg, 1e-3);
  ASSERT_EQ(tops(model).size(), 5u);
  for (const Point& top : tops(model)) EXPECT_NEAR(std::hypot(top.x - 30, top.y - 20), 10, 1e-6);
  const Model wide = keyed({{"placing", text("ring")}, {"ring", expression("44 mm")}, {"count", expression("4")}});
  EXPECT_EQ(tops(wide).size(), 2u) << "the others would lie off the block";
  EXPECT_THAT(warningsOf(wide), Contains(HasSubstr("2 places have no room")));
}

TEST(KeyPlaces, InRows) {
  const Model model = keyed({{"placing", text("grid")}, {"apart", expression("15 mm")}});
  ASSERT_EQ(errorOf(model, "k"), "no error");
  EXPECT_EQ(tops(model).size(), 9u) << "the outer columns lie on the border";
  EXPECT_NEAR(volume(model, "low"), half + 9 * peg, 1e-3);
}

TEST(KeyPlaces, AlongTheBorder) {
  const Model model =
      keyed({{"placing", text("along the outline")}, {"inset", expression("5 mm")}, {"count", expression("10")}});
  ASSERT_EQ(errorOf(model, "k"), "no error");
  ASSERT_EQ(tops(model).size(), 10u);
  for (const Point& top : tops(model))
    EXPECT_NEAR(std::min({top.x, top.y, 60 - top.x, 40 - top.y}), 5, 1e-4) << top.x << " " << top.y;
}

TEST(KeyPlaces, WhereDrawn) {
  const Step drawn = drawing("d", PlanePick::standard("xy"),
                             {circle("a", "10 mm", "10 mm", "1 mm"), circle("b", "40 mm", "22 mm", "1 mm")});
  const Model model = keyed({{"placing", text("drawn")}, {"places", allOf("d")}}, {drawn});
  ASSERT_EQ(errorOf(model, "k"), "no error");
  ASSERT_EQ(tops(model).size(), 2u);
  for (const Point& top : tops(model)) {
    const bool first = top.x < 25;
    EXPECT_NEAR(top.x, first ? 10 : 40, 1e-6);
    EXPECT_NEAR(top.y, first ? 10 : 22, 1e-6);
  }
}

TEST(KeyForms, AsDrawn) {
  const Step drawn = drawing("d", PlanePick::standard("xy"), {rectangle("r", "100 mm", "7 mm", "8 mm", "3 mm")});
  const Model model =
      keyed({{"form", text("drawn")}, {"outline", allOf("d")}, {"clearance", expression("0.2 mm")}}, {drawn});
  ASSERT_EQ(errorOf(model, "k"), "no error");
  EXPECT_NEAR(volume(model, "low"), half + 2 * 8 * 3 * 5, 1e-3);
  EXPECT_NEAR(volume(model, "high"), half - 2 * 8.4 * 3.4 * 5.5, 1e-3) << "with room at the end";
  EXPECT_EQ(overlaps(model), 0u);
  for (const Point& top : tops(model)) EXPECT_GT(top.x, 4 + 1.5);
  EXPECT_THAT(report(model, "k").result->audit.notes, Contains(HasSubstr("2 pegs as drawn, 5 mm deep")));
  const Step two = drawing("d", PlanePick::standard("xy"),
                           {circle("a", "10 mm", "10 mm", "1 mm"), circle("b", "40 mm", "22 mm", "1 mm")});
  EXPECT_THAT(errorOf(keyed({{"form", text("drawn")}, {"outline", allOf("d")}}, {two}), "k"), HasSubstr("one outline"));
}

TEST(KeyForms, Dovetails) {
  const Model model = keyed({{"form", text("dovetail")}, {"flare", expression("20 deg")}, {"count", expression("2")}});
  ASSERT_EQ(errorOf(model, "k"), "no error");
  const double lean = std::tan(20 * pi / 180), rail = 5 * (4 + 5 * lean);
  EXPECT_NEAR(volume(model, "low"), half + 2 * 60 * rail, 1e-2);
  // The socket is wider by the clearance on its flanks, and deeper by the room at its end.
  const double neck = 4 + 2 * 0.1 / std::cos(20 * pi / 180), socket = 5.5 * (neck + 5.5 * lean);
  EXPECT_NEAR(volume(model, "high"), half - 2 * 60 * socket, 1e-2);
  EXPECT_EQ(overlaps(model), 0u);
  EXPECT_THAT(report(model, "k").result->audit.notes, Contains(HasSubstr("2 dovetail pegs, 4 mm wide")));
  const Model across = keyed({{"form", text("dovetail")}, {"count", expression("1")}, {"turn", expression("90 deg")}});
  ASSERT_EQ(errorOf(across, "k"), "no error");
  EXPECT_NEAR(volume(across, "low"), half + 40 * 5 * (4 + 5 * std::tan(15 * pi / 180)), 1e-2);
  EXPECT_THAT(errorOf(keyed({{"form", text("dovetail")}, {"flare", expression("80 deg")}}), "k"),
              HasSubstr("does not hold"));
}

}  // namespace
}  // namespace kervo
