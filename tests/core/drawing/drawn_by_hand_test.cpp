#include "drawing/drawn_by_hand.h"

#include <gmock/gmock.h>

#include "base/error.h"
#include "core/drawing/drawing_builder.h"
#include "drawing/drawing_edits.h"

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
  for (const char* kind : {"line", "circle", "rectangle"})
    EXPECT_TRUE(withStroke({}, {}, kind, {{1, 1}, {1, 1}, 0.01, true}).empty()) << kind;
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
