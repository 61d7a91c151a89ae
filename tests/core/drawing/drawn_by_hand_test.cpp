#include "drawing/drawn_by_hand.h"

#include <gmock/gmock.h>

#include <map>
#include <numbers>

#include "base/error.h"
#include "core/drawing/drawing_builder.h"
#include "drawing/drawing_edits.h"
#include "drawing/drawing_result.h"
#include "geom/planes.h"

namespace kervo {
namespace {

using testing::ElementsAre;
using testing::IsEmpty;

std::vector<std::string> kindsOf(const Drawing& drawing) {
  std::vector<std::string> kinds;
  for (const DrawnConstraint& constraint : drawing.constraints) kinds.push_back(constraint.kind);
  return kinds;
}

TEST(DrawnByHand, LinesShareTheEndsThatTheyMeetIn) {
  Drawing drawing = withStroke({}, {}, "line", Stroke::between({0, 0}, {10, 4}, 0.5, true));
  drawing = withStroke(drawing, {}, "line", Stroke::between({10.3, 4.2}, {3, 9}, 0.5, true));
  ASSERT_EQ(drawing.points.size(), 3u);
  EXPECT_EQ(drawing.curves[0].points[1], drawing.curves[1].points[0]);
  EXPECT_EQ(drawing.points[1].last, (PlanePoint{10, 4}));
  EXPECT_THAT(drawing.constraints, IsEmpty());
  EXPECT_NO_THROW(requireSound(drawing));
}

TEST(DrawnByHand, NearlyLevelLinesBecomeLevelUnlessNothingIsInferred) {
  EXPECT_THAT(kindsOf(withStroke({}, {}, "line", Stroke::between({0, 0}, {10, 0.1}, 0.01, true))),
              ElementsAre("horizontal"));
  EXPECT_THAT(kindsOf(withStroke({}, {}, "line", Stroke::between({0, 0}, {-0.2, -10}, 0.01, true))),
              ElementsAre("vertical"));
  EXPECT_THAT(kindsOf(withStroke({}, {}, "line", Stroke::between({0, 0}, {10, 0.1}, 0.01, false))), IsEmpty());
}

TEST(DrawnByHand, ARectangleIsFourLinesThatStayOne) {
  Drawing drawing = withStroke({}, {}, "rectangle", Stroke::between({5, 8}, {1, 2}, 0.01, true));
  EXPECT_EQ(drawing.points.size(), 4u);
  EXPECT_EQ(drawing.curves.size(), 4u);
  EXPECT_THAT(kindsOf(drawing), ElementsAre("horizontal", "vertical"));
  const DrawingValues values{std::vector<std::vector<double>>(4), {0, 0}};
  EXPECT_EQ(solve(drawing, values).freedoms, 4);
}

TEST(DrawnByHand, ACircleIsAboutAPoint) {
  const Drawing drawing = withStroke({}, {}, "circle", Stroke::between({1, 1}, {4, 5}, 0.01, true));
  EXPECT_EQ(drawing.points.size(), 1u);
  EXPECT_THAT(drawing.curves[0].sizes, ElementsAre(5));
}

TEST(DrawnByHand, ACircleGoesThroughThreePoints) {
  const Stroke stroke{{{{5, 1}}, {{1, 5}}, {{-3, 1}}}, 0.01};
  const Drawing drawing = withStroke({}, {}, "circle_through", stroke);
  ASSERT_EQ(drawing.curves.size(), 1U);
  EXPECT_THAT(drawing.curves[0].sizes, ElementsAre(testing::DoubleNear(4, 1e-12)));
  EXPECT_NEAR(drawing.points.front().last.u, 1, 1e-12);
  EXPECT_NEAR(drawing.points.front().last.v, 1, 1e-12);
  EXPECT_THAT(kindsOf(drawing), ElementsAre("on", "on", "on"));
  EXPECT_THAT(sizesOf("circle_through", stroke), ElementsAre(testing::DoubleNear(8, 1e-12)));
  // The points are held, so that the circle follows them: two ways each.
  EXPECT_EQ(solve(drawing, {{{}}, {0, 0, 0}}).freedoms, 6);
  EXPECT_THAT(withStroke({}, {}, "circle_through", {{{{0, 0}}, {{1, 1}}, {{2, 2}}}, 0.01}).curves, IsEmpty())
      << "no circle goes through three points in a line";
}

TEST(DrawnByHand, PlacesOfBodiesAreTakenAsTheyAre) {
  const Snap corner{{3, 4}, SnapTo::BodyCorner, {"Walls"}};
  const Drawing drawing = withStroke({}, {}, "line", {{{{0, 0}}, corner}, 0.01});
  EXPECT_EQ(drawing.points.back().last, (PlanePoint{3, 4}));
  EXPECT_THAT(drawing.constraints, IsEmpty());
}

TEST(DrawnByHand, StrokesWithoutLengthDrawNothing) {
  for (const StrokeKind& kind : strokeKinds())
    EXPECT_TRUE(withStroke({}, {}, kind.name, Stroke::between({1, 1}, {1, 1}, 0.01, true)).empty()) << kind.name;
}

TEST(DrawnByHand, EverythingIsSolvedWhereItWasDrawn) {
  // Ways left to move: of a line its ends, of a circle its centre and radius, …
  const std::map<std::string, int> freedoms{{"line", 4},      {"circle", 3},
                                            {"rectangle", 4}, {"middle_rectangle", 4},
                                            {"polygon", 4},   {"slot", 5},
                                            {"ellipse", 5},   {"chain", 4},
                                            {"arc", 5},       {"tilted_rectangle", 5},
                                            {"spline", 4},    {"control_spline", 6},
                                            {"text", 2},      {"circle_through", 6}};
  for (const StrokeKind& kind : strokeKinds()) {
    Stroke stroke = Stroke::between({3, 2}, {23, 9}, 0.01);
    if (kind.places == 3) stroke.at.push_back({{12, 20}});
    const Drawing drawing = withStroke({}, {}, kind.name, stroke);
    EXPECT_NO_THROW(requireSound(drawing)) << kind.name;
    const DrawingValues values{std::vector<std::vector<double>>(drawing.curves.size()),
                               std::vector<double>(drawing.constraints.size(), 0)};
    const Solution solution = solve(drawing, values);
    EXPECT_TRUE(solution.holds()) << kind.name;
    EXPECT_EQ(solution.freedoms, freedoms.at(kind.name)) << kind.name;
    EXPECT_THAT(solution.alreadyTrue, IsEmpty()) << kind.name;
    for (std::size_t i = 0; i < drawing.points.size(); ++i)
      EXPECT_LT(distance(solution.points[i], drawing.points[i].last), 1e-9) << kind.name;
  }
}

TEST(DrawnByHand, AHexagonAndASlotEncloseTheirAreas) {
  const auto areaOf = [](const char* kind, const Stroke& stroke) {
    const Drawing drawing = withStroke({}, {}, kind, stroke);
    const DrawingValues values{std::vector<std::vector<double>>(drawing.curves.size()),
                               std::vector<double>(drawing.constraints.size(), 0)};
    Progress progress;
    const DrawingResult result = DrawingResult::of({}, drawing, values, solve(drawing, values), progress);
    return result.regions.size() == 1 ? result.regions[0].area() : -1;
  };
  EXPECT_NEAR(areaOf("polygon", Stroke::between({3, 2}, {13, 2}, 0.01, true)), 150 * std::sqrt(3), 1e-7);
  EXPECT_NEAR(areaOf("slot", Stroke::between({0, 0}, {20, 0}, 0.01, true)), 20 * 6 + 9 * std::numbers::pi, 1e-7);
  EXPECT_NEAR(areaOf("middle_rectangle", Stroke::between({0, 0}, {5, 3}, 0.01, true)), 60, 1e-9);
  EXPECT_NEAR(areaOf("ellipse", Stroke::between({0, 0}, {10, 0}, 0.01, true)), 60 * std::numbers::pi, 1e-7);
}

TEST(DrawnByHand, AHexagonIsDrivenByOneSize) {
  Drawing drawing = withStroke({}, {}, "polygon", Stroke::between({0, 0}, {10, 0.3}, 0.01, true));
  drawing = withConstraint(drawing, "coincident", {"p1", originId});
  drawing = withConstraint(drawing, "horizontal", {"p1", "p2"});
  drawing = withConstraint(drawing, "length", {"l1"}, Expression("25 mm"));
  std::vector<double> values(drawing.constraints.size(), 0);
  values.back() = 25;
  const Solution solution = solve(drawing, {std::vector<std::vector<double>>(drawing.curves.size()), values});
  EXPECT_EQ(solution.freedoms, 0);
  EXPECT_NEAR(solution.points[1].u, 25, 1e-9);
  EXPECT_NEAR(solution.points[4].u, -25, 1e-9);
}

TEST(DrawnByHand, GoesOnFromWhereTheSolutionIs) {
  Drawing drawing = withStroke({}, {}, "line", Stroke::between({0, 0}, {10, 4}, 0.5, true));
  Solution solution;
  solution.points = {{0, 0}, {12, 5}};
  solution.sizes = {{}};
  drawing = withStroke(drawing, solution, "line", Stroke::between({12, 5}, {3, 9}, 0.5, true));
  EXPECT_EQ(drawing.points.size(), 3u);
  EXPECT_EQ(drawing.points[1].last, (PlanePoint{12, 5}));
}

TEST(DrawnByHand, WhatPlacesWereTakenForHolds) {
  DrawingBuilder made;
  const std::string line = made.segment(1, 0, 19, 0);
  const std::string round = made.circle(made.point(40, 0), 5);
  const auto kinds = [&](const Snap& from, const Snap& to, bool infer = true) {
    const Drawing drawn = withStroke(made.drawing, {}, "line", {{from, to}, 0.01, infer});
    EXPECT_NO_THROW(requireSound(drawn));
    return kindsOf(drawn);
  };
  const Snap far{{7, 30}};
  EXPECT_THAT(kinds(far, {{10, 0}, SnapTo::Middle, {line}}), ElementsAre("midpoint"));
  EXPECT_THAT(kinds(far, {{7, 0}, SnapTo::Square, {line}}), ElementsAre("on", "perpendicular"));
  EXPECT_THAT(kinds(far, {{40, 5}, SnapTo::Tangent, {round}}), ElementsAre("on", "tangent"));
  EXPECT_THAT(kinds(far, {{40, 5}, SnapTo::Quadrant, {round}}), ElementsAre("on", "vertical"));
  EXPECT_THAT(kinds({{0, 0}, SnapTo::Point, {originId}}, far), ElementsAre("coincident"));
  EXPECT_THAT(kinds(far, {{7, 0}, SnapTo::Square, {line}}, false), IsEmpty());
}

TEST(DrawnByHand, SizesThatAreTypedBecomeDimensions) {
  Stroke stroke = Stroke::between({0, 0}, {10, 4}, 0.01);
  stroke.sizes = {Expression("12 mm"), Expression("30 deg")};
  Drawing drawing = withStroke({}, {}, "line", stroke);
  EXPECT_THAT(kindsOf(drawing), ElementsAre("length", "angle"));
  EXPECT_EQ(drawing.constraints[0].value->text(), "12 mm");
  stroke.sizes = {Expression(""), Expression("5 mm")};
  drawing = withStroke({}, {}, "rectangle", stroke);
  EXPECT_THAT(kindsOf(drawing), ElementsAre("horizontal", "vertical", "length"));
  const PlanePoint there = placeWithSizes("line", {1, 1}, {5, 1}, {10, std::numbers::pi / 2});
  EXPECT_NEAR(there.u, 1, 1e-12);
  EXPECT_NEAR(there.v, 11, 1e-12);
  EXPECT_EQ(placeWithSizes("rectangle", {0, 0}, {-3, 5}, {8, std::nullopt}), (PlanePoint{-8, 5}));
  EXPECT_EQ(placeWithSizes("circle", {0, 0}, {1, 0}, {30}), (PlanePoint{15, 0}));
}

TEST(DrawnByHand, AnArcGoesThroughItsThirdPlace) {
  for (const PlanePoint through : {PlanePoint{5, 5}, PlanePoint{5, -5}, PlanePoint{-3, 4}}) {
    Stroke stroke = Stroke::between({0, 0}, {10, 0}, 0.01);
    stroke.at.push_back({through});
    const Drawing drawing = withStroke({}, {}, "arc", stroke);
    ASSERT_EQ(drawing.curves.size(), 1u);
    const Solution solution = solve(drawing, {{{}}, {}});
    const PlanarCurve arc = curvesOf(drawing, {{{}}, {}}, solution, true)[0];
    EXPECT_TRUE(arc.geometry->holds(through)) << through.u;
    EXPECT_NEAR(arc.geometry->carrier()->radius, distance(arc.geometry->carrier()->centre, through), 1e-9);
  }
}

TEST(DrawingEdits, RemoveACurveWithWhatIsItsOwn) {
  DrawingBuilder made;
  made.rectangle(0, 0, 20, 10);
  made.hold("horizontal", {"c1"});
  made.hold("parallel", {"c1", "c3"});
  made.hold("vertical", {"c2"});
  // Every corner is another line's as well.
  Drawing left = withoutCurve(made.drawing, "c1");
  EXPECT_EQ(left.points.size(), 4u);
  EXPECT_THAT(kindsOf(left), ElementsAre("vertical"));
  left = withoutCurve(left, "c2");
  EXPECT_EQ(left.points.size(), 3u);
  EXPECT_THAT(left.constraints, IsEmpty());
  EXPECT_NO_THROW(requireSound(left));
}

TEST(DrawingEdits, RemoveConstraintsOnPartsOfACurve) {
  DrawingBuilder made;
  const std::string line = made.fixedLine(0, 0, 10, 0), point = made.point(1, 1);
  made.hold("coincident", {point, line + ".to"});
  EXPECT_EQ(made.solved().points[0], (PlanePoint{10, 0}));
  EXPECT_THAT(withoutCurve(made.drawing, line).constraints, IsEmpty());
}

TEST(DrawingEdits, AddConstraintsThatFit) {
  DrawingBuilder made;
  made.rectangle(0, 0, 20, 10);
  Drawing drawing = withConstraint(made.drawing, "parallel", {"c1", "c3"});
  drawing = withConstraint(drawing, "length", {"c1"}, Expression("20 mm"));
  EXPECT_EQ(drawing.constraints[0].id, "k1");
  EXPECT_EQ(drawing.constraints[1].id, "k2");
  EXPECT_THROW(withConstraint(drawing, "parallel", {"c1", "p1"}), Error);
  EXPECT_THROW(withConstraint(drawing, "length", {"c1"}), Error);
}

}  // namespace
}  // namespace kervo
