// Drawings made with the keyboard alone, from the Find box to the body.
#include <gmock/gmock.h>

#include <set>

#include "geom/curves/curve_body.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class DrawnByKeys : public TrialTest {
 protected:
  const Drawing& drawing() { return window->desk().trial.step().value("curves").as<Drawing>(); }
  const Solution& solution() { return window->desk().drawing.solution(); }
  void find(const QString& verb) {
    key(Qt::Key_K, Qt::ControlModifier);
    type(verb);
    key(Qt::Key_Return);
    settle();
  }
  /// Chooses what is drawn, types its places and sizes, each ended by Enter, and puts the choice back.
  void draw(const QString& kind, const std::vector<std::vector<QString>>& entries) {
    tabTo("Draw: " + kind);
    key(Qt::Key_Space);
    key(Qt::Key_3, Qt::AltModifier);
    for (const std::vector<QString>& numbers : entries) {
      for (std::size_t i = 0; i < numbers.size(); ++i) {
        if (i > 0) key(Qt::Key_Tab);
        type(numbers[i]);
      }
      key(Qt::Key_Return);
    }
    settle();
    key(Qt::Key_Escape);
    key(Qt::Key_5, Qt::AltModifier);
  }
  /// With N and Space in the view.
  void select(const std::string& id) {
    key(Qt::Key_3, Qt::AltModifier);
    for (int i = 0; i < 100 && window->desk().drawing.selected() != std::vector<std::string>{id}; ++i) {
      press(Qt::Key_N);
      press(Qt::Key_Space);
    }
    settle();
    EXPECT_EQ(window->desk().drawing.selected(), std::vector<std::string>{id});
    key(Qt::Key_5, Qt::AltModifier);
  }
  /// Several, with Ctrl+Space, which also puts back what was taken.
  void select(const std::vector<std::string>& ids) {
    select(ids.front());
    key(Qt::Key_3, Qt::AltModifier);
    for (std::size_t k = 1; k < ids.size(); ++k) {
      const std::vector<std::string> before = window->desk().drawing.selected();
      for (int i = 0; i < 100 && !window->desk().drawing.isSelected(ids[k]); ++i) {
        press(Qt::Key_N);
        press(Qt::Key_Space, Qt::ControlModifier);
        if (!window->desk().drawing.isSelected(ids[k])) press(Qt::Key_Space, Qt::ControlModifier);
      }
      settle();
      EXPECT_EQ(window->desk().drawing.selected().size(), before.size() + 1);
    }
    key(Qt::Key_5, Qt::AltModifier);
  }
  void word(const QString& word) {
    tabTo(word);
    key(Qt::Key_Space);
    settle();
  }
  std::string newest() { return drawing().curves.back().id; }
};

TEST_F(DrawnByKeys, CurvesAreTypedConstrainedOffsetAndExtruded) {
  key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  settle();
  ASSERT_TRUE(window->desk().drawing.open());
  draw("circle", {{"0", "0"}, {"20 mm"}});
  ASSERT_EQ(drawing().curves.size(), 1u);
  EXPECT_NEAR(solution().sizes[0][0], 10, 1e-9);
  const std::string circle = newest();
  draw("rectangle", {{"40", "-10"}, {"30 mm", "20 mm"}});
  EXPECT_EQ(drawing().curves.size(), 5u);
  draw("polygon", {{"0", "50"}, {"24 mm"}});
  ASSERT_GE(drawing().curves.size(), 11u) << "six sides more";
  draw("line", {{"60", "-30"}, {"60 mm", "90 deg"}});
  const std::string line = newest();
  EXPECT_EQ(window->desk().trial.result()->report().drawing()->regions.size(), 4u) << "the line divides the rectangle";
  // The line is cut by the rectangle, and its pieces are listed: the one in the middle goes.
  select(line);
  ASSERT_EQ(window->desk().drawing.pieces().size(), 3u);
  for (int i = 0; i < 80; ++i) {
    const auto* here = qobject_cast<QToolButton*>(QApplication::focusWidget());
    if (here && here->text().startsWith("drop 2")) break;
    press(Qt::Key_Tab);
  }
  key(Qt::Key_Space);
  settle();
  EXPECT_EQ(window->desk().trial.result()->report().drawing()->regions.size(), 3u);
  // What is selected moves with the arrows, by a line of the grid.
  select(circle);
  key(Qt::Key_3, Qt::AltModifier);
  const PlanePoint before = solution().points[0];
  key(Qt::Key_Left);
  settle();
  EXPECT_NEAR(solution().points[0].u, before.u - *window->desk().drawing.grid(), 1e-9);
  // A copy that follows, its distance typed; then undone.
  key(Qt::Key_5, Qt::AltModifier);
  select(circle);
  tabTo("Offset");
  key(Qt::Key_Space);
  settle();
  ASSERT_EQ(drawing().copies.size(), 1u);
  type("3 mm");
  settle();
  EXPECT_EQ(drawing().copies[0].numbers.front().text(), "3 mm");
  EXPECT_EQ(window->desk().trial.result()->report().drawing()->regions.size(), 4u);
  key(Qt::Key_Return);
  settle();
  // Left and extruded: the drawing is selected, and the next verb takes it.
  ASSERT_FALSE(window->desk().trial.active());
  find("extrude");
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.step().kind().key(), "extrude");
  key(Qt::Key_Return);
  settle();
  EXPECT_FALSE(window->desk().session.made()->model->failed());
  EXPECT_GE(window->desk().session.made()->model->bodies.size(), 1u);
}

TEST_F(DrawnByKeys, EveryKindOfCurveIsTyped) {
  key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  settle();
  draw("arc", {{"0", "0"}, {"10", "0"}, {"0", "10"}});
  ASSERT_EQ(drawing().curves.size(), 1u);
  EXPECT_EQ(drawing().curves.back().kind, "arc");
  draw("slot", {{"0", "40"}, {"30 mm", "8 mm"}});
  EXPECT_EQ(drawing().curves.size(), 5u);
  draw("ellipse", {{"60", "0"}, {"15 mm"}});
  ASSERT_EQ(drawing().curves.size(), 6u);
  EXPECT_EQ(drawing().curves.back().kind, "ellipse");
  draw("rectangle about its middle", {{"60", "40"}, {"20 mm", "10 mm"}});
  draw("rectangle by three points", {{"0", "80"}, {"20", "90"}, {"30 mm"}});
  draw("chain", {{"100", "0"}, {"20 mm", "0 deg"}, {"20 mm", "90 deg"}});
  const std::size_t before = drawing().curves.size();
  draw("spline", {{"-60", "0"}, {"-50", "10"}, {"-40", "0"}, {}});
  ASSERT_EQ(drawing().curves.size(), before + 1);
  EXPECT_EQ(drawing().curves.back().kind, "spline");
  EXPECT_EQ(drawing().curves.back().points.size(), 3u);
  draw("spline by control points", {{"-60", "40"}, {"-50", "60"}, {"-40", "60"}, {"-30", "40"}, {}});
  EXPECT_EQ(drawing().curves.back().kind, "control_spline");
  EXPECT_NEAR(solution().points.back().u, -30, 1e-9) << "a minus sign begins a number";
  draw("text", {{"0", "120"}, {"0", "130"}});
  EXPECT_EQ(drawing().curves.back().kind, "text");
  EXPECT_TRUE(window->desk().trial.result()->report().drawing());
}

TEST_F(DrawnByKeys, ConstraintsCornersAndCopiesByTheirWords) {
  key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  settle();
  draw("rectangle", {{"0", "0"}, {"40 mm", "20 mm"}});
  const std::string right = drawing().curves[1].id;
  draw("circle", {{"80", "0"}, {"10 mm"}});
  const std::string one = newest();
  draw("circle", {{"80", "40"}, {"16 mm"}});
  const std::string two = newest();
  // A corner, its radius typed where the keyboard is put.
  select(drawing().curves[0].points[1]);
  word("round it");
  ASSERT_EQ(newest()[0], 'a') << newest();
  key(Qt::Key_A, Qt::ControlModifier);
  type("3 mm");
  key(Qt::Key_Return);
  settle();
  EXPECT_EQ(drawing().constraints.back().value->text(), "3 mm");
  key(Qt::Key_5, Qt::AltModifier);
  select({one, two});
  word("Constrain: concentric");
  const auto centre = [&](const std::string& id) {
    const Drawing& now = drawing();
    return solution().points[*now.point(now.curves[*now.curve(id)].points.front())];
  };
  EXPECT_LT(distance(centre(one), centre(two)), 1e-9);
  // A row of the smaller circle.
  select(one);
  word("Row");
  ASSERT_EQ(drawing().copies.size(), 1u);
  EXPECT_EQ(drawing().copies[0].kind, "row");
  select(two);
  word("Ring");
  ASSERT_EQ(drawing().copies.size(), 2u);
  // Mirrored across the right side of the rectangle.
  select({one, right});
  const std::size_t before = drawing().curves.size();
  word("mirror");
  EXPECT_EQ(drawing().curves.size(), before + 1);
  EXPECT_FALSE(window->desk().trial.result()->report().error) << window->desk().trial.result()->report().error->what();
}

TEST_F(DrawnByKeys, EdgesOutlinesSilhouettesAndSectionsAreTakenAlong) {
  start(documentOf({plate(), block("post", "10", "10", "40", {"-5", "-5", "-20"})}));
  key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  settle();
  const auto take = [&](const QString& what, const Pick& pick) {
    word("Take along: " + what);
    ASSERT_TRUE(window->view().hasFocus());
    for (int i = 0; i < 100 && window->view().hovered() != pick; ++i) press(Qt::Key_N);
    ASSERT_EQ(window->view().hovered(), pick);
    key(Qt::Key_Space);
    settle();
    if (window->bench().armed()) key(Qt::Key_Escape);
    settle();
  };
  const auto& edges = window->desk().shownPictures.at("plate")->edges;
  const auto level =
      static_cast<int>(std::find_if(edges.begin(), edges.end(),
                                    [](const Edge& edge) { return std::abs(edge.axis()->direction.z) < 0.5; }) -
                       edges.begin());
  take("outline", face("plate", "plate:bottom"));
  EXPECT_EQ(window->desk().drawing.taken().size(), 1u);
  take("section", body("post"));
  take("silhouette", body("post"));
  take("edge", {Pick::Kind::Edge, "plate", level});
  EXPECT_EQ(window->desk().drawing.taken().size(), 4u);
  EXPECT_FALSE(window->desk().trial.result()->report().error) << window->desk().trial.result()->report().error->what();
}

TEST_F(DrawnByKeys, RevolvedAboutAnAxisStep) {
  start(documentOf({plate()}));
  find("axis");
  ASSERT_TRUE(window->desk().trial.active());
  tabTo("Type: along");
  chooseByKeys("Axis", "y");
  key(Qt::Key_Return);
  settle();
  find("point");
  ASSERT_EQ(window->desk().trial.step().kind().key(), "point");
  chooseByKeys("Type", "corner");
  pickByKeys("Points", {Pick{Pick::Kind::Corner, "plate", 0}});
  key(Qt::Key_Return);
  settle();
  key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  settle();
  draw("rectangle", {{"100", "-10"}, {"20 mm", "10 mm"}});
  key(Qt::Key_Return);
  settle();
  key(Qt::Key_V, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  tabTo("About: line");
  key(Qt::Key_Right);
  chooseByKeys("Axis", "datum");
  chooseByKeys("Datum axis", "Axis");
  key(Qt::Key_Return);
  settle();
  ASSERT_EQ(model().bodies.size(), 2u);
  // Pappus: the middle of the rectangle goes 110 mm round.
  EXPECT_NEAR(model().bodies.back().shape().volume(), 200 * 2 * M_PI * 110, 1e-3);
}

TEST_F(DrawnByKeys, ChamferByKeys) {
  start(documentOf({plate()}));
  key(Qt::Key_H, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  pickByKeys("Around", {face("plate", "plate:top")});
  typeByKeys("Distance", "2 mm");
  key(Qt::Key_Return);
  settle();
  // Above 8 mm it is a prismatoid, exact by Simpson's rule.
  EXPECT_NEAR(volume("plate"), 100 * 60 * 8 + 2.0 / 6 * (100 * 60 + 4 * 98 * 58 + 96 * 56), 1e-6);
}

TEST_F(DrawnByKeys, CurvesOfTheirOwnAreLiftedJoinedLengthenedAndBent) {
  start(documentOf({plate()}));
  find("curve");
  ASSERT_EQ(window->desk().trial.step().kind().key(), "curve");
  // Two edges of the top that meet: 100 mm and 60 mm.
  const auto edgeOf = [&](const std::string& other) {
    const auto& edges = window->desk().shownPictures.at("plate")->edges;
    for (std::size_t i = 0; i < edges.size(); ++i) {
      const std::set<std::string> sides{edges[i].firstOrigins().front(), edges[i].secondOrigins().front()};
      if (sides == std::set<std::string>{"plate:top", "plate:" + other})
        return Pick{Pick::Kind::Edge, "plate", static_cast<int>(i)};
    }
    ADD_FAILURE() << other;
    return Pick{};
  };
  pickByKeys("Edges", {edgeOf("front"), edgeOf("right")});
  key(Qt::Key_Return);
  settle();
  ASSERT_FALSE(window->desk().trial.active());
  const auto curves = [&] {
    std::vector<BodyId> ids;
    for (const Body& each : model().bodies)
      if (each.id != "plate") ids.push_back(each.id);
    return ids;
  };
  ASSERT_FALSE(curves().empty());
  find("join curves");
  ASSERT_EQ(window->desk().trial.step().kind().key(), "join");
  std::vector<Pick> all;
  for (const BodyId& id : curves()) all.push_back(body(id));
  if (!window->desk().trial.result()->report().result) pickByKeys("Curves", all);
  key(Qt::Key_Return);
  settle();
  ASSERT_EQ(curves().size(), 1u);
  const BodyId one = curves().front();
  EXPECT_NEAR(lengthOfCurve(model().find(one)->shape()), 160, 1e-9);
  find("lengthen curves");
  ASSERT_EQ(window->desk().trial.step().kind().key(), "lengthen");
  pickByKeys("Curves", {body(one)});
  chooseByKeys("At", "both ends");
  typeByKeys("By", "15 mm");
  key(Qt::Key_Return);
  settle();
  EXPECT_NEAR(lengthOfCurve(model().find(one)->shape()), 190, 1e-9);
  find("control point");
  ASSERT_EQ(window->desk().trial.step().kind().key(), "control_point");
  pickByKeys("Curve", {body(one)});
  typeByKeys("z", "20 mm");
  key(Qt::Key_Return);
  settle();
  EXPECT_FALSE(window->desk().session.made()->model->failed());
  EXPECT_GT(lengthOfCurve(model().find(one)->shape()), 190);
}

}  // namespace
}  // namespace kervo::test
