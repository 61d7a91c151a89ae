// Rebuilding a document of 200 steps: in full, after one dimension changed, with nothing changed, and with a name
// changed.
#include <benchmark/benchmark.h>

#include "fields/all_fields.h"
#include "model/rebuild.h"
#include "model/shown.h"
#include "steps/registry.h"

namespace {

using namespace kervo;

/// 40 brackets of five steps each: block, drawing on its top, cut through, round, split. One dimension a bracket.
Document brackets() {
  const StepKinds& kinds = allStepKinds();
  const auto step = [&](const std::string& id, const char* kind, std::map<std::string, FieldValue> fields) {
    return Step(id, *kinds.find(kind), std::move(fields));
  };
  Document document;
  for (int i = 0; i < 40; ++i) {
    const std::string n = std::to_string(i), block = "block" + n, hole = "hole" + n;
    document.made.dimensions.push_back({hole, Expression(std::to_string(5 + i % 7) + " mm")});
    document =
        document
            .withStep(step(block, "block",
                           {{"at", std::vector<Expression>{Expression(std::to_string(i * 150)), Expression("0"),
                                                           Expression("0")}}}))
            .withStep(step(
                "drawing" + n, "drawing",
                {{"plane", PlanePick{PlanePick::Kind::OnFace, "", {block, block + ":top", {}}}},
                 {"curves",
                  Drawing::of({{"c",
                                "circle",
                                {Expression(std::to_string(i * 150 + 30)), Expression("30"), Expression(hole)}}})}}))
            .withStep(step("cut" + n, "cut",
                           {{"profiles", RegionPick{"drawing" + n, true, {}}}, {"stock", BodyPick{false, {block}}}}))
            .withStep(step("round" + n, "round",
                           {{"edges", std::vector<EdgeReference>{{block, block + ":left", block + ":front", {}}}},
                            {"radius", Expression("4 mm")}}))
            .withStep(step(
                "split" + n, "split",
                {{"stock", BodyPick{false, {block}}}, {"offset", Expression("15 mm")}, {"kerf", Expression("1 mm")}}));
  }
  return document;
}

void require(benchmark::State& state, const Model& model) {
  if (model.failed()) state.SkipWithError("a step failed");
}

void full(benchmark::State& state) {
  const Document document = brackets();
  for (auto _ : state) {
    Memo memo;
    Progress progress;
    require(state, rebuild(document, memo, progress));
  }
  state.SetLabel(std::to_string(document.made.steps.size()) + " steps");
}

void oneDimensionChanged(benchmark::State& state) {
  const Document document = brackets();
  Memo memo;
  Progress progress;
  rebuild(document, memo, progress);
  int round = 0;
  for (auto _ : state) {
    // Always another value, so that nothing of it is in the memo yet.
    const Document changed = document.withDimension("hole17", Expression(std::to_string(6 + 1e-4 * ++round) + " mm"));
    require(state, rebuild(changed, memo, progress));
  }
}

void nothingChanged(benchmark::State& state) {
  const Document document = brackets();
  Memo memo;
  Progress progress;
  rebuild(document, memo, progress);
  for (auto _ : state) require(state, rebuild(document, memo, progress));
}

/// A body is renamed: the model is only shown anew.
void nameChanged(benchmark::State& state) {
  const Document document = brackets();
  Memo memo;
  Progress progress;
  const Model model = rebuild(document, memo, progress);
  int round = 0;
  for (auto _ : state) {
    const Document renamed = document.withLook("block17", {.name = std::to_string(++round)});
    benchmark::DoNotOptimize(shown(model, renamed.seen));
  }
}

}  // namespace

BENCHMARK(full)->Name("rebuild/full")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(oneDimensionChanged)->Name("rebuild/one_dimension_changed")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(nothingChanged)->Name("rebuild/memo_hit")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(nameChanged)->Name("rebuild/name_changed")->Unit(benchmark::kMillisecond)->UseRealTime();
