// What is shown on surfaces: chosen with mouse and keys, told in words, and nothing of it in the document. Sweeps and
// beads of blends as a person makes them.
#include <gmock/gmock.h>

#include "support/trial_driver.h"

namespace kervo::test {
namespace {

using app::SurfaceShow;
using testing::HasSubstr;

class SurfaceLooksTest : public TrialTest {
 protected:
  void TearDown() override {
    // As it was at first, for the windows of other tests.
    window->surfaces().setFolded(true);
    TrialTest::TearDown();
  }
  app::SurfacesPanel& panel() { return window->surfaces(); }
  QAbstractButton* choice(SurfaceShow what) { return panel().buttons()->button(static_cast<int>(what)); }
  std::string rows() {
    QStringList texts;
    for (const auto& row : window->desk().surfaces.rows()) texts << row.name + " " + row.value;
    return texts.join("\n").toStdString();
  }
  const SurfacePaint& paint() { return window->view().scene().paint; }
  static Step ball(const char* radius) { return step("ball", "sphere", {{"radius", Expression(radius)}}); }
};

TEST_F(SurfaceLooksTest, StripesComeAndGoWithOneKey) {
  start(documentOf({ball("10 mm")}));
  key(Qt::Key_Z, Qt::ControlModifier | Qt::AltModifier);
  EXPECT_EQ(paint().kind, SurfacePaint::Kind::Stripes);
  EXPECT_FALSE(panel().folded()) << "where they are switched off again";
  EXPECT_TRUE(choice(SurfaceShow::Stripes)->isChecked());
  key(Qt::Key_Z, Qt::ControlModifier | Qt::AltModifier);
  EXPECT_EQ(paint().kind, SurfacePaint::Kind::None);
  EXPECT_FALSE(window->desk().session.canUndo()) << "a look changes nothing";
}

TEST_F(SurfaceLooksTest, CurvatureIsToldAndShownWhereItIs) {
  start(documentOf({ball("10 mm"), block("b", "10", "10", "10", {"30", "0", "0"})}));
  panel().setFolded(false);
  settle();
  click(choice(SurfaceShow::Curvature));
  settle();
  ASSERT_EQ(paint().kind, SurfacePaint::Kind::Bands);
  EXPECT_THAT(rows(), HasSubstr("tightest bend R 10 mm"));
  for (const SceneBody& body : window->view().scene().bodies) {
    if (body.isGuide()) continue;
    ASSERT_TRUE(body.bands) << body.name;
    EXPECT_EQ(body.bands->size() * 3, body.picture->mesh.points.size());
  }
  const auto before = window->view().lookedFrom();
  click(button("R 10 mm"));
  EXPECT_NE(window->view().lookedFrom(), before) << "goes there";
  // It follows the model.
  window->desk().session.edit("smaller", [](const Document& d) { return d.withReplaced(ball("5 mm")); });
  settle();
  settle();
  EXPECT_THAT(rows(), HasSubstr("tightest bend R 5 mm"));
}

TEST_F(SurfaceLooksTest, DraftThicknessGapsAndNetsByKeysAlone) {
  start(documentOf({block("b", "20", "20", "3"), step("u", "unsew", {{"bodies", bodies({"b"})}}),
                    block("p", "20", "20", "4", {"40", "0", "0"})}));
  key(Qt::Key_8, Qt::AltModifier);
  ASSERT_EQ(QApplication::focusWidget(), choice(SurfaceShow::Nothing));
  const auto go = [&](const char* text) {
    key(Qt::Key_K, Qt::ControlModifier);
    type(text);
    key(Qt::Key_Return);
    settle();
  };
  go("Surfaces: thickness");
  EXPECT_EQ(window->desk().surfaces.shown(), SurfaceShow::Thickness);
  EXPECT_THAT(rows(), HasSubstr("thinnest 4 mm"));
  go("Surfaces: draft");
  EXPECT_THAT(rows(), HasSubstr("looks least along it -90°"));
  EXPECT_TRUE(panel().axis()->isVisible());
  go("Surfaces: gaps");
  EXPECT_THAT(rows(), HasSubstr("open edges 24"));
  const auto& lines = window->view().scene().lines;
  EXPECT_EQ(std::count_if(lines.begin(), lines.end(),
                          [](const SceneLine& line) { return line.style == SceneLine::Style::Fault; }),
            24);
  go("Surfaces: net");
  EXPECT_THAT(rows(), HasSubstr("lines of nets 0"));
  go("Surfaces as they are");
  EXPECT_EQ(window->desk().surfaces.shown(), SurfaceShow::Nothing);
  EXPECT_TRUE(rows().empty());
}

TEST_F(SurfaceLooksTest, ABlendGetsFullerByItsBead) {
  const auto lift = [](const char* id, const char* body, const char* name) {
    return step(id, "lift", {{"faces", std::vector<FaceReference>{{body, name, std::nullopt}}}});
  };
  const auto edge = [](const char* body, const char* face, Point at) -> FieldValue {
    return std::vector<EdgeReference>{{body, face, "", at}};
  };
  start(documentOf(
      {step("a", "cylinder", {{"radius", Expression("10 mm")}, {"height", Expression("20 mm")}}),
       step("b", "cylinder",
            {{"radius", Expression("6 mm")}, {"height", Expression("20 mm")}, {"at", point("0", "0", "40 mm")}}),
       lift("low", "a", "a:side"), lift("high", "b", "b:side"),
       step("m", "blend",
            {{"from", edge("low", "a:side", {10, 0, 20})}, {"to", edge("high", "b:side", {6, 0, 40})}})}));
  click(button("Front"));
  window->desk().selection.setStep("m");
  key(Qt::Key_Return, Qt::ControlModifier);
  ASSERT_TRUE(window->desk().trial.active());
  const auto gauges = window->desk().trial.result()->report().result->gauges;
  ASSERT_EQ(gauges.size(), 2u);
  const Gauge& gauge = gauges.front();
  EXPECT_GT(gauge.perOne, 1);
  const double area = tried().pieces.at(0).area;
  const auto at = [&](double value) {
    return window->view().toWidget(gauge.from + gauge.along * (value * gauge.perOne)).toPoint();
  };
  drag(&window->view(), at(1), at(1.5));
  const std::string text = window->desk().trial.step().value("from_fullness").as<Expression>().text();
  EXPECT_NEAR(std::stod(text), 1.5, 0.1);
  EXPECT_EQ(text.find("mm"), std::string::npos) << "a plain number has no unit";
  EXPECT_GT(tried().pieces.at(0).area, area + 5);
}

TEST_F(SurfaceLooksTest, AChannelIsSweptWithKeysAlone) {
  DrawnCurve line{"l", "line", {}};
  for (const char* number : {"20", "-1", "20", "41"}) line.numbers.emplace_back(number);
  start(
      documentOf({block("b", "40", "40", "10"), drawing("d", PlanePick::standard("xz"), {circle("c", "20", "10", "3")}),
                  step("up", "plane", {{"from", PlanePick::standard("xy")}, {"offset", Expression("10 mm")}}),
                  drawing("path", PlanePick::ofStep(StepId("up")), {line})}));
  window->desk().selection.set({{Pick::Kind::Guide, "d", 0}, {Pick::Kind::Guide, "path", 0}});
  key(Qt::Key_K, Qt::ControlModifier);
  type("Sweep along");
  key(Qt::Key_Return);
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.step().kind().key(), "sweep");
  EXPECT_TRUE(hasLine("adds"));
  tabTo("Result");
  chooseByKeys("Result", "cut");
  settle();
  EXPECT_TRUE(hasLine("volume balances")) << "it takes stock as every cut does";
  EXPECT_NEAR(tried().audit.volumeRemoved, M_PI * 9 / 2 * 40, 1);
  key(Qt::Key_Return);
  ASSERT_FALSE(window->desk().trial.active());
  EXPECT_NEAR(volume("b"), 40 * 40 * 10 - M_PI * 9 / 2 * 40, 1);
}

}  // namespace
}  // namespace kervo::test
