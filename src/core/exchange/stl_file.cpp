#include "exchange/stl_file.h"

#include <array>
#include <bit>
#include <cmath>
#include <cstring>
#include <fstream>

#include "base/error.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/mesh_file.h"

namespace kervo {

namespace {

static_assert(std::endian::native == std::endian::little, "STL has its numbers in this order");

constexpr std::size_t headerSize = 80, countSize = 4, triangleSize = 50;
constexpr char headerStart[] = "Kervo, lengths in ";  // for the machine

using Row = std::array<float, 3>;

void append(std::string& bytes, const void* from, std::size_t size) {
  bytes.append(static_cast<const char*>(from), size);
}

/// With triangles whose corners are in one place left out.
class Triangles {
 public:
  void add(const std::array<Point, 3>& corners) {
    const Mesh::Triangle triangle{points_.numberOf(corners[0]), points_.numberOf(corners[1]),
                                  points_.numberOf(corners[2])};
    if (triangle[0] != triangle[1] && triangle[1] != triangle[2] && triangle[2] != triangle[0])
      triangles_.push_back(triangle);
  }
  void expect(std::size_t count) {
    points_.expect(count / 2 + 2);
    triangles_.reserve(count);
  }
  Mesh take() { return {points_.take(), std::move(triangles_)}; }

 private:
  Welder points_;
  std::vector<Mesh::Triangle> triangles_;
};

std::vector<MeshBody> fromBinary(const std::string& bytes, const std::filesystem::path& path, Progress& progress) {
  const std::size_t count = (bytes.size() - headerSize - countSize) / triangleSize;
  Triangles triangles;
  triangles.expect(count);
  for (std::size_t t = 0; t < count; ++t) {
    if (t % 65536 == 0) {
      progress.throwIfStopped();
      progress.report(static_cast<double>(t) / static_cast<double>(count));
    }
    std::array<Row, 4> rows{};
    std::memcpy(rows.data(), bytes.data() + headerSize + countSize + t * triangleSize, sizeof rows);
    std::array<Point, 3> corners{};
    for (std::size_t i = 0; i < 3; ++i) {
      corners[i] = {rows[i + 1][0], rows[i + 1][1], rows[i + 1][2]};
      if (!std::isfinite(corners[i].x + corners[i].y + corners[i].z))
        throw FileError(say("triangle %1 has a corner that is not a number", t + 1), path.string(),
                        say("The file is damaged, or was written by a program that errs"));
    }
    triangles.add(corners);
  }
  std::vector<MeshBody> bodies;
  bodies.push_back({"", triangles.take(), std::nullopt});
  return bodies;
}

std::vector<MeshBody> fromText(const std::string& text, const std::filesystem::path& path, const ReadWishes& wishes,
                               std::vector<LostPart>& lost, Progress& progress) {
  LineReader lines(text, path.string());
  std::vector<MeshBody> bodies;
  Triangles triangles;
  std::string name;
  bool open = false;
  std::array<Point, 3> corners{};
  std::size_t cornerCount = 0, count = 0;
  while (lines.nextLine()) {
    const std::string_view word = lines.word();
    if (word == "vertex") {
      if (!open || cornerCount == 3) lines.fail(say("there is a corner that belongs to no triangle"));
      const double x = lines.number(), y = lines.number(), z = lines.number();
      corners[cornerCount++] = {x, y, z};
    } else if (word == "endfacet") {
      if (cornerCount != 3) lines.fail(say("a triangle has %1 corners", cornerCount));
      triangles.add(corners);
      cornerCount = 0;
      if (++count % 65536 == 0) progress.throwIfStopped();
    } else if (word == "solid") {
      if (open) lines.fail(say("a solid begins before the one before it has ended"));
      open = true;
      name = lines.rest();
    } else if (word == "endsolid") {
      if (!open || cornerCount != 0) lines.fail(say("a solid ends that has not begun, or in the middle of a triangle"));
      open = false;
      bodies.push_back({name, triangles.take(), std::nullopt});
      triangles = {};
    } else if (!word.empty() && word != "facet" && word != "outer" && word != "endloop") {
      lines.fail(say("\"%1\" is not known in an STL file", std::string(word)));
    }
  }
  if (open && !wishes.parts)
    throw BrokenFile(say("the file ends in the middle of a solid"), path.string(),
                     say("It was cut off: get it once more, or bring in only the parts that can be read"));
  if (open) {
    lost.push_back({say("the file ends in the middle of a solid: %1 triangles were there", count)});
    bodies.push_back({name, triangles.take(), std::nullopt});
  }
  if (bodies.empty()) lines.fail(say("this is not an STL file"));
  return bodies;
}

/// The unit that Kervo itself wrote into the header.
std::string unitIn(const std::string& bytes) {
  if (!bytes.starts_with(headerStart)) return {};
  const std::size_t begin = sizeof headerStart - 1;
  return bytes.substr(begin, bytes.find(' ', begin) - begin);
}

}  // namespace

const Format& stlFormat() {
  static const Format format{.name = "STL",
                             .extensions = {".stl"},
                             .mimeTypes = {"model/stl"},
                             .carries = later("nothing else: triangles"),
                             .triangles = true,
                             .unitless = true,
                             .read = readStl,
                             .write = writeStl};
  return format;
}

FileContents readStl(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress) {
  const std::string bytes = readWhole(path, mostMeshBytes);
  std::vector<LostPart> lost;
  std::uint32_t count = 0;
  if (bytes.size() >= headerSize + countSize) std::memcpy(&count, bytes.data() + headerSize, sizeof count);
  const std::size_t expected = headerSize + countSize + triangleSize * std::size_t{count};
  // Some binary files begin with "solid" as well: what tells them is their size.
  const bool binary = bytes.size() >= headerSize + countSize && bytes.size() == expected;
  if (!binary && !bytes.starts_with("solid")) {
    if (bytes.size() < headerSize + countSize) throw FileError(say("this is not an STL file"), path.string());
    const std::size_t room = (bytes.size() - headerSize - countSize) / triangleSize;
    const std::string happened = say("the file says that it has %1 triangles, but has room for %2", count, room);
    const bool cut = room > 0 && room < count && count <= mostTriangles;
    if (!cut) throw FileError(happened, path.string(), say("It was cut off, or is no STL file: get it once more"));
    if (!wishes.parts)
      throw BrokenFile(happened, path.string(),
                       say("It was cut off: get it once more, or bring in only the parts that can be read"));
    lost.push_back({happened});
  }
  const bool text = !binary && lost.empty();
  std::vector<MeshBody> bodies =
      text ? fromText(bytes, path, wishes, lost, progress) : fromBinary(bytes, path, progress);
  FileContents contents = contentsOf(std::move(bodies), wishes.unit, text ? std::string() : unitIn(bytes), path);
  contents.lost.insert(contents.lost.end(), lost.begin(), lost.end());
  return contents;
}

void writeStl(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress) {
  // A header that begins with "solid" would be taken for text.
  std::string bytes = headerStart + wishes.unit;
  bytes.resize(headerSize, ' ');
  std::uint32_t count = 0;
  append(bytes, &count, sizeof count);
  for (const MeshBody& body : meshBodies(bodies, wishes, Precision::Single, path, progress))
    for (const Mesh::Triangle& triangle : body.mesh.triangles()) {
      const auto at = [&](std::size_t k) { return body.mesh.points()[triangle[k]]; };
      const Vector across = cross(at(1) - at(0), at(2) - at(0));
      const double size = length(across);
      const Vector normal = size > 0 ? across * (1 / size) : Vector{};
      for (const Point& row : {normal, at(0), at(1), at(2)}) {
        const Row stored{static_cast<float>(row.x), static_cast<float>(row.y), static_cast<float>(row.z)};
        append(bytes, stored.data(), sizeof stored);
      }
      constexpr std::uint16_t nothing = 0;
      append(bytes, &nothing, sizeof nothing);
      ++count;
    }
  std::memcpy(bytes.data() + headerSize, &count, sizeof count);
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    std::ofstream file(temporary, std::ios::binary);
    file << bytes;
    if (!file.flush())
      throw FileError(say("the file could not be written"), path.string(), say("Check the folder and the free space"));
    if (wishes.readBack == ReadBack::Compare && readWhole(temporary, bytes.size()) != bytes)
      throw FileError(say("the file is not read back as it was written"), path.string(),
                      say("Check the disk, and write to another place"));
  });
}

}  // namespace kervo
