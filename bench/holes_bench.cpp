// A plate with n through holes: the kernel's single batched call, and Kervo's cut with all its checks.
#include <benchmark/benchmark.h>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <TopTools_ListOfShape.hxx>
#include <gp_Ax2.hxx>

#include <cmath>

#include "drawing/regions.h"
#include "geom/divide/perforate.h"
#include "geom/primitives.h"
#include "geom/sweep/profile.h"
#include "geom/sweep/sweep.h"

namespace {

using namespace kervo;

constexpr double pitch = 10, radius = 3, height = 5;

int rows(int count) {
  return static_cast<int>(std::ceil(std::sqrt(count)));
}

void bareKernel(benchmark::State& state) {
  const int count = static_cast<int>(state.range(0)), perRow = rows(count);
  const TopoDS_Shape plate = BRepPrimAPI_MakeBox(perRow * pitch, perRow * pitch, height).Shape();
  for (auto _ : state) {
    TopTools_ListOfShape stock, tools;
    stock.Append(plate);
    for (int i = 0; i < count; ++i)
      tools.Append(
          BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt((i % perRow + .5) * pitch, (i / perRow + .5) * pitch, -1), gp::DZ()),
                                   radius, height + 2)
              .Shape());
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(stock);
    cut.SetTools(tools);
    cut.SetRunParallel(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

/// From drawn circles to the audited body: regions found, swept, cut, both sides measured.
void kervoCut(benchmark::State& state) {
  const int count = static_cast<int>(state.range(0)), perRow = rows(count);
  const Shape plate = makeBlock("plate", {}, perRow * pitch, perRow * pitch, height);
  std::vector<PlanarCurve> curves;
  for (int i = 0; i < count; ++i)
    curves.push_back(
        {"h" + std::to_string(i), CircleCurve{{(i % perRow + .5) * pitch, (i / perRow + .5) * pitch}, radius}});
  Progress progress;
  for (auto _ : state) {
    const auto regions = findRegions({}, curves, progress);
    const auto swept = sweep("cut", regions, true, SweepLimit::beyond(), SweepLimit::beyond(), plate.box(), progress);
    benchmark::DoNotOptimize(cutSwept(plate, swept, progress));
  }
}

}  // namespace

BENCHMARK(bareKernel)->Name("holes/kernel_one_call")->Arg(100)->Arg(1000)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(kervoCut)->Name("holes/kervo")->Arg(100)->Arg(1000)->Unit(benchmark::kMillisecond)->UseRealTime();
