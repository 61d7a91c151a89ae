// A housing hollowed out: the kernel's thick solid with nothing checked, and Kervo's with its walls measured; a mesh;
// how long it takes to look for room for pegs; letters cut into a rod by the kernel, and engraved.
#include <benchmark/benchmark.h>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepOffsetAPI_MakeThickSolid.hxx>
#include <TopTools_ListOfShape.hxx>

#include "drawing/regions.h"
#include "drawing/text_outline.h"
#include "geom/divide/boolean.h"
#include "geom/kernel/topology_body.h"
#include "geom/mesh/meshed.h"
#include "geom/primitives.h"
#include "geom/surface/engraved.h"
#include "geom/surface/hollowed.h"
#include "geom/surface/inlaid.h"
#include "geom/surface/key_places.h"

namespace {

using namespace kervo;

/// A block with this many bosses on its top.
Shape housing(int bosses) {
  std::vector<Shape> parts{makeBlock("b", {}, 60.0 * (bosses + 1), 60, 40)};
  for (int i = 0; i < bosses; ++i)
    parts.push_back(makeCylinder("c" + std::to_string(i), Plane::through({60.0 * (i + 1), 30, 20}, {0, 0, 1}), 15, 40));
  Progress progress;
  return unite(parts, progress).shape;
}

int bottomOf(const Shape& body) {
  const std::vector<Face> faces = facesOf(body);
  for (std::size_t i = 0; i < faces.size(); ++i)
    if (faces[i].normal().z < -0.9) return static_cast<int>(i);
  return 0;
}

void bareThickSolid(benchmark::State& state) {
  const Shape body = housing(static_cast<int>(state.range(0)));
  TopTools_ListOfShape open;
  open.Append(facesOf(body)[static_cast<std::size_t>(bottomOf(body))].body().face);
  for (auto _ : state) {
    BRepOffsetAPI_MakeThickSolid make;
    make.MakeThickSolidByJoin(body.body().topology, open, -2, 1e-4, BRepOffset_Skin, false, false,
                              GeomAbs_Intersection);
    benchmark::DoNotOptimize(make.Shape());
  }
}

void hollowOut(benchmark::State& state) {
  const Shape body = housing(static_cast<int>(state.range(0)));
  HollowWishes wishes;
  wishes.wall = 2;
  wishes.open = {bottomOf(body)};
  for (auto _ : state) {
    Progress progress;
    benchmark::DoNotOptimize(hollowed(body, wishes, "h", progress));
  }
}

void hollowAMesh(benchmark::State& state) {
  Progress progress;
  const Shape body(meshed(housing(static_cast<int>(state.range(0))), {0.1, 0.3}, progress));
  HollowWishes wishes;
  wishes.wall = 4;
  for (auto _ : state) benchmark::DoNotOptimize(hollowed(body, wishes, "h", progress));
}

void roomForPegs(benchmark::State& state) {
  const Shape low = housing(static_cast<int>(state.range(0)));
  const Shape high =
      makeBlock("h", Plane::through({0, 0, -40}, {0, 0, 1}), 60.0 * (double(state.range(0)) + 1), 60, 40);
  const Face face = facesOf(low)[static_cast<std::size_t>(bottomOf(low))];
  Progress progress;
  for (auto _ : state) {
    const KeyRoom room(low, face, {high}, face.normal(), 8.5, 4, progress);
    constexpr std::size_t pegs = 4;
    benchmark::DoNotOptimize(room.spread(pegs, 8, progress));
  }
}

/// A rod, and letters on it that are to be engraved.
struct Lettered {
  Shape rod = makeCylinder("rod", {}, 20, 60);
  Face side = facesOf(rod).front();
  std::vector<Region> letters;

  Lettered() {
    Progress progress;
    for (const Face& face : facesOf(rod))
      if (!face.plane()) side = face;
    // Beside the seam, which is at +x.
    const Plane plane{{0, -25, 30}, {1, 0, 0}, {0, 0, 1}, {0, -1, 0}};
    for (const Region& region :
         findRegions(plane, textOutline("t", "KERVO 8&3R5B", 6, PlaneMotion::shift({-28, -3})), progress))
      if (region.area() > 6) letters.push_back(region);
  }
  std::vector<Shape> solids(double from, double to) const {
    Progress progress;
    InlayWishes wishes;
    wishes.from = from;
    wishes.to = to;
    return inlaid(letters, side, wishes, "i", progress);
  }
};

void bareCutOfLetters(benchmark::State& state) {
  const Lettered lettered;
  const std::vector<Shape> tools = lettered.solids(-1, 1);
  for (auto _ : state) {
    BRepAlgoAPI_Cut cut;
    TopTools_ListOfShape objects, cutters;
    objects.Append(lettered.rod.body().topology);
    for (const Shape& tool : tools) cutters.Append(tool.body().topology);
    cut.SetArguments(objects);
    cut.SetTools(cutters);
    cut.SetNonDestructive(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

/// The solids made, put in and checked.
void engraveLetters(benchmark::State& state) {
  const Lettered lettered;
  for (auto _ : state) {
    Progress progress;
    const std::vector<Shape> solids = lettered.solids(-1, 0);
    benchmark::DoNotOptimize(engraved(
        lettered.rod, lettered.side, Relief::Taken, solids, [&](std::size_t) { return Shape(); }, progress));
  }
}

}  // namespace

BENCHMARK(bareCutOfLetters)->Unit(benchmark::kMillisecond);
BENCHMARK(engraveLetters)->Unit(benchmark::kMillisecond);
BENCHMARK(bareThickSolid)->Arg(1)->Arg(8)->Unit(benchmark::kMillisecond);
BENCHMARK(hollowOut)->Arg(1)->Arg(8)->Unit(benchmark::kMillisecond);
BENCHMARK(hollowAMesh)->Arg(1)->Unit(benchmark::kMillisecond);
BENCHMARK(roomForPegs)->Arg(1)->Arg(8)->Unit(benchmark::kMillisecond);
