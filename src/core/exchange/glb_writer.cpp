// Writes GLB files.
#include <array>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>

#include "exchange/body_tree.h"
#include "exchange/glb_format.h"

namespace kervo {

namespace {

using nlohmann::json;
using nlohmann::ordered_json;
using namespace glb;

// The standard has its colours in linear light, Kervo as they are typed (IEC 61966-2-1).
double toLinear(double value) {
  return value <= 0.04045 ? value / 12.92 : std::pow((value + 0.055) / 1.055, 2.4);
}

class GlbWriter {
 public:
  std::string run(const std::vector<MeshBody>& bodies) {
    root_["asset"] = {{"version", "2.0"}, {"generator", "Kervo"}};
    root_["scene"] = 0;
    root_["scenes"] = json::array({{{"nodes", json::array()}}});
    std::vector<std::vector<std::string>> within;
    for (const MeshBody& body : bodies) within.push_back(body.within);
    root_["scenes"][0]["nodes"] = nodesOf(treeOf(within), bodies);
    root_["buffers"] = json::array({{{"byteLength", binary_.size()}}});
    return file();
  }

 private:
  /// The numbers of the nodes for what is in an assembly.
  ordered_json nodesOf(const BodyTree& tree, const std::vector<MeshBody>& bodies) {
    ordered_json numbers = ordered_json::array();
    for (const BodyTree& part : tree.parts) {
      if (part.body) {
        numbers.push_back(add(*part.body, bodies));
        continue;
      }
      ordered_json inner = nodesOf(part, bodies);
      numbers.push_back(root_["nodes"].size());
      root_["nodes"].push_back({{"name", part.name}, {"children", std::move(inner)}});
    }
    return numbers;
  }

  std::size_t add(std::size_t number, const std::vector<MeshBody>& bodies) {
    const MeshBody& body = bodies[number];
    if (!body.follows) {
      const std::size_t node = add(body);
      meshes_[number] = root_["meshes"].size() - 1;
      return node;
    }
    // y points up there, z here.
    const auto stored = [](const Vector& v) { return std::array<double, 3>{v.x, v.z, -v.y}; };
    const Motion& from = body.follows->from;
    ordered_json matrix = ordered_json::array();
    const auto put = [&](const Vector& v, int last) {
      for (const double each : stored(v)) matrix.push_back(each);
      matrix.push_back(last);
    };
    for (const Vector& axis : {Vector{1, 0, 0}, Vector{0, 0, 1}, Vector{0, -1, 0}}) put(from.turned(axis), 0);
    put(from(bodies[body.follows->first].mesh.box().centre()), 1);
    root_["nodes"].push_back({{"name", body.name}, {"mesh", meshes_.at(body.follows->first)}, {"matrix", matrix}});
    return root_["nodes"].size() - 1;
  }

  std::size_t add(const MeshBody& body) {
    // The points lie near the middle of the body, where their numbers are finest; its node moves them.
    const Point middle = body.mesh.box().centre();
    std::map<Paint, std::vector<std::size_t>> byPaint;
    for (std::size_t t = 0; t < body.mesh.triangles().size(); ++t) {
      const auto color = body.colorOf(t);
      byPaint[color ? paintOf(*color) : 0].push_back(t);
    }
    const std::size_t positions = addPositions(body.mesh, middle);
    ordered_json primitives = ordered_json::array();
    for (const auto& [paint, triangles] : byPaint) {
      const std::size_t begin = binary_.size();
      for (const std::size_t t : triangles)
        for (const std::uint32_t corner : body.mesh.triangles()[t])
          binary_.append(reinterpret_cast<const char*>(&corner), sizeof corner);
      root_["bufferViews"].push_back({{"buffer", 0}, {"byteOffset", begin}, {"byteLength", binary_.size() - begin}});
      root_["accessors"].push_back({{"bufferView", root_["bufferViews"].size() - 1},
                                    {"componentType", typeInt},
                                    {"count", 3 * triangles.size()},
                                    {"type", "SCALAR"}});
      ordered_json primitive{{"attributes", {{"POSITION", positions}}}, {"indices", root_["accessors"].size() - 1}};
      if (paint != 0) primitive["material"] = materialOf(paint);
      primitives.push_back(std::move(primitive));
    }
    root_["meshes"].push_back({{"name", body.name}, {"primitives", std::move(primitives)}});
    root_["nodes"].push_back(
        {{"name", body.name}, {"mesh", root_["meshes"].size() - 1}, {"translation", {middle.x, middle.z, -middle.y}}});
    return root_["nodes"].size() - 1;
  }

  std::size_t addPositions(const Mesh& mesh, Point middle) {
    const std::size_t begin = binary_.size();
    std::array<float, 3> low{}, high{};
    bool first = true;
    for (const Point& point : mesh.points()) {
      const Point local = point - middle;
      const std::array<float, 3> stored{static_cast<float>(local.x), static_cast<float>(local.z),
                                        static_cast<float>(-local.y)};
      for (std::size_t k = 0; k < 3; ++k) {
        low[k] = first ? stored[k] : std::min(low[k], stored[k]);
        high[k] = first ? stored[k] : std::max(high[k], stored[k]);
      }
      first = false;
      binary_.append(reinterpret_cast<const char*>(stored.data()), sizeof stored);
    }
    root_["bufferViews"].push_back({{"buffer", 0}, {"byteOffset", begin}, {"byteLength", binary_.size() - begin}});
    root_["accessors"].push_back({{"bufferView", root_["bufferViews"].size() - 1},
                                  {"componentType", typeFloat},
                                  {"count", mesh.points().size()},
                                  {"type", "VEC3"},
                                  {"min", low},
                                  {"max", high}});
    return root_["accessors"].size() - 1;
  }

  std::size_t materialOf(Paint paint) {
    const auto [found, isNew] = materials_.try_emplace(paint, materials_.size());
    if (isNew) {
      const Color color = kervo::colorOf(paint).value_or(Color());
      root_["materials"].push_back(
          {{"name", colorText(color)},
           {"pbrMetallicRoughness",
            {{"baseColorFactor", {toLinear(color.red), toLinear(color.green), toLinear(color.blue), 1}},
             {"metallicFactor", 0},
             {"roughnessFactor", 0.8}}}});
    }
    return found->second;
  }

  std::string file() {
    std::string text = root_.dump(-1, ' ', false, json::error_handler_t::replace);
    while (text.size() % 4 != 0) text += ' ';
    while (binary_.size() % 4 != 0) binary_ += '\0';
    std::string bytes;
    const auto put = [&](std::size_t value) {
      const auto stored = static_cast<std::uint32_t>(value);
      bytes.append(reinterpret_cast<const char*>(&stored), sizeof stored);
    };
    constexpr std::size_t heads = 12 + 8 + 8;
    for (const std::size_t value : {std::size_t{magic}, std::size_t{2}, heads + text.size() + binary_.size()})
      put(value);
    put(text.size());
    put(jsonChunk);
    bytes += text;
    put(binary_.size());
    put(binaryChunk);
    return bytes + binary_;
  }

  ordered_json root_;
  std::string binary_;
  std::map<Paint, std::size_t> materials_;
  std::map<std::size_t, std::size_t> meshes_;  ///< by the numbers of the bodies
};

}  // namespace

std::string glbFromMeshes(const std::vector<MeshBody>& bodies) {
  return GlbWriter().run(bodies);
}

}  // namespace kervo
