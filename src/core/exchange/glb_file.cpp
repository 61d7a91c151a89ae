#include "exchange/glb_file.h"

#include <array>
#include <cmath>
#include <cstring>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "base/error.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/body_tree.h"
#include "exchange/glb_format.h"
#include "exchange/mesh_file.h"
#include "geom/mesh/mesh_pieces.h"

namespace kervo {

namespace {

using nlohmann::json;
using namespace glb;

constexpr int modeStrip = 5, modeFan = 6;

// The standard has its colours in linear light, Kervo as they are typed (IEC 61966-2-1).
double fromLinear(double value) {
  return value <= 0.0031308 ? value * 12.92 : 1.055 * std::pow(value, 1 / 2.4) - 0.055;
}

/// Columns of three numbers and a move.
struct Place {
  std::array<Vector, 3> columns{Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}};
  Point moved{};

  Vector turned(Vector v) const { return columns[0] * v.x + columns[1] * v.y + columns[2] * v.z; }
  Point operator()(Point p) const { return turned(p) + moved; }
  Place within(const Place& outer) const {
    return {{outer.turned(columns[0]), outer.turned(columns[1]), outer.turned(columns[2])}, outer(moved)};
  }
  bool mirrors() const { return dot(cross(columns[0], columns[1]), columns[2]) < 0; }
};

class GlbReader {
 public:
  GlbReader(const std::string& bytes, std::string file, Progress& progress)
      : bytes_(bytes), file_(std::move(file)), progress_(progress) {}

  std::vector<MeshBody> run() {
    readChunks();
    refuseWhatIsRequired();
    const json& nodes = list("nodes");
    std::vector<std::size_t> roots;
    if (const json& scenes = list("scenes"); !scenes.empty()) {
      const std::size_t scene = number(root_.value("scene", json(0)), scenes.size(), "scene");
      for (const json& each : part(scenes[scene], "nodes", json::array()))
        roots.push_back(number(each, nodes.size(), "node"));
    } else {
      std::set<std::size_t> inner;
      for (const json& node : nodes)
        for (const json& each : part(node, "children", json::array())) inner.insert(number(each, nodes.size(), "node"));
      for (std::size_t i = 0; i < nodes.size(); ++i)
        if (!inner.contains(i)) roots.push_back(i);
    }
    for (const std::size_t node : roots) addNode(node, Place(), {}, 0);
    return std::move(bodies_);
  }

 private:
  static constexpr std::size_t mostDepth = 200;

  [[noreturn]] void fail(const std::string& what, const std::string& help = {}) const {
    throw FileError(what, file_,
                    help.empty() ? say("The file is damaged, or was written by a program that errs") : help);
  }

  void readChunks() {
    std::array<std::uint32_t, 3> head{};
    if (bytes_.size() < sizeof head) fail(say("this is not a GLB file"));
    std::memcpy(head.data(), bytes_.data(), sizeof head);
    if (head[0] != magic) fail(say("this is not a GLB file"));
    if (head[1] != 2) fail(say("its version is %1, and Kervo reads version 2", head[1]));
    if (head[2] > bytes_.size()) fail(say("it is cut off"), say("Get it once more"));
    std::size_t at = sizeof head;
    while (at + 8 <= head[2]) {
      std::array<std::uint32_t, 2> chunk{};
      std::memcpy(chunk.data(), bytes_.data() + at, sizeof chunk);
      at += sizeof chunk;
      if (chunk[0] > head[2] - at) fail(say("it is cut off"), say("Get it once more"));
      if (chunk[1] == jsonChunk && root_.is_null()) {
        root_ = json::parse(bytes_.begin() + static_cast<std::ptrdiff_t>(at),
                            bytes_.begin() + static_cast<std::ptrdiff_t>(at + chunk[0]), nullptr, false);
        if (!root_.is_object()) fail(say("its description is not sound JSON"));
      } else if (chunk[1] == binaryChunk && binary_.empty()) {
        binary_ = std::string_view(bytes_.data() + at, chunk[0]);
      }
      at += chunk[0];
    }
    if (!root_.is_object()) fail(say("it has no description"));
  }

  void refuseWhatIsRequired() const {
    static const std::set<std::string> harmless{"KHR_materials_unlit", "KHR_texture_transform"};
    for (const json& each : part(root_, "extensionsRequired", json::array()))
      if (!each.is_string() || !harmless.contains(each.get<std::string>()))
        fail(
            say("it needs \"%1\", which Kervo does not read", each.is_string() ? each.get<std::string>() : each.dump()),
            say("Write it without compression"));
  }

  const json& list(const char* key) const {
    static const json none = json::array();
    const auto found = root_.find(key);
    if (found == root_.end()) return none;
    if (!found->is_array()) fail(say("\"%1\" in it is no list", std::string(key)));
    return *found;
  }

  static json part(const json& object, const char* key, json standard) {
    if (!object.is_object()) return standard;
    const auto found = object.find(key);
    return found == object.end() || found->type() != standard.type() ? standard : *found;
  }

  /// A place in a list of so many.
  std::size_t number(const json& value, std::size_t count, const char* what) const {
    if (!value.is_number_integer() || value.get<double>() < 0 || value.get<double>() >= static_cast<double>(count))
      fail(say("it names a %1 that is not there: %2", std::string(what), value.dump()));
    return value.get<std::size_t>();
  }

  std::size_t sizeAt(const json& object, const char* key, std::size_t standard) const {
    const auto found = object.find(key);
    if (found == object.end()) return standard;
    if (!found->is_number_integer() || found->get<double>() < 0 || found->get<double>() > 4e9)
      fail(say("\"%1\" in it is no size: %2", std::string(key), found->dump()));
    return found->get<std::size_t>();
  }

  std::vector<double> numbersAt(const json& object, const char* key, std::size_t count) const {
    const json values = part(object, key, json::array());
    if (values.size() != count) return {};
    std::vector<double> result;
    for (const json& each : values) {
      if (!each.is_number()) fail(say("\"%1\" in it holds something that is no number", std::string(key)));
      result.push_back(each.get<double>());
    }
    return result;
  }

  Place placeOf(const json& node) const {
    Place place;
    if (const auto m = numbersAt(node, "matrix", 16); !m.empty()) {
      for (std::size_t c = 0; c < 3; ++c) place.columns[c] = {m[4 * c], m[4 * c + 1], m[4 * c + 2]};
      place.moved = {m[12], m[13], m[14]};
      return place;
    }
    if (const auto q = numbersAt(node, "rotation", 4); !q.empty()) {
      const double x = q[0], y = q[1], z = q[2], w = q[3];
      place.columns[0] = {1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)};
      place.columns[1] = {2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)};
      place.columns[2] = {2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)};
    }
    if (const auto s = numbersAt(node, "scale", 3); !s.empty())
      for (std::size_t c = 0; c < 3; ++c) place.columns[c] = place.columns[c] * s[c];
    if (const auto t = numbersAt(node, "translation", 3); !t.empty()) place.moved = {t[0], t[1], t[2]};
    return place;
  }

  void addNode(std::size_t index, const Place& outer, std::vector<std::string> within, std::size_t depth) {
    progress_.throwIfStopped();
    if (depth > mostDepth || ++nodeCount_ > 1'000'000) fail(say("its nodes lie in each other without end"));
    const json& nodes = list("nodes");
    const json& node = nodes[index];
    if (!node.is_object()) fail(say("it has a node that is none"));
    const Place place = placeOf(node).within(outer);
    const std::string name = part(node, "name", json("")).get<std::string>();
    const auto mesh = node.find("mesh");
    if (mesh != node.end()) addMesh(number(*mesh, list("meshes").size(), "mesh"), place, name, within);
    if (mesh == node.end() && !name.empty()) within.push_back(name);
    for (const json& child : part(node, "children", json::array()))
      addNode(number(child, nodes.size(), "node"), place, within, depth + 1);
  }

  /// Where the numbers of an accessor lie.
  struct Numbers {
    std::string_view bytes;
    std::size_t count = 0, stride = 0;
    int type = 0;

    template <class T>
    T at(std::size_t element, std::size_t which) const {
      T value;
      std::memcpy(&value, bytes.data() + element * stride + which * sizeof(T), sizeof value);
      return value;
    }
  };

  Numbers numbersOf(const json& accessorNumber, std::size_t each) const {
    const json& accessors = list("accessors");
    const json& accessor = accessors[number(accessorNumber, accessors.size(), "accessor")];
    if (!accessor.is_object() || accessor.contains("sparse") || !accessor.contains("bufferView"))
      fail(say("its numbers are kept in a way that Kervo does not read"), say("Write it without compression"));
    const json& views = list("bufferViews");
    const json& view = views[number(accessor["bufferView"], views.size(), "view")];
    if (!view.is_object()) fail(say("it has a buffer view that is none"));
    const json& buffers = list("buffers");
    const std::size_t buffer = number(view.value("buffer", json(0)), buffers.size(), "buffer");
    if (buffer != 0 || (buffers[0].is_object() && buffers[0].contains("uri")))
      fail(say("its numbers lie in another file"), say("Write it as one .glb file"));
    Numbers numbers;
    numbers.type = static_cast<int>(sizeAt(accessor, "componentType", 0));
    const std::size_t size = numbers.type == typeByte                               ? 1
                             : numbers.type == typeShort                            ? 2
                             : numbers.type == typeFloat || numbers.type == typeInt ? 4
                                                                                    : 0;
    if (size == 0) fail(say("it has numbers of the type %1", numbers.type));
    numbers.count = sizeAt(accessor, "count", 0);
    const std::size_t offset = sizeAt(view, "byteOffset", 0), length = sizeAt(view, "byteLength", 0),
                      within = sizeAt(accessor, "byteOffset", 0), row = size * each;
    numbers.stride = sizeAt(view, "byteStride", row);
    if (offset > binary_.size() || length > binary_.size() - offset || numbers.stride < row ||
        (numbers.count > 0 &&
         (within > length || row > length - within ||
          (numbers.count - 1) > (length - within - row) / std::max<std::size_t>(numbers.stride, 1))))
      fail(say("its numbers reach beyond its end"));
    numbers.bytes = binary_.substr(offset + within);
    return numbers;
  }

  Paint paintOfMaterial(const json& primitive) const {
    const auto found = primitive.find("material");
    if (found == primitive.end()) return 0;
    const json& materials = list("materials");
    const json& material = materials[number(*found, materials.size(), "material")];
    const auto color = numbersAt(part(material, "pbrMetallicRoughness", json::object()), "baseColorFactor", 4);
    if (color.empty()) return 0;
    return paintOf({fromLinear(color[0]), fromLinear(color[1]), fromLinear(color[2])});
  }

  void addMesh(std::size_t index, const Place& place, const std::string& nodeName,
               const std::vector<std::string>& within) {
    const json& mesh = list("meshes")[index];
    if (!mesh.is_object()) fail(say("it has a mesh that is none"));
    const std::string name = nodeName.empty() ? part(mesh, "name", json("")).get<std::string>() : nodeName;
    Welder points;
    std::vector<Mesh::Triangle> triangles;
    std::vector<Paint> paints;
    try {
      for (const json& primitive : part(mesh, "primitives", json::array())) {
        progress_.throwIfStopped();
        if (!primitive.is_object()) fail(say("it has a part that is none"));
        addPrimitive(primitive, place, points, triangles, paints);
      }
    } catch (const FileError& error) {
      bodies_.push_back({.name = name, .broken = error.happened()});
      return;
    }
    total_ += triangles.size();
    if (total_ > mostTriangles) fail(say("it has more than 50 million triangles"));
    const std::set<Paint> used(paints.begin(), paints.end());
    const bool single = used.size() < 2;
    const std::optional<Color> color = used.size() == 1 ? kervo::colorOf(*used.begin()) : std::nullopt;
    if (single) paints.clear();
    bodies_.push_back({name, Mesh(points.take(), std::move(triangles), {std::move(paints), 0}), color, "", within});
  }

  void addPrimitive(const json& primitive, const Place& place, Welder& points, std::vector<Mesh::Triangle>& triangles,
                    std::vector<Paint>& paints) {
    const int mode = static_cast<int>(sizeAt(primitive, "mode", modeTriangles));
    if (mode != modeTriangles && mode != modeStrip && mode != modeFan) return;
    const json attributes = part(primitive, "attributes", json::object());
    if (!attributes.contains("POSITION")) return;
    const Numbers places = numbersOf(attributes["POSITION"], 3);
    if (places.type != typeFloat) fail(say("it has points of the type %1", places.type));
    std::vector<std::uint32_t> number;
    number.reserve(places.count);
    for (std::size_t i = 0; i < places.count; ++i) {
      const Point local{places.at<float>(i, 0), places.at<float>(i, 1), places.at<float>(i, 2)};
      const Point world = place(local);
      if (!std::isfinite(world.x + world.y + world.z)) fail(say("it has a point that is not a number"));
      // y points up there, z here.
      number.push_back(points.numberOf({world.x, -world.z, world.y}));
    }
    std::vector<std::uint32_t> corners;
    if (primitive.contains("indices")) {
      const Numbers indices = numbersOf(primitive["indices"], 1);
      for (std::size_t i = 0; i < indices.count; ++i) {
        const std::uint32_t corner = indices.type == typeByte    ? indices.at<std::uint8_t>(i, 0)
                                     : indices.type == typeShort ? indices.at<std::uint16_t>(i, 0)
                                                                 : indices.at<std::uint32_t>(i, 0);
        if (corner >= number.size()) fail(say("it has a triangle whose corner is not there"));
        corners.push_back(number[corner]);
      }
    } else {
      corners = number;
    }
    const Paint paint = paintOfMaterial(primitive);
    const auto add = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
      if (a == b || b == c || c == a) return;
      triangles.push_back(place.mirrors() ? Mesh::Triangle{a, c, b} : Mesh::Triangle{a, b, c});
      paints.push_back(paint);
    };
    if (mode == modeTriangles)
      for (std::size_t i = 0; i + 2 < corners.size(); i += 3) add(corners[i], corners[i + 1], corners[i + 2]);
    for (std::size_t i = 0; mode == modeStrip && i + 2 < corners.size(); ++i)
      add(corners[i + i % 2], corners[i + 1 - i % 2], corners[i + 2]);
    for (std::size_t i = 1; mode == modeFan && i + 1 < corners.size(); ++i) add(corners[0], corners[i], corners[i + 1]);
  }

  const std::string& bytes_;
  std::string file_;
  Progress& progress_;
  json root_;
  std::string_view binary_;
  std::vector<MeshBody> bodies_;
  std::size_t nodeCount_ = 0, total_ = 0;
};

}  // namespace

const Format& glbFormat() {
  static const Format format{.name = "GLB",
                             .extensions = {".glb"},
                             .mimeTypes = {"model/gltf-binary"},
                             .carries = later("names, colours, assemblies and instances; triangles, in metres"),
                             .triangles = true,
                             .instances = true,
                             .read = readGlb,
                             .write = writeGlb};
  return format;
}

FileContents readGlb(const std::filesystem::path& path, const ReadWishes&, Progress& progress) {
  const std::string bytes = readWhole(path, mostMeshBytes);
  try {
    FileContents contents = contentsOf(GlbReader(bytes, path.string(), progress).run(), "m", path);
    // Nobody measures parts in metres because a file does.
    contents.unit = "mm";
    return contents;
  } catch (const json::exception& error) {
    throw FileError(say("its description is not sound: %1", error.what()), path.string(),
                    say("The file is damaged, or was written by a program that errs"));
  }
}

void writeGlb(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress) {
  WriteWishes own = wishes;
  own.unit = "m";
  const std::vector<MeshBody> written = meshBodies(inTreeOrder(bodies), own, Precision::Single, path, progress);
  const std::string bytes = glbFromMeshes(written);
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    writeText(temporary, bytes);
    if (wishes.readBack == ReadBack::Compare) requireSame(written, readGlb(temporary, {}, progress), own.unit, path);
  });
}

}  // namespace kervo
