// Writing bodies: what the kernel takes to write and read a file, and Kervo with and without reading it back.
#include <benchmark/benchmark.h>
#include <unistd.h>
#include <BinTools.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <STEPCAFControl_Writer.hxx>

#include <filesystem>

#include "drawing/regions.h"
#include "exchange/body_file.h"
#include "exchange/kervo_file.h"
#include "exchange/shape_bytes.h"
#include "exchange/step_exchange.h"
#include "geom/divide/perforate.h"
#include "geom/kernel/shape_body.h"
#include "geom/primitives.h"
#include "geom/sweep/profile.h"
#include "geom/sweep/sweep.h"
#include "steps/registry.h"

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

/// So many plates of different sizes with 24 holes each.
std::vector<FileBody> plates(std::int64_t count) {
  Progress progress;
  std::vector<FileBody> result;
  for (std::int64_t n = 0; n < count; ++n) {
    const double x = static_cast<double>(n % 50) * 100, y = static_cast<double>(n / 50) * 100;
    std::vector<PlanarCurve> curves;
    for (int i = 0; i < 24; ++i)
      curves.push_back({"h" + std::to_string(i), CircleCurve{{x + i % 6 * 10 + 8.0, y + i / 6 * 10 + 8.0}, 3}});
    const Shape plate =
        makeBlock("plate", Plane::through({x, y, 0}, {0, 0, 1}), 70, 50, 3 + static_cast<double>(n) * 1e-3);
    const auto holes = sweep("cut", findRegions({}, curves, progress), true, SweepLimit::beyond(), SweepLimit::beyond(),
                             plate.box(), progress);
    result.push_back({"plate", cutSwept(plate, holes, progress).outside, std::nullopt, ""});
  }
  return result;
}

std::filesystem::path ownFile() {
  return std::filesystem::temp_directory_path() / ("kervo-bench-" + std::to_string(getpid()) + ".kervo");
}

/// The kernel reads the same shapes from its own binary format, one after another.
void kernelReadsBinary(benchmark::State& state) {
  std::vector<std::string> stored;
  for (const FileBody& body : plates(state.range(0))) stored.push_back(shapeToBytes(body.shape));
  for (auto _ : state)
    for (const std::string& bytes : stored) {
      std::istringstream stream(bytes);
      TopoDS_Shape shape;
      BinTools::Read(shape, stream);
      benchmark::DoNotOptimize(shape);
    }
}

void kervoOpens(benchmark::State& state) {
  Progress progress;
  writeDocument(ownFile(), withBroughtIn({}, {plates(state.range(0)), "mm", {}}, "plates", allStepKinds()), progress);
  for (auto _ : state) benchmark::DoNotOptimize(readDocument(ownFile(), allStepKinds(), progress));
  std::filesystem::remove(ownFile());
}

}  // namespace

#define EACH_SIZE Arg(300)->Arg(3000)->Iterations(1)->Unit(benchmark::kMillisecond)->UseRealTime()
BENCHMARK(kernelReadsBinary)->Name("own file/kernel reads the same shapes")->EACH_SIZE;
BENCHMARK(kervoOpens)->Name("own file/Kervo opens")->EACH_SIZE;
#define EACH_PART DenseRange(0, 2)->Unit(benchmark::kMillisecond)->UseRealTime()
BENCHMARK(kernelWrites)->Name("step file/kernel writes")->EACH_PART;
BENCHMARK(kernelReads)->Name("step file/kernel reads")->EACH_PART;
BENCHMARK(kervoWritesOnly)->Name("step file/Kervo writes")->EACH_PART;
BENCHMARK(kervoComparesToo)->Name("step file/Kervo writes and reads back")->EACH_PART;
