// Regions of lines that cross, beside the bare kernel's arrangement of the same; a cut through constrained slots.
#include <benchmark/benchmark.h>
#include <BOPAlgo_Builder.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <TopoDS_Edge.hxx>

#include <cmath>

#include "drawing/drawing_result.h"
#include "drawing/drawn_by_hand.h"
#include "fields/all_fields.h"
#include "model/rebuild.h"
#include "steps/registry.h"

namespace kervo {
namespace {

/// Lines either way across each other, as many as give about that many crossings.
int linesEachWay(const benchmark::State& state) {
  return static_cast<int>(std::lround(std::sqrt(static_cast<double>(state.range(0)))));
}

void regionsOfCrossings(benchmark::State& state) {
  const int count = linesEachWay(state);
  std::vector<PlanarCurve> curves;
  for (int i = 0; i < count; ++i) {
    curves.push_back({"u" + std::to_string(i), LineCurve({-1, 5.0 * i}, {5.0 * count, 5.0 * i})});
    curves.push_back({"v" + std::to_string(i), LineCurve({5.0 * i, -1}, {5.0 * i, 5.0 * count})});
  }
  std::size_t found = 0;
  for (auto _ : state) {
    Progress progress;
    found = findRegions({}, curves, progress).size();
  }
  if (found != static_cast<std::size_t>((count - 1) * (count - 1))) state.SkipWithError("regions are missing");
  state.counters["crossings"] = count * count;
}

void kernelOfCrossings(benchmark::State& state) {
  const int count = linesEachWay(state);
  for (auto _ : state) {
    BOPAlgo_Builder builder;
    for (int i = 0; i < count; ++i) {
      builder.AddArgument(BRepBuilderAPI_MakeEdge(gp_Pnt(-1, 5.0 * i, 0), gp_Pnt(5.0 * count, 5.0 * i, 0)).Edge());
      builder.AddArgument(BRepBuilderAPI_MakeEdge(gp_Pnt(5.0 * i, -1, 0), gp_Pnt(5.0 * i, 5.0 * count, 0)).Edge());
    }
    builder.Perform();
    benchmark::DoNotOptimize(builder.Shape());
  }
}

/// A plate, and on its top 100 slots whose width is one dimension.
Document slots() {
  Drawing drawing;
  for (int i = 0; i < 10; ++i)
    for (int j = 0; j < 10; ++j) {
      Stroke stroke = Stroke::between({20.0 + 40 * i, 20.0 + 20 * j}, {40.0 + 40 * i, 24.0 + 20 * j}, 0.01);
      stroke.sizes = {Expression(""), Expression("wide")};
      drawing = withStroke(drawing, {}, "slot", stroke);
    }
  const StepKinds& kinds = allStepKinds();
  Document document;
  document.made.dimensions.push_back({"wide", Expression("6 mm")});
  return document
      .withStep(Step("plate", *kinds.find("block"),
                     {{"width", Expression("420")}, {"depth", Expression("240")}, {"height", Expression("10")}}))
      .withStep(
          Step("drawing", *kinds.find("drawing"),
               {{"plane", PlanePick{PlanePick::Kind::OnFace, "", {"plate", "plate:top", {}}}}, {"curves", drawing}}))
      .withStep(Step("cut", *kinds.find("cut"),
                     {{"profiles", RegionPick{"drawing", true, {}}}, {"stock", BodyPick{false, {"plate"}}}}));
}

/// One number changed: the drawing is solved, its regions are found, the cut is made.
void cutThroughSlots(benchmark::State& state) {
  const Document document = slots();
  Memo memo;
  Progress progress;
  rebuild(document, memo, progress);
  int round = 0;
  for (auto _ : state) {
    const Document changed = document.withDimension("wide", Expression(std::to_string(6 + 1e-4 * ++round) + " mm"));
    const Model model = rebuild(changed, memo, progress);
    if (model.failed() || model.bodies.size() != 1) state.SkipWithError("a step failed");
  }
}

BENCHMARK(kernelOfCrossings)->Arg(700)->Arg(2700)->Name("regions/kernel")->Unit(benchmark::kMillisecond);
BENCHMARK(regionsOfCrossings)->Arg(700)->Arg(2700)->Name("regions/kervo")->Unit(benchmark::kMillisecond);
BENCHMARK(cutThroughSlots)->Name("cut through 100 constrained slots")->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace kervo
