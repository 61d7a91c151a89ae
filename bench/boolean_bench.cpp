// A general cut: the bare kernel's call, and Kervo's with intersection on both sides, checks and audit.
#include <benchmark/benchmark.h>
#include <BRepAlgoAPI_Cut.hxx>
#include <TopTools_ListOfShape.hxx>

#include "geom/divide/boolean.h"
#include "geom/kernel/shape_body.h"
#include "geom/primitives.h"

namespace {

using namespace kervo;

struct Case {
  const char* name;
  Shape stock;
  std::vector<Shape> cutters;
};

Plane at(double x, double y, double z, Vector normal = {0, 0, 1}) {
  return Plane::through({x, y, z}, normal);
}

std::vector<Case> makeCases() {
  std::vector<Case> cases;
  cases.push_back({"block minus tilted cylinder",
                   makeBlock("a", {}, 60, 50, 40),
                   {makeCylinder("b", at(20, 20, -20, {0.2, 0.3, 1}), 9, 90)}});
  cases.push_back({"cylinder minus cross cylinder",
                   makeCylinder("a", {}, 20, 80),
                   {makeCylinder("b", at(-40, 3, 40, {1, 0, 0.1}), 12, 90)}});
  cases.push_back(
      {"sphere minus block", makeSphere("a", {}, 30), {makeBlock("b", at(-10, -12, 5, {0.1, 0.2, 1}), 25, 30, 40)}});
  cases.push_back(
      {"torus minus block", makeTorus("a", {}, 30, 9), {makeBlock("b", at(10, -12, -20, {0.1, 0.2, 1}), 35, 30, 40)}});
  Case pockets{"block minus 50 tilted pockets", makeBlock("a", {}, 200, 100, 30), {}};
  for (int i = 0; i < 50; ++i)
    pockets.cutters.push_back(
        makeBlock("p" + std::to_string(i), at(10 + i % 10 * 19, 8 + i / 10 * 19, 18, {0.1, 0.05, 1}), 11, 11, 30));
  cases.push_back(std::move(pockets));
  Case bores{"block minus 40 blind bores", makeBlock("a", {}, 200, 100, 30), {}};
  for (int i = 0; i < 40; ++i)
    bores.cutters.push_back(makeCylinder("p" + std::to_string(i), at(12 + i % 8 * 24, 12 + i / 8 * 19, 12), 7, 30));
  cases.push_back(std::move(bores));
  return cases;
}

const std::vector<Case>& cases() {
  static const std::vector<Case> all = makeCases();
  return all;
}

void bareKernel(benchmark::State& state) {
  const Case& one = cases()[static_cast<std::size_t>(state.range(0))];
  state.SetLabel(one.name);
  for (auto _ : state) {
    TopTools_ListOfShape stock, tools;
    stock.Append(one.stock.body().topology);
    for (const Shape& cutter : one.cutters) tools.Append(cutter.body().topology);
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(stock);
    cut.SetTools(tools);
    cut.SetNonDestructive(true);
    cut.SetRunParallel(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

void kervoDivide(benchmark::State& state) {
  const Case& one = cases()[static_cast<std::size_t>(state.range(0))];
  state.SetLabel(one.name);
  Progress progress;
  for (auto _ : state) benchmark::DoNotOptimize(divide(one.stock, one.cutters, progress));
}

}  // namespace

BENCHMARK(bareKernel)->Name("cut/kernel")->DenseRange(0, 5)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(kervoDivide)->Name("cut/kervo_audited")->DenseRange(0, 5)->Unit(benchmark::kMillisecond)->UseRealTime();
