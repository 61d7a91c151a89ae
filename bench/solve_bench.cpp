// Drawings solved from a disturbed start, and dragged. There is no bare kernel beside it: it has no constraints.
#include <benchmark/benchmark.h>

#include <cmath>
#include <random>

#include "drawing/solve.h"
#include "geom/planes.h"

namespace kervo {
namespace {

constexpr double pi = 3.14159265358979323846;

struct Made {
  Drawing drawing;
  DrawingValues values;
};

/// Chains of lines. Their directions are held by a third of horizontals and verticals, right angles and angles each,
/// their lengths by dimensions; `loose` lengths at the end of each chain are left out.
Made chains(int groups, int linesEach, int loose) {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> off(-0.3, 0.3);
  Made made;
  int constraints = 0;
  const auto hold = [&](const char* kind, std::vector<std::string> on, std::optional<double> value = {}) {
    made.drawing.constraints.push_back({.id = "k" + std::to_string(++constraints), .kind = kind, .on = std::move(on)});
    if (value) made.drawing.constraints.back().value = Expression("1 mm");
    made.values.constraints.push_back(value.value_or(0));
  };
  for (int group = 0; group < groups; ++group) {
    double angle = 0;
    PlanePoint at{0, 300.0 * group};
    std::string last = "p" + std::to_string(made.drawing.points.size() + 1), lastLine;
    made.drawing.points.push_back({last, at});
    hold("fixed", {last});
    for (int i = 0; i < linesEach; ++i) {
      const double before = angle;
      if (i % 3 == 0) angle = i % 2 ? pi / 2 : 0;
      if (i % 3 == 1) angle = before + pi / 2;
      if (i % 3 == 2) angle = before - 0.7;
      const double size = 5 + i % 7;
      at = at + PlanePoint{std::cos(angle), std::sin(angle)} * size;
      const std::string next = "p" + std::to_string(made.drawing.points.size() + 1);
      const std::string line = "c" + std::to_string(made.drawing.curves.size() + 1);
      made.drawing.points.push_back({next, at + PlanePoint{off(random), off(random)}});
      made.drawing.curves.push_back({.id = line, .kind = "line", .numbers = {}, .points = {last, next}});
      made.values.numbers.emplace_back();
      if (i % 3 == 0) hold(i % 2 ? "vertical" : "horizontal", {line});
      if (i % 3 == 1) hold("perpendicular", {lastLine, line});
      if (i % 3 == 2) hold("angle", {lastLine, line}, 0.7);
      if (i < linesEach - loose) hold("length", {line}, size);
      last = next;
      lastLine = line;
    }
  }
  return made;
}

void require(benchmark::State& state, const Solution& solution, int freedoms) {
  if (!solution.holds() || solution.freedoms != freedoms || solution.residual > 1e-9)
    state.SkipWithError("the drawing was not solved");
}

/// 200 connected curves, 400 constraints.
void solveConnected(benchmark::State& state) {
  const Made made = chains(1, static_cast<int>(state.range(0)), 1);
  for (auto _ : state) require(state, solve(made.drawing, made.values), 1);
  state.counters["curves"] = static_cast<double>(made.drawing.curves.size());
  state.counters["constraints"] = static_cast<double>(made.drawing.constraints.size());
}
BENCHMARK(solveConnected)->Arg(50)->Arg(100)->Arg(200)->Arg(400)->Unit(benchmark::kMillisecond);

/// In groups of 40.
void solveInGroups(benchmark::State& state) {
  const Made made = chains(static_cast<int>(state.range(0)) / 40, 40, 1);
  for (auto _ : state) require(state, solve(made.drawing, made.values), static_cast<int>(state.range(0)) / 40);
}
BENCHMARK(solveInGroups)->Arg(200)->Arg(800)->Arg(3200)->Unit(benchmark::kMillisecond);

/// One frame: the last point of 200 connected curves is dragged on by 1 mm.
void dragConnected(benchmark::State& state) {
  Made made = chains(1, static_cast<int>(state.range(0)), 40);
  made.drawing = moved(made.drawing, solve(made.drawing, made.values));
  const Drag drag{{made.drawing.points.size() - 1}, {1, 0.5}};
  for (auto _ : state) {
    const Solution solution = dragged(made.drawing, made.values, drag);
    if (solution.residual > 1e-9) state.SkipWithError("the drawing was not solved");
  }
}
BENCHMARK(dragConnected)->Arg(50)->Arg(200)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace kervo
