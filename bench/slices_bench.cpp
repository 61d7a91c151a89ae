// Slices of many bodies by many planes, beside the kernel's own section faces of the same planes one by one.
#include <benchmark/benchmark.h>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Section.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <TopExp_Explorer.hxx>

#include "base/parallel.h"
#include "geom/divide/boolean.h"
#include "geom/flat/slices.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/planes.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

constexpr int planeCount = 50;

/// Blocks, each with a row of holes along x and one of them with a ball taken away.
std::vector<Shape> bodies(int count) {
  Progress progress;
  std::vector<Shape> result;
  for (int i = 0; i < count; ++i) {
    const double y = i * 50;
    std::vector<Shape> cutters;
    for (int k = 0; k < 4; ++k)
      cutters.push_back(
          makeCylinder("hole", Plane::through({-5, y + 10 + 6 * k, 12 + 2.0 * k}, {1, 0.1, 0.05}), 2, 200));
    cutters.push_back(makeSphere("ball", Plane::through({60, y + 20, 25}, {0, 0, 1}), 11));
    result.push_back(
        divide(makeBlock("block", Plane::through({0, y, 0}, {0, 0, 1}), 120, 40, 30), cutters, progress).outside);
  }
  return result;
}

std::vector<Plane> planes() {
  std::vector<Plane> result;
  for (int i = 0; i < planeCount; ++i) result.push_back(Plane{}.moved(0.3 + 29.4 * i / (planeCount - 1)));
  return result;
}

void slices(benchmark::State& state) {
  const std::vector<Shape> all = bodies(static_cast<int>(state.range(0)));
  const std::vector<Plane> at = planes();
  std::size_t made = 0;
  for (auto _ : state) {
    std::vector<std::vector<Slice>> found(all.size());
    Progress progress;
    inParallel(all.size(), [&](std::size_t i) { found[i] = slicesOf(all[i], at, "s", progress); });
    made = 0;
    for (const auto& each : found) made += each.size();
  }
  state.counters["slices"] = static_cast<double>(made);
}
BENCHMARK(slices)->Arg(1)->Arg(20)->Unit(benchmark::kMillisecond)->UseRealTime();

/// The faces, plane by plane, in which a plane meets all bodies.
void slices_kernel(benchmark::State& state) {
  const std::vector<Shape> all = bodies(static_cast<int>(state.range(0)));
  TopTools_ListOfShape tools;
  for (const Shape& shape : all) tools.Append(shape.body().topology);
  int made = 0;
  for (auto _ : state) {
    made = 0;
    for (const Plane& plane : planes()) {
      TopTools_ListOfShape arguments;
      arguments.Append(BRepBuilderAPI_MakeFace(toPln(plane), -10, 200, -10, 2000).Face());
      BRepAlgoAPI_Common common;
      common.SetArguments(arguments);
      common.SetTools(tools);
      common.SetNonDestructive(true);
      common.SetRunParallel(true);
      common.Build();
      for (TopExp_Explorer it(common.Shape(), TopAbs_FACE); it.More(); it.Next()) ++made;
    }
  }
  state.counters["slices"] = made;
}
BENCHMARK(slices_kernel)->Arg(1)->Arg(20)->Unit(benchmark::kMillisecond)->UseRealTime();

/// Only the edges, body by body and plane by plane.
void slices_kernelEdges(benchmark::State& state) {
  const std::vector<Shape> all = bodies(static_cast<int>(state.range(0)));
  for (auto _ : state)
    for (const Shape& shape : all)
      for (const Plane& plane : planes()) {
        BRepAlgoAPI_Section section(shape.body().topology, toPln(plane), false);
        section.SetRunParallel(true);
        section.Build();
        benchmark::DoNotOptimize(section.Shape());
      }
}
BENCHMARK(slices_kernelEdges)->Arg(1)->Arg(20)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace kervo
