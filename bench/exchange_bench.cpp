// Writing bodies: what the kernel takes to write and read a file, and Kervo with and without reading it back.
#include <benchmark/benchmark.h>
#include <unistd.h>
#include <STEPCAFControl_Reader.hxx>
#include <STEPCAFControl_Writer.hxx>

#include <filesystem>

#include "drawing/regions.h"
#include "exchange/body_file.h"
#include "exchange/step_exchange.h"
#include "geom/divide/perforate.h"
#include "geom/kernel/shape_body.h"
#include "geom/primitives.h"
#include "geom/sweep/profile.h"
#include "geom/sweep/sweep.h"

namespace {

using namespace kervo;

/// A plate with 1000 holes, and a third-party part of free-form faces.
std::vector<FileBody> bodies(int which) {
  Progress progress;
  if (which == 1) return readBodies("/usr/share/opencascade/data/occ/CrankArm.brep", progress).bodies;
  if (which == 2) return readBodies("/usr/share/opencascade/data/occ/Motor-c.brep", progress).bodies;
  std::vector<PlanarCurve> curves;
  for (int i = 0; i < 1000; ++i)
    curves.push_back({"h" + std::to_string(i), CircleCurve{{i % 32 * 10 + 5.0, i / 32 * 10 + 5.0}, 3}});
  const Shape plate = makeBlock("plate", {}, 320, 320, 5);
  const auto holes = sweep("cut", findRegions({}, curves, progress), true, SweepLimit::beyond(), SweepLimit::beyond(),
                           plate.box(), progress);
  return {{"plate", cutSwept(plate, holes, progress).outside, std::nullopt, ""}};
}

std::filesystem::path file() {
  return std::filesystem::temp_directory_path() / ("kervo-bench-" + std::to_string(getpid()) + ".step");
}

void kernelWrites(benchmark::State& state) {
  const auto written = bodies(static_cast<int>(state.range(0)));
  prepareStep();
  for (auto _ : state) {
    StepExchange exchange;
    for (const FileBody& body : written) exchange.shapes->AddShape(body.shape.body().topology, false);
    STEPCAFControl_Writer writer;
    writer.Transfer(exchange.document());
    writer.Write(file().c_str());
  }
  std::filesystem::remove(file());
}

void kernelReads(benchmark::State& state) {
  Progress progress;
  writeBodies(file(), bodies(static_cast<int>(state.range(0))), "mm", progress, ReadBack::Skip);
  for (auto _ : state) {
    StepExchange exchange;
    STEPCAFControl_Reader reader;
    reader.ReadFile(file().c_str());
    reader.Transfer(exchange.document());
  }
  std::filesystem::remove(file());
}

void kervoWrites(benchmark::State& state, ReadBack readBack) {
  Progress progress;
  const auto written = bodies(static_cast<int>(state.range(0)));
  for (auto _ : state) writeBodies(file(), written, "mm", progress, readBack);
  std::filesystem::remove(file());
}

void kervoWritesOnly(benchmark::State& state) {
  kervoWrites(state, ReadBack::Skip);
}
void kervoComparesToo(benchmark::State& state) {
  kervoWrites(state, ReadBack::Compare);
}

}  // namespace

#define EACH_PART DenseRange(0, 2)->Unit(benchmark::kMillisecond)->UseRealTime()
BENCHMARK(kernelWrites)->Name("step file/kernel writes")->EACH_PART;
BENCHMARK(kernelReads)->Name("step file/kernel reads")->EACH_PART;
BENCHMARK(kervoWritesOnly)->Name("step file/Kervo writes")->EACH_PART;
BENCHMARK(kervoComparesToo)->Name("step file/Kervo writes and reads back")->EACH_PART;
