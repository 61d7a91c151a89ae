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
  Drawing drawing = withStroke({}, {}, "line", {{0, 0}, {10, 4}, 0.5, true});
  drawing = withStroke(drawing, {}, "line", {{10.3, 4.2}, {3, 9}, 0.5, true});
  ASSERT_EQ(drawing.points.size(), 3u);
  EXPECT_EQ(drawing.curves[0].points[1], drawing.curves[1].points[0]);
  EXPECT_EQ(drawing.points[1].last, (PlanePoint{10, 4}));
  EXPECT_THAT(drawing.constraints, IsEmpty());
  EXPECT_NO_THROW(requireSound(drawing));
}

TEST(DrawnByHand, NearlyLevelLinesBecomeLevelUnlessNothingIsInferred) {
  EXPECT_THAT(kindsOf(withStroke({}, {}, "line", {{0, 0}, {10, 0.1}, 0.01, true})), ElementsAre("horizontal"));
  EXPECT_THAT(kindsOf(withStroke({}, {}, "line", {{0, 0}, {-0.2, -10}, 0.01, true})), ElementsAre("vertical"));
  EXPECT_THAT(kindsOf(withStroke({}, {}, "line", {{0, 0}, {10, 0.1}, 0.01, false})), IsEmpty());
}

TEST(DrawnByHand, ARectangleIsFourLinesThatStayOne) {
  Drawing drawing = withStroke({}, {}, "rectangle", {{5, 8}, {1, 2}, 0.01, true});
  EXPECT_EQ(drawing.points.size(), 4u);
  EXPECT_EQ(drawing.curves.size(), 4u);
  EXPECT_THAT(kindsOf(drawing), ElementsAre("horizontal", "vertical"));
  const DrawingValues values{std::vector<std::vector<double>>(4), {0, 0}};
  EXPECT_EQ(solve(drawing, values).freedoms, 4);
}

TEST(DrawnByHand, ACircleIsAboutAPoint) {
  const Drawing drawing = withStroke({}, {}, "circle", {{1, 1}, {4, 5}, 0.01, true});
  EXPECT_EQ(drawing.points.size(), 1u);
  EXPECT_THAT(drawing.curves[0].sizes, ElementsAre(5));
}

TEST(DrawnByHand, StrokesWithoutLengthDrawNothing) {
  for (const StrokeKind& kind : strokeKinds())
    EXPECT_TRUE(withStroke({}, {}, kind.name, {{1, 1}, {1, 1}, 0.01, true}).empty()) << kind.name;
}

TEST(DrawnByHand, EverythingIsSolvedWhereItWasDrawn) {
  // Ways left to move: of a line its ends, of a circle its centre and radius, …
  const std::map<std::string, int> freedoms{{"line", 4},    {"circle", 3}, {"rectangle", 4}, {"middle_rectangle", 4},
                                            {"polygon", 4}, {"slot", 5},   {"ellipse", 5}};
  for (const StrokeKind& kind : strokeKinds()) {
    const Drawing drawing = withStroke({}, {}, kind.name, {{3, 2}, {23, 9}, 0.01, true});
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
  EXPECT_NEAR(areaOf("polygon", {{3, 2}, {13, 2}, 0.01, true}), 150 * std::sqrt(3), 1e-7);
  EXPECT_NEAR(areaOf("slot", {{0, 0}, {20, 0}, 0.01, true}), 20 * 6 + 9 * std::numbers::pi, 1e-7);
  EXPECT_NEAR(areaOf("middle_rectangle", {{0, 0}, {5, 3}, 0.01, true}), 60, 1e-9);
  EXPECT_NEAR(areaOf("ellipse", {{0, 0}, {10, 0}, 0.01, true}), 60 * std::numbers::pi, 1e-7);
}

TEST(DrawnByHand, AHexagonIsDrivenByOneSize) {
  Drawing drawing = withStroke({}, {}, "polygon", {{0, 0}, {10, 0.3}, 0.01, true});
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
  Drawing drawing = withStroke({}, {}, "line", {{0, 0}, {10, 4}, 0.5, true});
  Solution solution;
  solution.points = {{0, 0}, {12, 5}};
  solution.sizes = {{}};
  drawing = withStroke(drawing, solution, "line", {{12, 5}, {3, 9}, 0.5, true});
  EXPECT_EQ(drawing.points.size(), 3u);
  EXPECT_EQ(drawing.points[1].last, (PlanePoint{12, 5}));
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
