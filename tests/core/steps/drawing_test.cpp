// Drawings with constraints as steps: what is cut with them, against formulas.
#include <gmock/gmock.h>

#include <nlohmann/json.hpp>
#include <numbers>

#include "fields/drawing_field.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

/// A drawing on xy as a file has it.
Step drawn(const std::string& json) {
  const StepKind* kind = allStepKinds().find("drawing");
  return step("d", "drawing", {{"curves", kind->field("curves")->fromJson(nlohmann::json::parse(json), "here")}});
}

Step extruded(const std::string& height) {
  return step("e", "extrude", {{"profiles", allOf("d")}, {"height", Expression(height)}});
}

/// A slot about the origin: two lines and two arcs that touch them, by its length between the centres and its width.
constexpr const char* slot = R"({
  "points": [{"id": "m", "at": [-10, 0]}, {"id": "n", "at": [11, 1]}, {"id": "a", "at": [-10, -4]},
             {"id": "b", "at": [10, -4]}, {"id": "c", "at": [10, 4]}, {"id": "d", "at": [-9, 4]}],
  "curves": [{"id": "bottom", "line": {"points": ["a", "b"]}}, {"id": "right", "arc": {"points": ["n", "b", "c"]}},
             {"id": "top", "line": {"points": ["c", "d"]}}, {"id": "left", "arc": {"points": ["m", "d", "a"]}},
             {"id": "middle", "line": {"points": ["m", "n"]}, "construction": true}],
  "constraints": [{"id": "k1", "tangent": ["bottom", "right"]}, {"id": "k2", "tangent": ["right", "top"]},
                  {"id": "k3", "tangent": ["top", "left"]}, {"id": "k4", "tangent": ["left", "bottom"]},
                  {"id": "k5", "equal": ["left", "right"]}, {"id": "k6", "horizontal": ["middle"]},
                  {"id": "k7", "midpoint": ["origin", "middle"]},
                  {"id": "k8", "length": ["middle"], "is": "reach"}, {"id": "k9", "diameter": ["left"], "is": "wide"}]
})";

TEST(DrawingStep, FollowsItsDimensions) {
  for (const auto& [reach, wide] : {std::pair(20.0, 8.0), {60.0, 8.0}, {3.0, 30.0}, {0.5, 1.0}}) {
    Document document = documentOf({drawn(slot), extruded("5 mm")});
    document.made.dimensions = {{"reach", Expression(std::to_string(reach) + " mm")},
                                {"wide", Expression(std::to_string(wide) + " mm")}};
    const Model model = made(document);
    ASSERT_FALSE(model.failed()) << errorOf(model, "d");
    const double area = reach * wide + pi * wide * wide / 4;
    EXPECT_NEAR(volume(model, "e"), 5 * area, 1e-7 * area) << reach << " " << wide;
    const DrawingResult* drawing = report(model, "d").drawing();
    EXPECT_EQ(drawing->solution.freedoms, 0);
    EXPECT_THAT(drawing->regions, testing::SizeIs(1)) << "the construction line divides nothing";
  }
}

TEST(DrawingStep, FailsWithTheSmallestContradiction) {
  std::string text = slot;
  text.insert(text.rfind(']'), R"(, {"id": "extra", "radius": ["right"], "is": "9 mm"})");
  Document document = documentOf({drawn(text), extruded("5 mm")});
  document.made.dimensions = {{"reach", Expression("20 mm")}, {"wide", Expression("8 mm")}};
  const Model model = made(document);
  EXPECT_THAT(errorOf(model, "d"), HasSubstr("the constraint extra (radius) contradicts k5 (equal), k9 (diameter)"));
  ASSERT_TRUE(report(model, "d").finding);
  EXPECT_THAT(report(model, "d").finding->conflicts.at(0).with, ElementsAre("k5", "k9"));
}

TEST(DrawingStep, SaysWhichValueCannotHold) {
  Document document = documentOf({drawn(slot), extruded("5 mm")});
  document.made.dimensions = {{"reach", Expression("20 mm")}, {"wide", Expression("-8 mm")}};
  EXPECT_THAT(errorOf(made(document), "d"), HasSubstr("k9 (diameter) cannot hold: it is not greater than zero"));
}

TEST(DrawingStep, NamesWhatIsNotSound) {
  EXPECT_THAT(errorOf(made(documentOf({drawn(R"({"curves": [{"id": "l", "line": {"points": ["p", "q"]}}]})")})), "d"),
              HasSubstr("the drawing has no point \"p\""));
}

TEST(DrawingStep, EllipsesAndSplinesAreExtruded) {
  const Model ellipse = made(documentOf({drawn(R"({"points": [{"id": "c", "at": [3, 2]}, {"id": "e", "at": [9, 10]}],
                 "curves": [{"id": "o", "ellipse": {"points": ["c", "e"], "sizes": [4]}}]})"),
                                         extruded("3 mm")}));
  EXPECT_NEAR(volume(ellipse, "e"), 3 * 40 * pi, 1e-6);
  const Model parabola = made(documentOf(
      {drawn(R"({"points": [{"id": "a", "at": [0, 0]}, {"id": "b", "at": [5, 10]}, {"id": "c", "at": [10, 0]}],
                 "curves": [{"id": "s", "control_spline": {"points": ["a", "b", "c"], "degree": 2}},
                            {"id": "l", "line": {"points": ["a", "c"]}}]})"),
       extruded("3 mm")}));
  EXPECT_NEAR(volume(parabola, "e"), 100, 1e-6);
}

TEST(DrawingStep, AnEllipticalHoleIsCutAndVolumesBalance) {
  const Model model = made(documentOf(
      {block("b", "40", "30", "10"), drawn(R"({"points": [{"id": "c", "at": [20, 15]}, {"id": "e", "at": [30, 15]}],
                 "curves": [{"id": "o", "ellipse": {"points": ["c", "e"], "sizes": [5]}}]})"),
       step("x", "cut", {{"profiles", allOf("d")}, {"way", std::string("both")}, {"to", std::string("through")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "x");
  EXPECT_NEAR(volume(model, "b"), 12000 - 500 * pi, 1e-5);
}

}  // namespace
}  // namespace kervo
