// What a movement of the pointer costs over 200 000 triangles, and preparing picks in the worker.
#include <benchmark/benchmark.h>

#include "geom/display/tessellate.h"
#include "geom/primitives.h"
#include "view/picker.h"

namespace {

using namespace kervo;

/// Balls and blocks side by side: some 200 000 triangles.
const Scene& scene() {
  static const Scene made = [] {
    Progress progress;
    Scene result;
    for (int i = 0; i < 64; ++i) {
      Plane place;
      place.origin = {24.0 * (i % 8), 24.0 * (i / 8), 0};
      const std::string id = "b" + std::to_string(i);
      const Shape shape = i % 8 == 0 ? makeBlock(id, place, 20, 20, 20) : makeTorus(id, place, 9, 4);
      result.bodies.push_back({id, id, pictureOf(shape, progress), {}, Role::Plain, 0, true});
    }
    return result;
  }();
  return made;
}

Camera camera() {
  Camera result;
  result.setViewport({1280, 800});
  result.setScene(scene().box());
  result.look(StandardView::Home, scene().box());
  return result;
}

void hover(benchmark::State& state) {
  Picker picker;
  picker.setScene(scene());
  const Camera eye = camera();
  picker.at({640, 400}, 4, eye);
  int i = 0, hits = 0;
  for (auto _ : state) {
    hits += !picker.at({340.0 + 5 * (i % 120), 250.0 + 3 * (i % 100)}, 4, eye).empty();
    ++i;
  }
  state.counters["hit %"] = 100.0 * hits / i;
  state.counters["triangles"] = static_cast<double>(scene().triangleCount());
}

/// The first pick after another scene, which the interface thread does.
void firstPick(benchmark::State& state) {
  const Camera eye = camera();
  for (auto _ : state) {
    Picker picker;
    picker.setScene(scene());
    benchmark::DoNotOptimize(picker.at({640, 400}, 4, eye));
  }
}

void rectangle(benchmark::State& state) {
  Picker picker;
  picker.setScene(scene());
  picker.setFilter({true, true, false, false});
  const Camera eye = camera();
  for (auto _ : state) benchmark::DoNotOptimize(picker.in({300, 200, 600, 400}, Picker::Inclusion::Touching, eye));
}

BENCHMARK(hover)->Name("pick under the pointer")->Unit(benchmark::kMicrosecond);
BENCHMARK(firstPick)->Name("another scene and its first pick")->Unit(benchmark::kMillisecond);
BENCHMARK(rectangle)->Name("pick in a rectangle")->Unit(benchmark::kMillisecond);

}  // namespace
