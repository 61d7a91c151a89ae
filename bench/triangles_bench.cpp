// Meshes beside the libraries' own ways: subtracted, split by a plane, read; and STEP files of many bodies.
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Polygon_mesh_processing/clip.h>
#include <CGAL/Polygon_mesh_processing/corefinement.h>
#include <CGAL/Surface_mesh.h>
#include <benchmark/benchmark.h>
#include <unistd.h>
#include <RWStl.hxx>
#include <STEPCAFControl_Reader.hxx>

#include <filesystem>

#include "exchange/body_file.h"
#include "exchange/step_exchange.h"
#include "geom/display/tessellate.h"
#include "geom/divide/boolean.h"
#include "geom/divide/plane_split.h"
#include "geom/primitives.h"
#include "support/meshes.h"

namespace {

using namespace kervo;
using Space = CGAL::Exact_predicates_inexact_constructions_kernel;
using CgalMesh = CGAL::Surface_mesh<Space::Point_3>;
namespace processing = CGAL::Polygon_mesh_processing;

/// Rings of a ball of so many triangles.
int ringsFor(double triangles) {
  return static_cast<int>(std::lround(std::sqrt(triangles) / 2));
}

Mesh stock(double triangles) {
  return test::ballMesh({0, 0, 0}, 10, ringsFor(triangles));
}
Mesh cutter(double triangles) {
  return test::ballMesh({7.123, 1.1, 0.7}, 9, ringsFor(triangles));
}

CgalMesh cgalOf(const Mesh& mesh) {
  CgalMesh result;
  for (const Point& point : mesh.points()) result.add_vertex({point.x, point.y, point.z});
  for (const Mesh::Triangle& c : mesh.triangles())
    result.add_face(CgalMesh::Vertex_index(c[0]), CgalMesh::Vertex_index(c[1]), CgalMesh::Vertex_index(c[2]));
  return result;
}

const Plane tilted = Plane::through({0, 0, 0.3}, {0.1, 0.2, 1});

void cgalSubtracts(benchmark::State& state) {
  const CgalMesh first = cgalOf(stock(1e5)), second = cgalOf(cutter(1e5));
  for (auto _ : state) {
    CgalMesh a = first, b = second, result;
    processing::corefine_and_compute_difference(a, b, result);
    benchmark::DoNotOptimize(result.number_of_faces());
  }
}

void kervoSubtracts(benchmark::State& state) {
  const Shape a(stock(1e5)), b(cutter(1e5));
  Progress progress;
  for (auto _ : state) benchmark::DoNotOptimize(divide(a, {b}, progress).outside.volume());
}

void cgalClips(benchmark::State& state) {
  const CgalMesh whole = cgalOf(stock(1e6));
  for (auto _ : state) {
    CgalMesh half = whole;
    processing::clip(
        half, Space::Plane_3(tilted.normal.x, tilted.normal.y, tilted.normal.z, -dot(tilted.normal, tilted.origin)),
        CGAL::parameters::clip_volume(true));
    benchmark::DoNotOptimize(half.number_of_faces());
  }
}

void kervoSplits(benchmark::State& state) {
  const Shape whole(stock(1e6));
  Progress progress;
  for (auto _ : state)
    benchmark::DoNotOptimize(splitByPlane("s", whole, tilted, Kerf::centred(0), progress).front.size());
}

std::filesystem::path file(const char* ending) {
  return std::filesystem::temp_directory_path() / ("kervo-bench-" + std::to_string(getpid()) + ending);
}

void writeBall() {
  Progress progress;
  writeBodies(file(".stl"), {{"ball", Shape(stock(1e6)), std::nullopt, ""}}, "mm", progress, ReadBack::Skip);
}

void kernelReadsStl(benchmark::State& state) {
  writeBall();
  for (auto _ : state) benchmark::DoNotOptimize(RWStl::ReadFile(file(".stl").c_str())->NbTriangles());
  std::filesystem::remove(file(".stl"));
}

/// As far as to the triangles for the screen.
void kervoReadsStl(benchmark::State& state) {
  writeBall();
  Progress progress;
  for (auto _ : state) {
    const FileContents contents = readBodies(file(".stl"), progress);
    benchmark::DoNotOptimize(meshForDisplay(*contents.bodies.front().shape.mesh()).triangleCount());
  }
  std::filesystem::remove(file(".stl"));
}

void writeBlocks(std::int64_t count) {
  Progress progress;
  std::vector<FileBody> bodies;
  for (std::int64_t i = 0; i < count; ++i) {
    const auto at = static_cast<double>(i);
    const Shape block = makeBlock("b", Plane::through({20 * at, 0, 0}, {0, 0, 1}), 10, 10, 10);
    const Shape hole = makeCylinder("h", Plane::through({20 * at + 5, 5, -1}, {0, 0, 1}), 3, 12);
    bodies.push_back({"Block " + std::to_string(i), divide(block, {hole}, progress).outside,
                      Color{static_cast<double>(i % 7) / 7, 0.5, 0.5}, ""});
  }
  writeBodies(file(".step"), bodies, "mm", progress, ReadBack::Skip);
}

void kernelReadsMany(benchmark::State& state) {
  writeBlocks(state.range(0));
  prepareStep();
  for (auto _ : state) {
    StepExchange exchange;
    STEPCAFControl_Reader reader;
    reader.ReadFile(file(".step").c_str());
    reader.Transfer(exchange.document());
  }
  std::filesystem::remove(file(".step"));
}

void kervoReadsMany(benchmark::State& state) {
  writeBlocks(state.range(0));
  Progress progress;
  for (auto _ : state) benchmark::DoNotOptimize(readBodies(file(".step"), progress).bodies.size());
  std::filesystem::remove(file(".step"));
}

}  // namespace

BENCHMARK(cgalSubtracts)->Name("meshes/subtract two of 100k/CGAL")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(kervoSubtracts)->Name("meshes/subtract two of 100k/Kervo")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(cgalClips)->Name("meshes/split 1M by a plane/CGAL, one side")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(kervoSplits)->Name("meshes/split 1M by a plane/Kervo")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(kernelReadsStl)->Name("meshes/read STL of 1M/kernel")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(kervoReadsStl)
    ->Name("meshes/read STL of 1M/Kervo, for the screen")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
#define MANY Arg(300)->Arg(3000)->Iterations(1)->Unit(benchmark::kMillisecond)->UseRealTime()
BENCHMARK(kernelReadsMany)->Name("step of many/kernel")->MANY;
BENCHMARK(kervoReadsMany)->Name("step of many/Kervo")->MANY;
