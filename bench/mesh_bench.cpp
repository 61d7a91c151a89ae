// Meshes of a plate with 1000 holes: the kernel's default beside Kervo's, and a hole more on a plate that has one.
#include <benchmark/benchmark.h>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepTools.hxx>

#include "drawing/regions.h"
#include "geom/display/tessellate.h"
#include "geom/divide/perforate.h"
#include "geom/kernel/shape_body.h"
#include "geom/primitives.h"
#include "geom/sweep/sweep.h"

namespace {

using namespace kervo;

constexpr MeshQuality quality{0.1, 0.3};

Shape perforatedPlate(int holes) {
  Progress progress;
  std::vector<PlanarCurve> circles;
  const int side = 32;
  for (int i = 0; i < holes; ++i)
    circles.push_back(
        {"c" + std::to_string(i), CircleCurve{{6.0 + 10 * (i % side), 6.0 + 10 * (i / side)}, 2.0 + 0.3 * (i % 5)}});
  Plane top;
  top.origin = {0, 0, 8};
  const Shape plate = makeBlock("plate", Plane{}, 330, 330, 8);
  const auto swept = sweep("holes", findRegions(top, circles, progress), false, SweepLimit::at(0), SweepLimit::beyond(),
                           plate.box(), progress);
  return cutSwept(plate, swept, progress).outside;
}

void kernelDefault(benchmark::State& state) {
  const Shape plate = perforatedPlate(static_cast<int>(state.range(0)));
  for (auto _ : state) {
    BRepTools::Clean(plate.body().topology);
    BRepMesh_IncrementalMesh(plate.body().topology, quality.deflection, false, quality.angleRadians, false);
  }
}

void tessellated(benchmark::State& state) {
  const Shape plate = perforatedPlate(static_cast<int>(state.range(0)));
  Progress progress;
  for (auto _ : state) {
    BRepTools::Clean(plate.body().topology);
    benchmark::DoNotOptimize(tessellate(plate, quality, progress));
  }
}

void tessellatedAgain(benchmark::State& state) {
  const Shape plate = perforatedPlate(static_cast<int>(state.range(0)));
  Progress progress;
  tessellate(plate, quality, progress);
  for (auto _ : state) benchmark::DoNotOptimize(tessellate(plate, quality, progress));
}

BENCHMARK(kernelDefault)
    ->Name("mesh of a plate with holes/kernel's default")
    ->Arg(1000)
    ->Iterations(1)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(tessellated)->Name("mesh of a plate with holes/Kervo")->Arg(1000)->Unit(benchmark::kMillisecond);
BENCHMARK(tessellatedAgain)->Name("mesh of a plate with holes/Kervo, kept")->Arg(1000)->Unit(benchmark::kMillisecond);

}  // namespace
