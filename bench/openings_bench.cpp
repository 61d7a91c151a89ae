// A wall with windows: the kernel's removal of faces and a cut anew, and Kervo's shift of one and of many of them with
// all its checks; all openings of a body listed.
#include <benchmark/benchmark.h>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Defeaturing.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <TopTools_ListOfShape.hxx>

#include <algorithm>

#include "geom/kernel/topology_body.h"
#include "geom/openings/filled.h"
#include "geom/openings/flush_cut.h"
#include "geom/openings/opening_wall.h"
#include "geom/openings/openings.h"
#include "geom/primitives.h"

namespace {

using namespace kervo;

constexpr double pitch = 2000, thick = 300;

/// A wall of this many windows, in three rows.
Shape wallWith(int windows) {
  const int columns = (windows + 2) / 3;
  const Shape plain = makeBlock("wall", {}, columns * pitch, thick, 9000);
  std::vector<Shape> tools;
  for (int i = 0; i < windows; ++i)
    tools.push_back(makeBlock("w" + std::to_string(i),
                              Plane::through({(i / 3) * pitch + 400, 0, (i % 3) * 3000.0 + 900}, {0, 0, 1}), 1200,
                              thick, 1300));
  Progress progress;
  return cutFlush(plain, tools, progress).outside;
}

std::vector<Opening> firstOf(const std::vector<Opening>& all, std::size_t count) {
  return {all.begin(), all.begin() + static_cast<std::ptrdiff_t>(std::min(count, all.size()))};
}

/// What a caller of the kernel writes: the faces removed, the hole cut again beside it; nothing found, nothing checked.
void bareKernel(benchmark::State& state) {
  const Shape wall = wallWith(static_cast<int>(state.range(0)));
  const std::vector<Opening> moving = firstOf(openingsOf(wall), static_cast<std::size_t>(state.range(1)));
  const std::vector<Face> faces = facesOf(wall);
  for (auto _ : state) {
    BRepAlgoAPI_Defeaturing removal;
    removal.SetShape(wall.body().topology);
    for (const Opening& each : moving)
      for (const int face : each.faces) removal.AddFaceToRemove(faces[static_cast<std::size_t>(face)].body().face);
    removal.Build();
    TopTools_ListOfShape stock, tools;
    stock.Append(removal.Shape());
    for (const Opening& each : moving) {
      const Point corner = each.frame.at(-600 + 150, -650) + Vector{0, -1, 0};
      tools.Append(BRepPrimAPI_MakeBox(gp_Pnt(corner.x, corner.y, corner.z), 1200, thick + 2, 1300).Shape());
    }
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(stock);
    cut.SetTools(tools);
    cut.SetRunParallel(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

/// From the faces alone to the checked body: openings found, closed, moved, cut.
void shifted(benchmark::State& state) {
  const Shape wall = wallWith(static_cast<int>(state.range(0)));
  Progress progress;
  for (auto _ : state) {
    const std::vector<Opening> all = openingsOf(wall);
    const std::vector<Opening> moving = firstOf(all, static_cast<std::size_t>(state.range(1)));
    std::vector<std::vector<int>> faces;
    for (const Opening& each : moving) faces.push_back(each.faces);
    const Filled filled = kervo::filled(wall, faces, progress);
    std::vector<Shape> solids;
    for (std::size_t i = 0; i < moving.size(); ++i) {
      const OpeningWall its(wall, moving[i]);
      benchmark::DoNotOptimize(its.room(all));
      solids.push_back(moved(filled.fillings[i], its.along(150, 0)));
    }
    benchmark::DoNotOptimize(cutFlush(filled.body, solids, progress));
  }
}

void listed(benchmark::State& state) {
  const Shape wall = wallWith(static_cast<int>(state.range(0)));
  state.counters["faces"] = wall.faceCount();
  for (auto _ : state) benchmark::DoNotOptimize(openingsOf(wall));
}

}  // namespace

BENCHMARK(bareKernel)->Name("openings/kernel_shift")->Args({60, 1})->Args({60, 40})->Unit(benchmark::kMillisecond);
BENCHMARK(shifted)->Name("openings/kervo_shift")->Args({60, 1})->Args({60, 40})->Unit(benchmark::kMillisecond);
BENCHMARK(listed)->Name("openings/kervo_list")->Arg(60)->Arg(498)->Unit(benchmark::kMillisecond);
