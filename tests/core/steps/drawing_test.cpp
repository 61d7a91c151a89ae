// Drawings with constraints as steps: what is cut with them, against formulas.
#include <gmock/gmock.h>

#include <nlohmann/json.hpp>
#include <numbers>

#include "drawing/region_names.h"
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

/// A plate 100 × 60 with `n` holes of radius 2 in a ring about its middle, as drawn curves.
constexpr const char* ring = R"({
  "curves": [{"id": "plate", "rectangle": ["-50", "-30", "100", "60"]}, {"id": "c", "circle": ["20", "0", "2"]}],
  "copies": [{"id": "ring1", "ring": ["c"], "about": "origin", "count": "n", "angle": "360 deg"}]
})";

TEST(DrawingStep, BadInputIsNamedOrHarmless) {
  // Circles that lie on each other enclose one region.
  const Model same = made(documentOf(
      {drawn(R"({"curves": [{"id": "a", "circle": ["0", "0", "5"]}, {"id": "b", "circle": ["0", "0", "5"]}]})"),
       extruded("2 mm")}));
  EXPECT_NEAR(volume(same, "e"), 50 * pi, 1e-9);
  EXPECT_THAT(errorOf(made(documentOf({drawn(R"({"points": [{"id": "p", "at": [1, 1]}, {"id": "q", "at": [1, 1]}],
                                                 "curves": [{"id": "a", "line": {"points": ["p", "q"]}}]})")})),
                      "d"),
              HasSubstr("the line has no length"));
  Document negative = documentOf({drawn(
      R"({"points": [{"id": "p", "at": [0, 0]}], "curves": [{"id": "a", "circle": {"points": ["p"], "sizes": [5]}}],
                                            "constraints": [{"id": "k", "radius": ["a"], "is": "r - 7 mm"}]})")});
  negative.made.dimensions = {{"r", Expression("5 mm")}};
  EXPECT_THAT(errorOf(made(negative), "d"), HasSubstr("k (radius) cannot hold: it is not greater than zero"));
  // A face that vanishes under its drawing: the drawing fails, the body stays.
  const std::vector<EdgeReference> edge{{"b", "b:top", "b:left", {}}};
  Document gone = documentOf({block("b", "40", "30", "20"),
                              step("c", "chamfer", {{"edges", edge}, {"distance", Expression("3 mm")}}),
                              drawing("d", onFace("b", "c:chamfer:(b:left|b:top)"), {circle("k", "0", "0", "1")}),
                              step("e", "cut", {{"profiles", allOf("d")}})});
  ASSERT_FALSE(made(gone).failed());
  const Model without = made(gone.withReplaced(gone.find("c")->switched(false)));
  EXPECT_THAT(errorOf(without, "d"), HasSubstr("is no longer there"));
  EXPECT_NEAR(volume(without, "b"), 24000, 1e-9);
}

TEST(DrawingStep, ASplineThatCrossesItselfMakesTwoSoundBodies) {
  const Model model = made(documentOf(
      {drawn(
           R"({"points": [{"id": "a", "at": [0, 0]}, {"id": "b", "at": [30, 30]}, {"id": "c", "at": [-20, 30]}, {"id": "e", "at": [10, 0]}],
    "curves": [{"id": "s", "control_spline": {"points": ["a", "b", "c", "e"], "degree": 3}}, {"id": "l", "line": {"points": ["e", "a"]}}]})"),
       extruded("10 mm")}));
  ASSERT_EQ(errorOf(model, "e"), "no error");
  ASSERT_EQ(model.bodies.size(), 2u);
  double sum = 0;
  for (const Body& body : model.bodies) {
    EXPECT_TRUE(body.shape().valid());
    EXPECT_TRUE(body.shape().watertight());
    sum += body.shape().volume();
  }
  double regions = 0;
  for (const Region& region : report(model, "d").drawing()->regions) regions += region.area();
  EXPECT_NEAR(sum, 10 * regions, 1e-6);
}

TEST(DrawingStep, TenThousandCirclesAreRegions) {
  std::vector<DrawnCurve> circles;
  for (int i = 0; i < 10'000; ++i)
    circles.push_back(
        {"c" + std::to_string(i),
         "circle",
         {Expression(std::to_string(i % 100 * 3)), Expression(std::to_string(i / 100 * 3)), Expression("1 mm")}});
  const Model model = made(documentOf({step("d", "drawing", {{"curves", Drawing::of(circles)}})}));
  EXPECT_EQ(report(model, "d").drawing()->regions.size(), 10'000u);
}

TEST(DrawingStep, OnATangentPlaneOfACurvedFace) {
  // A boss of 4 × 6 on a rod, 3 beyond its radius: where it stands follows the radius.
  for (const double radius : {10.0, 25.0}) {
    const PlanePick plane = PlanePick::tangent(FaceReference{"rod", "rod:side", {}}, {3, 4, 7});
    Document document = documentOf(
        {step("rod", "cylinder", {{"radius", Expression("r")}, {"height", Expression("30 mm")}}),
         step("d", "drawing",
              {{"plane", plane},
               {"curves",
                Drawing::of(
                    {{"f", "rectangle", {Expression("-2"), Expression("-3"), Expression("4"), Expression("6")}}})}}),
         extruded("3 mm")});
    document.made.dimensions = {{"r", Expression(std::to_string(radius) + " mm")}};
    const Model model = made(document);
    ASSERT_EQ(errorOf(model, "d"), "no error");
    const Plane found = report(model, "d").drawing()->plane;
    EXPECT_NEAR(distance(found.origin, {0.6 * radius, 0.8 * radius, 7}), 0, 1e-9);
    EXPECT_NEAR(dot(found.normal, Vector{0.6, 0.8, 0}), 1, 1e-12);
    EXPECT_NEAR(volume(model, "e"), 72, 1e-9);
    const Point middle = model.find("e")->shape().box().centre();
    EXPECT_NEAR(std::hypot(middle.x, middle.y), radius + 1.5, 1e-6);
  }
  const auto errorFor = [](const FaceReference& face, Point near) {
    return errorOf(
        made(documentOf(
            {step("c", "cone",
                  {{"bottom", Expression("10 mm")}, {"top", Expression("0")}, {"height", Expression("10 mm")}}),
             step("d", "drawing", {{"plane", PlanePick::tangent(face, near)}})})),
        "d");
  };
  EXPECT_THAT(errorFor({"c", "c:side", {}}, {0, 0, 10}), HasSubstr("the face has no normal there"));
}

TEST(DrawingStep, PicksOfCopiesMeanAsManyAsThereAre) {
  for (const int n : {1, 2, 3, 8}) {
    const auto picked = [&](std::vector<std::string> regions, bool asCutters) {
      const RegionPick pick{"d", false, std::move(regions)};
      std::vector<Step> steps{drawn(ring)};
      if (asCutters) {
        steps.insert(steps.begin(), block("b", "100", "60", "5", {"-50", "-30", "-2"}));
        steps.push_back(step("e", "split", {{"cutters", std::vector<CutterPick>{CutterPick::of(pick)}}}));
      } else {
        steps.push_back(step("e", "extrude", {{"profiles", pick}, {"height", expression("5 mm")}}));
      }
      Document document = documentOf(steps);
      document.made.dimensions = {{"n", Expression(std::to_string(n))}};
      return made(document);
    };
    SCOPED_TRACE(n);
    const Model holes = picked({"c+", "ring1:*:c+"}, false);
    ASSERT_EQ(errorOf(holes, "e"), "no error");
    double sum = 0;
    for (const Body& body : holes.bodies) sum += body.shape().volume();
    EXPECT_NEAR(sum, n * 5 * 4 * pi, 1e-7);
    // The region around them is the same pick, too.
    const Model plate = picked({"c-.plate+.ring1:*:c-"}, false);
    ASSERT_EQ(errorOf(plate, "e"), "no error");
    EXPECT_NEAR(plate.bodies.front().shape().volume(), 5 * (6000 - n * 4 * pi), 1e-6);
    const Model split = picked({"c+", "ring1:*:c+", "c+"}, true);
    ASSERT_EQ(errorOf(split, "e"), "no error");
    EXPECT_EQ(split.bodies.size(), static_cast<std::size_t>(n) + 1);
  }
}

TEST(DrawingStep, APickOfCopiesThatAreNoneFails) {
  const RegionPick pick{"d", false, {"ring2:*:c+"}};
  Document document = documentOf({drawn(ring), step("e", "extrude", {{"profiles", pick}})});
  document.made.dimensions = {{"n", Expression("3")}};
  EXPECT_THAT(errorOf(made(document), "e"), HasSubstr("the drawing has no region \"ring2:*:c+\" any more"));
}

TEST(DrawingStep, AllCopiesThatAreTakenBecomeOnePick) {
  Document document = documentOf({drawn(ring)});
  document.made.dimensions = {{"n", Expression("3")}};
  const Model model = made(document);
  const std::vector<Region>& regions = report(model, "d").drawing()->regions;
  EXPECT_THAT(picksOf({"c+", "ring1:2:c+", "ring1:3:c+"}, regions), ElementsAre("c+", "ring1:*:c+"));
  EXPECT_THAT(picksOf({"c+", "ring1:3:c+"}, regions), ElementsAre("c+", "ring1:3:c+"));
  EXPECT_EQ(patternOf("a.b+.row1:2:ring1:13:c-.x:y#2"), "a.b+.row1:*:ring1:*:c-");
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

/// A drawing at z = 30 with what it takes along and curves, as a file has them.
Step takingAlong(const std::string& taken, const std::string& curves) {
  const StepKind* kind = allStepKinds().find("drawing");
  const auto value = [&](const char* field, const std::string& json) {
    return kind->field(field)->fromJson(nlohmann::json::parse(json), "here");
  };
  return step("d", "drawing", {{"taken", value("taken", taken)}, {"curves", value("curves", curves)}});
}

TEST(DrawingStep, WhatIsTakenAlongFollowsTheBody) {
  // A clearance of 0.2 mm round a shaft is one step: its rim, and an offset of it.
  for (const double radius : {8.0, 11.5}) {
    Document document = documentOf(
        {step("shaft", "cylinder", {{"radius", expression("r")}, {"height", expression("20 mm")}}),
         takingAlong(R"([{"id": "rim", "outline": {"body": "shaft", "face": "shaft:top"}, "construction": true}])",
                     R"({"copies": [{"id": "gap", "offset": ["rim"], "by": "0.2 mm"}]})"),
         extruded("5 mm")});
    document.made.dimensions = {{"r", Expression(std::to_string(radius) + " mm")}};
    const Model model = made(document);
    ASSERT_FALSE(model.failed()) << errorOf(model, "d");
    EXPECT_NEAR(volume(model, "e"), 5 * pi * (radius + 0.2) * (radius + 0.2), 1e-7);
  }
}

TEST(DrawingStep, EdgesOutlinesSilhouettesAndSectionsComeAlong) {
  // The plane xy goes through the middle of a ball on a foot that is wider below.
  const std::vector<Step> bodies{
      block("foot", "30 mm", "20 mm", "10 mm", {"-15 mm", "-10 mm", "-20 mm"}),
      step("ball", "sphere", {{"radius", expression("6 mm")}, {"at", test::point("1 mm", "2 mm", "0")}})};
  const auto areaOf = [&](const std::string& taken) {
    std::vector<Step> steps = bodies;
    steps.push_back(takingAlong(taken, "[]"));
    const Model model = made(documentOf(steps));
    EXPECT_EQ(errorOf(model, "d"), "no error");
    double area = 0;
    for (const Region& region : report(model, "d").drawing()->regions) area += region.area();
    return area;
  };
  EXPECT_NEAR(areaOf(R"([{"id": "t", "outline": "foot:top"}])"), 600, 1e-9);
  EXPECT_NEAR(areaOf(R"([{"id": "t", "silhouette": "foot"}])"), 600, 1e-9);
  EXPECT_NEAR(areaOf(R"([{"id": "t", "section": "ball"}])"), 36 * pi, 1e-6);
  EXPECT_NEAR(areaOf(R"([{"id": "t", "silhouette": "ball"}, {"id": "s", "silhouette": "foot"}])"), 600, 1e-6);
  std::string edges;
  for (const char* side : {"left", "right", "front", "back"})
    edges += std::string(edges.empty() ? "[" : ", ") + R"({"id": ")" + side +
             R"(", "edge": {"between": ["foot:top", "foot:)" + side + R"("]}})";
  EXPECT_NEAR(areaOf(edges + "]"), 600, 1e-9);
}

TEST(DrawingStep, TheNamesOfWhatIsTakenAlongStayWhenTheBodyChanges) {
  // A circle tangent to one side of a face's outline stays with that side when a corner of the body is cut off.
  const std::string drawing = R"({"points": [{"id": "c", "at": [15, 10]}],
    "curves": [{"id": "hole", "circle": {"points": ["c"], "sizes": [4]}}],
    "constraints": [{"id": "k1", "tangent": ["hole", "t.b_right"]}, {"id": "k2", "is": "10 mm", "diameter": ["hole"]}]})";
  for (const bool cut : {false, true}) {
    std::vector<Step> steps{block("b", "30 mm", "20 mm", "width", {"0", "0", "0"})};
    if (cut)
      steps.push_back(step("cut1", "split",
                           {{"stock", test::bodies({"b"})},
                            {"cutters", std::vector<CutterPick>{CutterPick::of(PlanePick::standard("yz"))}}}));
    steps.push_back(takingAlong(R"([{"id": "t", "outline": {"body": "b", "face": "b:top"}}])", drawing));
    Document document = documentOf(steps);
    document.made.dimensions = {{"width", Expression("12 mm")}};
    const Model model = made(document);
    EXPECT_EQ(errorOf(model, "d"), "no error");
    EXPECT_NEAR(report(model, "d").drawing()->solution.points.at(0).u, 25, 1e-9);
  }
}

TEST(DrawingStep, WhatIsLostAmongTheTakenIsNamed) {
  const auto error = [](const std::string& taken) {
    return errorOf(made(documentOf({block("b", "30 mm", "20 mm", "5 mm"), takingAlong(taken, "[]")})), "d");
  };
  EXPECT_THAT(error(R"([{"id": "rim", "outline": {"body": "b", "face": "b:lid"}}])"),
              testing::AllOf(HasSubstr("rim"), HasSubstr("b:lid")));
  EXPECT_THAT(error(R"([{"id": "rim", "section": "rod"}])"), HasSubstr("there is no body \"rod\""));
  EXPECT_THAT(error(R"([{"id": "rim", "edge": {"between": ["b:left", "b:front"]}}])"), HasSubstr("as a point"));
}

}  // namespace
}  // namespace kervo
