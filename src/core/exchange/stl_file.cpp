// Faces share the points of their edges, so that the triangles of a solid close exactly: every edge of a triangle lies
// against one of another triangle, bit for bit. That is checked before anything is written, on the numbers that the
// file gets.
#include "exchange/stl_file.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstring>
#include <fstream>
#include <limits>
#include <map>
#include <unordered_map>

#include "base/error.h"
#include "base/hash.h"
#include "base/quantity.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "geom/display/tessellate.h"
#include "geom/kernel/call.h"
#include "geom/kernel/shape_body.h"

namespace kervo {

namespace {

static_assert(std::endian::native == std::endian::little, "STL has its numbers in this order");

using Corner = std::array<float, 3>;
using Triangle = std::array<Corner, 3>;

/// As fine as parts are made, whatever the screen needs. A copy is meshed: the body on the screen keeps its triangles.
BodyMesh meshFor(const Shape& shape, Progress& progress) {
  const double diagonal = shape.box().diagonal();
  const MeshQuality quality{std::clamp(diagonal * 1e-4, 1e-3, 10.0), 0.1};
  const Shape copy = kernelCall("copying a body", [&] {
    return makeShape(BRepBuilderAPI_Copy(shape.body().topology, false, false).Shape(), {}, "face");
  });
  return tessellate(copy, quality, progress);
}

/// Gives points that differ by rounding only one place: two faces may know a corner as 0 and as 1e-14.
class Places {
 public:
  explicit Places(double tolerance) : tolerance_(tolerance) {}

  /// The place of a point: the first one within the tolerance, or itself.
  Corner of(const Corner& point) {
    // Of the cells, twice the tolerance wide, all that the point is near to: two along each axis at most.
    std::array<Cell, 8> cells{};
    for (std::size_t i = 0; i < cells.size(); ++i) {
      for (std::size_t k = 0; k < 3; ++k) {
        const double offset = ((i >> k) & 1U) != 0 ? tolerance_ : -tolerance_;
        cells[i][k] = static_cast<std::int64_t>(std::floor((point[k] + offset) / (2 * tolerance_)));
      }
      const auto [first, last] = known_.equal_range(cells[i]);
      for (auto it = first; it != last; ++it)
        if (near(it->second, point)) return it->second;
    }
    Cell own{};
    for (std::size_t k = 0; k < 3; ++k) own[k] = static_cast<std::int64_t>(std::floor(point[k] / (2 * tolerance_)));
    known_.emplace(own, point);
    return point;
  }

 private:
  using Cell = std::array<std::int64_t, 3>;
  struct CellHash {
    std::size_t operator()(const Cell& cell) const {
      return Hasher()
          .add(static_cast<std::uint64_t>(cell[0]))
          .add(static_cast<std::uint64_t>(cell[1]))
          .add(static_cast<std::uint64_t>(cell[2]))
          .key()
          .low;
    }
  };

  bool near(const Corner& a, const Corner& b) const {
    for (std::size_t k = 0; k < 3; ++k)
      if (std::abs(static_cast<double>(a[k]) - b[k]) > tolerance_) return false;
    return true;
  }

  double tolerance_;
  std::unordered_multimap<Cell, Corner, CellHash> known_;
};

/// Those that are left when their corners are rounded to the numbers of the file.
std::vector<Triangle> trianglesOf(const BodyMesh& mesh, double scale) {
  std::vector<Triangle> result;
  result.reserve(mesh.triangleCount());
  double largest = 0;
  for (const float coordinate : mesh.points) largest = std::max(largest, std::abs(coordinate * scale));
  constexpr double roundings = 4 * std::numeric_limits<float>::epsilon();
  Places places(largest * roundings);
  const auto corner = [&](std::uint32_t vertex) {
    Corner place{};
    for (std::size_t k = 0; k < 3; ++k)
      place[k] = static_cast<float>(static_cast<double>(mesh.points[3 * std::size_t{vertex} + k]) * scale);
    return places.of(place);
  };
  for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
    const Triangle triangle{corner(mesh.triangles[3 * t]), corner(mesh.triangles[3 * t + 1]),
                            corner(mesh.triangles[3 * t + 2])};
    if (triangle[0] != triangle[1] && triangle[1] != triangle[2] && triangle[2] != triangle[0])
      result.push_back(triangle);
  }
  return result;
}

/// How many edges of triangles have no other triangle on their other side.
std::size_t openEdges(const std::vector<Triangle>& triangles) {
  std::map<std::pair<Corner, Corner>, int> balance;
  for (const Triangle& triangle : triangles)
    for (std::size_t k = 0; k < 3; ++k) {
      const Corner &from = triangle[k], &to = triangle[(k + 1) % 3];
      if (from < to)
        ++balance[{from, to}];
      else
        --balance[{to, from}];
    }
  return static_cast<std::size_t>(
      std::count_if(balance.begin(), balance.end(), [](const auto& edge) { return edge.second != 0; }));
}

std::vector<Triangle> checkedTriangles(const FileBody& body, double scale, const std::filesystem::path& path,
                                       Progress& progress) {
  if (body.shape.kind() == BodyKind::Curve)
    throw FileError(say("\"%1\" is a curve, which has no triangles", body.name), path.string(),
                    say("Leave it out, or write STEP"));
  std::vector<Triangle> triangles = trianglesOf(meshFor(body.shape, progress), scale);
  if (triangles.empty()) throw FileError(say("\"%1\" is too small for a file of this kind", body.name), path.string());
  const std::size_t open = body.shape.kind() == BodyKind::Solid ? openEdges(triangles) : 0;
  if (open > 0)
    throw FileError(say("the triangles of \"%1\" do not close: %2 of their edges lie open", body.name, open),
                    path.string(), say("Repair the body, or write STEP. Nothing was written"));
  return triangles;
}

void append(std::string& bytes, const void* from, std::size_t size) {
  bytes.append(static_cast<const char*>(from), size);
}

void append(std::string& bytes, const Triangle& triangle) {
  const auto at = [&](std::size_t k) { return Point{triangle[k][0], triangle[k][1], triangle[k][2]}; };
  const Vector across = cross(at(1) - at(0), at(2) - at(0));
  const double size = length(across);
  const Vector normal = size > 0 ? across * (1 / size) : Vector{};
  const Corner stored{static_cast<float>(normal.x), static_cast<float>(normal.y), static_cast<float>(normal.z)};
  append(bytes, stored.data(), sizeof stored);
  for (const Corner& corner : triangle) append(bytes, corner.data(), sizeof corner);
  constexpr std::uint16_t nothing = 0;
  append(bytes, &nothing, sizeof nothing);
}

}  // namespace

const Format& stlFormat() {
  static const Format format{.name = "STL",
                             .extensions = {".stl"},
                             .mimeTypes = {"model/stl"},
                             .carries = later("nothing else: triangles"),
                             .write = writeStl};
  return format;
}

void writeStl(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const std::string& unit,
              ReadBack readBack, Progress& progress) {
  constexpr std::size_t headerSize = 80;
  const std::optional<Unit> known = findUnit(unit);
  if (!known || known->dimension != lengthDimension)
    throw Error(say("\"%1\" is not a length unit", unit), "", say("Use mm, cm, m, in or ft"));
  // A header that begins with "solid" would be taken for text.
  std::string bytes = "Kervo, lengths in " + unit;  // for the machine
  bytes.resize(headerSize, ' ');
  std::uint32_t count = 0;
  append(bytes, &count, sizeof count);
  for (std::size_t i = 0; i < bodies.size(); ++i) {
    progress.throwIfStopped();
    progress.enter(static_cast<double>(i) / static_cast<double>(bodies.size()),
                   static_cast<double>(i + 1) / static_cast<double>(bodies.size()), bodies[i].name);
    for (const Triangle& triangle : checkedTriangles(bodies[i], 1 / known->factor, path, progress)) {
      append(bytes, triangle);
      ++count;
    }
  }
  std::memcpy(bytes.data() + headerSize, &count, sizeof count);
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    std::ofstream file(temporary, std::ios::binary);
    file << bytes;
    if (!file.flush())
      throw FileError(say("the file could not be written"), path.string(), say("Check the folder and the free space"));
    if (readBack == ReadBack::Compare && readWhole(temporary, bytes.size()) != bytes)
      throw FileError(say("the file is not read back as it was written"), path.string(),
                      say("Check the disk, and write to another place"));
  });
}

}  // namespace kervo
