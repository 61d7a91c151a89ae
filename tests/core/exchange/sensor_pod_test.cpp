// The sensor pod: every dimension over the range that its guide promises.
#include <gtest/gtest.h>

#include "exchange/kervo_file.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;

Document demo() {
  Progress progress;
  return readDocument(KERVO_SOURCE_DIR "/demo/sensor-pod.kervo", allStepKinds(), progress);
}

const BodyId pod = "pod/back/outside/outside", island = "pod/back/outside/eye+";

double areaOfPiece(const StepReport& report, const BodyId& key) {
  for (const Piece& piece : report.result->pieces)
    if (piece.key == key) return piece.area;
  ADD_FAILURE() << report.id << " has no piece " << key;
  return 0;
}

/// All steps made, and a sound wall as thick as it should be.
void expectPod(const Document& document, double shell, const std::string& what) {
  const Model model = made(document);
  for (const StepReport& step : model.steps) EXPECT_FALSE(step.error) << what << ": " << step.error->what();
  if (model.failed()) return;
  for (const BodyId& body : {pod, island}) {
    ASSERT_NE(model.find(body), nullptr) << what << ": " << body;
    const Shape& shape = model.find(body)->shape();
    EXPECT_EQ(shape.kind(), BodyKind::Solid) << what;
    EXPECT_TRUE(shape.watertight()) << what;
    EXPECT_TRUE(shape.valid()) << what;
  }
  // Thickened inwards, so that it is a little less than area times thickness.
  const double full = areaOfPiece(report(model, "whole"), pod) * shell;
  EXPECT_LT(volume(model, pod), full) << what;
  EXPECT_GT(volume(model, pod), 0.9 * full) << what;
  // The mark, its island and what is round them are what the bowl was with its window.
  const double bowl = areaOfPiece(report(model, "window_cut"), "pod/back/outside");
  double parts = 0;
  for (const Piece& piece : report(model, "mark_cut").result->pieces) parts += piece.area;
  EXPECT_NEAR(parts, bowl, 1e-6 * bowl) << what;
}

TEST(SensorPod, IsMadeWithAWallOfItsThickness) {
  expectPod(demo(), 1.6, "as it is");
  EXPECT_EQ(demo().seen.views.size(), 4u);
}

TEST(SensorPod, EveryDimensionHasTheRangeOfItsGuide) {
  const std::tuple<const char*, const char*, const char*> ranges[] = {
      {"foot", "26 mm", "42 mm"}, {"belly", "50 mm", "62 mm"},  {"shoulder", "36 mm", "50 mm"},
      {"neck", "20 mm", "32 mm"}, {"waist", "38 mm", "48 mm"},  {"rise", "8 mm", "30 mm"},
      {"soft", "0.4", "1.4"},     {"window", "10 mm", "34 mm"}, {"notch", "6 mm", "20 mm"}};
  for (const auto& [name, low, high] : ranges)
    for (const char* value : {low, high})
      expectPod(demo().withDimension(name, Expression(value)), 1.6, std::string(name) + " = " + value);
  expectPod(demo().withDimension("shell", Expression("0.8 mm")), 0.8, "shell = 0.8 mm");
  expectPod(demo().withDimension("shell", Expression("2.4 mm")), 2.4, "shell = 2.4 mm");
}

TEST(SensorPod, AWallThatWouldFoldSaysWhere) {
  const Model model = made(demo().withDimension("shell", Expression("40 mm")));
  EXPECT_NE(errorOf(model, "thick").find("would fold at"), std::string::npos) << errorOf(model, "thick");
}

}  // namespace
}  // namespace kervo
