// Surfaces: trimmed by many outlines, each divided by all others, blended; the bare kernel's calls beside them.
#include <benchmark/benchmark.h>
#include <BOPAlgo_Builder.hxx>
#include <BRepAlgoAPI_Splitter.hxx>
#include <TopTools_ListOfShape.hxx>

#include <cmath>

#include "geom/curves/curve_body.h"
#include "geom/divide/partition.h"
#include "geom/kernel/shape_body.h"
#include "geom/primitives.h"
#include "geom/surface/blend.h"
#include "geom/surface/loft.h"
#include "geom/surface/outline_cut.h"
#include "geom/surface/projected.h"
#include "geom/surface/sheet.h"

namespace {

using namespace kervo;

/// A wavy spline surface of 200 × 100 mm about a plane.
Shape wavy(const Plane& plane, double phase) {
  LoftOrder order;
  order.solid = false;
  for (int i = 0; i < 6; ++i) {
    const double y = -50 + 20.0 * i;
    std::vector<PlanePoint> points;
    for (int k = 0; k <= 8; ++k) {
      const double x = -100 + 25.0 * k;
      points.push_back({x, 6 * std::sin(0.05 * x + phase) * std::cos(0.04 * y)});
    }
    const Plane upright{plane.origin + plane.y * y, plane.x, plane.normal, plane.y * -1};
    order.sections.push_back({curveBody({SplineArc{upright, Spline::through(points, false)}}, {}), {}});
  }
  Progress progress;
  return lofted(order, "wavy", progress);
}

/// Rings on the ground: 40 outlines with an island each.
Shape rings() {
  std::vector<SpaceCurve> curves;
  for (int i = 0; i < 40; ++i) {
    const Plane at = Plane::through({-90.0 + i % 10 * 20, -30.0 + i / 10 * 20, 40}, {0, 0, 1});
    for (const double radius : {6.0, 3.0}) curves.push_back(CircularArc{at, radius, 0, 2 * M_PI});
  }
  return curveBody(curves, {});
}

void trimKernel(benchmark::State& state) {
  const Shape surface = wavy({}, 0), outlines = rings();
  Progress progress;
  const std::vector<Shape> sheets = cuttingSheets(outlines, surface, {0, 0, -1}, Hits::All, progress);
  for (auto _ : state) {
    TopTools_ListOfShape stock, tools;
    stock.Append(surface.body().topology);
    for (const Shape& sheet : sheets) tools.Append(sheet.body().topology);
    BRepAlgoAPI_Splitter split;
    split.SetArguments(stock);
    split.SetTools(tools);
    split.SetNonDestructive(true);
    split.SetRunParallel(true);
    split.Build();
    benchmark::DoNotOptimize(split.Shape());
  }
}

void trimKervo(benchmark::State& state) {
  const Shape surface = wavy({}, 0), outlines = rings();
  const Hits hits = state.range(0) == 0 ? Hits::All : Hits::Near;
  state.SetLabel(hits == Hits::All ? "right through" : "near side");
  Progress progress;
  for (auto _ : state) {
    const auto pieces = cutByOutlines(surface, {{outlines, {0, 0, -1}, hits}}, progress);
    if (!pieces || pieces->size() != 81) state.SkipWithError("wrong number of pieces");
  }
}

/// Six upright one way, six across.
std::vector<Shape> twelve() {
  std::vector<Shape> all;
  for (int i = 0; i < 6; ++i) {
    const double at = -40 + 15.0 * i;
    all.push_back(wavy(Plane{{at, 0, 0}, {0, 0, 1}, {0, 1, 0}, {-1, 0, 0}}, 0.3 * i));
    all.push_back(wavy(Plane{{0, at, 0}, {0, 0, 1}, {1, 0, 0}, {0, 1, 0}}, 0.4 * i));
  }
  return all;
}

void intersectKernel(benchmark::State& state) {
  const std::vector<Shape> surfaces = twelve();
  for (auto _ : state) {
    BOPAlgo_Builder builder;
    for (const Shape& surface : surfaces) builder.AddArgument(surface.body().topology);
    builder.SetNonDestructive(true);
    builder.SetRunParallel(true);
    builder.Perform();
    benchmark::DoNotOptimize(builder.Shape());
  }
}

void intersectKervo(benchmark::State& state) {
  const std::vector<Shape> surfaces = twelve();
  Progress progress;
  for (auto _ : state) benchmark::DoNotOptimize(partitionOfSurfaces(surfaces, {}, progress));
}

/// The sides of two blocks of eight corners, one above the other.
Shape walls(double radius, double z, const std::string& name) {
  std::vector<SpaceCurve> low, high;
  const auto at = [&](int i, double height) {
    const double angle = 2 * M_PI * i / 8;
    return Point{radius * std::cos(angle), radius * std::sin(angle), height};
  };
  for (int i = 0; i < 8; ++i) {
    low.push_back(Segment{at(i, z), at(i + 1, z)});
    high.push_back(Segment{at(i, z + 10), at(i + 1, z + 10)});
  }
  LoftOrder order{{{curveBody(low, {}), {}}, {curveBody(high, {}), {}}}};
  order.ruled = true;
  order.solid = false;
  Progress progress;
  return lofted(order, name, progress);
}

void blend(benchmark::State& state) {
  const Shape low = walls(20, 0, "low"), high = walls(12, 30, "high");
  const auto border = [](const Shape& shape, double z) {
    for (const Edge& edge : edgesOf(shape))
      if (edge.secondOrigins().empty() && std::abs(edge.middle().z - z) < 1e-6) return edge;
    throw std::logic_error("no border");
  };
  BlendOrder order;
  const Joint joint = state.range(0) == 1 ? Joint::Tangent : Joint::Curvature;
  order.from = {{border(low, 10)}, true, joint, 1};
  order.to = {{border(high, 30)}, true, joint, 1};
  state.SetLabel(joint == Joint::Tangent ? "8 edges, tangent" : "8 edges, curvature");
  Progress progress;
  for (auto _ : state) benchmark::DoNotOptimize(blended(low, high, order, "m", progress));
}

}  // namespace

BENCHMARK(trimKernel)->Name("trim/40_rings_kernel")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(trimKervo)->Name("trim/40_rings_kervo")->DenseRange(0, 1)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(intersectKernel)->Name("intersect/12_splines_kernel")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(intersectKervo)->Name("intersect/12_splines_kervo")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(blend)->Name("blend/kervo")->DenseRange(1, 2)->Unit(benchmark::kMillisecond)->UseRealTime();
