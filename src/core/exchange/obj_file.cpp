#include "exchange/obj_file.h"

#include <charconv>
#include <cmath>
#include <limits>
#include <map>
#include <set>

#include "base/error.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/mesh_file.h"
#include "geom/mesh/mesh_pieces.h"

namespace kervo {

namespace {

constexpr char unitLine[] = "# Kervo, lengths in ";  // for the machine

class ObjReader {
 public:
  ObjReader(const std::string& text, const std::filesystem::path& path, Progress& progress)
      : lines_(text, path.string()), path_(path), progress_(progress), hasObjects_(findObjects(text)) {}

  std::vector<MeshBody> run() {
    while (lines_.nextLine()) {
      if (lines_.line() % 65536 == 0) progress_.throwIfStopped();
      const std::string_view word = lines_.word();
      if (word == "v" || word == "f")
        addOf(word);
      else if (word == "o" || (word == "g" && !hasObjects_))
        begin(std::string(lines_.rest()));
      else if (word == "usemtl")
        use(std::string(lines_.rest()));
      else if (word == "mtllib")
        readMaterials(std::string(lines_.rest()));
    }
    return bodies();
  }

  std::vector<std::string> notes;

 private:
  struct Part {
    std::string name;
    std::vector<Mesh::Triangle> triangles = {};
    std::vector<Paint> paints = {};
    std::string broken = {};  ///< why it cannot be read
  };

  static bool findObjects(const std::string& text) {
    return text.starts_with("o ") || text.find("\no ") != std::string::npos;
  }

  /// What is wrong in a line concerns the body that it is a part of.
  void addOf(std::string_view word) {
    if (parts_.empty()) begin("");
    std::string& broken = parts_.back().broken;
    try {
      word == "v" ? addPoint() : addFace();
    } catch (const FileError& error) {
      // A point that nothing needs does no harm.
      if (word == "f" && broken.empty()) broken = say("line %1: %2", lines_.line(), error.happened());
    }
  }

  void addPoint() {
    // One that cannot be read keeps its number.
    points_.push_back(unknown);
    const double x = lines_.number(), y = lines_.number(), z = lines_.number();
    points_.back() = {x, y, z};
  }

  void begin(const std::string& name) { parts_.push_back({name}); }

  void use(const std::string& material) {
    const auto found = materials_.find(material);
    paint_ = found == materials_.end() ? 0 : found->second;
    if (found == materials_.end() && missing_.insert(material).second)
      notes.push_back(say("the material \"%1\" is not there; what has it has no colour", material));
  }

  std::uint32_t cornerFrom(std::string_view word) {
    std::int64_t number = 0;
    const std::string_view first = word.substr(0, word.find('/'));
    const auto [end, error] = std::from_chars(first.data(), first.data() + first.size(), number);
    const auto count = static_cast<std::int64_t>(points_.size());
    if (number < 0) number += count + 1;
    if (error != std::errc() || end != first.data() + first.size() || number < 1 || number > count)
      lines_.fail(say("the corner \"%1\" names a point that is not there", std::string(word)));
    return static_cast<std::uint32_t>(number - 1);
  }

  void addFace() {
    std::vector<std::uint32_t> corners;
    std::vector<Point> polygon;
    for (std::string_view word = lines_.word(); !word.empty(); word = lines_.word()) {
      corners.push_back(cornerFrom(word));
      polygon.push_back(points_[corners.back()]);
      if (std::isnan(polygon.back().x))
        lines_.fail(say("the corner \"%1\" names a point that cannot be read", std::string(word)));
    }
    if (corners.size() < 3) lines_.fail(say("a face has %1 corners", corners.size()));
    Part& part = parts_.back();
    for (const Mesh::Triangle& triangle : trianglesOf(polygon)) {
      part.triangles.push_back({corners[triangle[0]], corners[triangle[1]], corners[triangle[2]]});
      part.paints.push_back(paint_);
    }
  }

  void readMaterials(const std::string& name) {
    const std::filesystem::path file = path_.parent_path() / std::filesystem::path(name).filename();
    std::error_code missing;
    if (!std::filesystem::is_regular_file(file, missing)) {
      notes.push_back(say("the file of materials \"%1\" does not lie beside it; the bodies have no colours", name));
      return;
    }
    const std::string text = readWhole(file, mostMeshBytes);
    LineReader lines(text, file.string());
    std::string material;
    while (lines.nextLine()) {
      const std::string_view word = lines.word();
      if (word == "newmtl") {
        material = lines.rest();
        materials_.emplace(material, 0);
      }
      if (word != "Kd") continue;
      const double red = lines.number(), green = lines.number(), blue = lines.number();
      materials_[material] = paintOf({red, green, blue});
    }
  }

  std::vector<MeshBody> bodies() const {
    std::vector<MeshBody> result;
    for (const Part& part : parts_) {
      if (!part.broken.empty()) {
        result.push_back({.name = part.name, .broken = part.broken});
        continue;
      }
      if (part.triangles.empty()) continue;
      const std::set<Paint> used(part.paints.begin(), part.paints.end());
      const bool single = used.size() == 1;
      const Mesh all(points_, part.triangles, {single ? std::vector<Paint>() : part.paints, 0});
      result.push_back({part.name, someOf(all, std::vector<bool>(part.triangles.size(), true)),
                        single ? kervo::colorOf(*used.begin()) : std::nullopt});
    }
    return result;
  }

  static constexpr Point unknown{std::numeric_limits<double>::quiet_NaN(), 0, 0};

  LineReader lines_;
  const std::filesystem::path& path_;
  Progress& progress_;
  bool hasObjects_;
  std::vector<Point> points_;
  std::vector<Part> parts_;
  std::map<std::string, Paint> materials_;
  std::set<std::string> missing_;
  Paint paint_ = 0;
};

void append(std::string& text, double value) {
  char buffer[32];
  const auto [end, error] = std::to_chars(buffer, buffer + sizeof buffer, value);
  text += ' ';
  text.append(buffer, end);
}

std::string onOneLine(std::string name) {
  for (char& each : name)
    if (each == '\n' || each == '\r') each = ' ';
  while (!name.empty() && name.back() == '\\') name.pop_back();
  return name;
}

std::string materialOf(const Color& color) {
  return "color_" + colorText(color).substr(1);
}

}  // namespace

const Format& objFormat() {
  static const Format format{.name = "OBJ",
                             .extensions = {".obj"},
                             .mimeTypes = {"model/obj"},
                             .carries = later("names and colours; triangles"),
                             .triangles = true,
                             .unitless = true,
                             .read = readObj,
                             .write = writeObj};
  return format;
}

FileContents readObj(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress) {
  const std::string text = readWhole(path, mostMeshBytes);
  ObjReader reader(text, path, progress);
  std::vector<MeshBody> bodies = reader.run();
  std::string written;
  if (text.starts_with(unitLine)) {
    const std::size_t begin = sizeof unitLine - 1;
    written = text.substr(begin, text.find('\n') - begin);
  }
  FileContents contents = contentsOf(std::move(bodies), wishes.unit, written, path);
  contents.notes.insert(contents.notes.end(), reader.notes.begin(), reader.notes.end());
  return contents;
}

void writeObj(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress) {
  const std::vector<MeshBody> written = meshBodies(bodies, wishes, Precision::Double, path, progress);
  const std::filesystem::path materials = std::filesystem::path(path).replace_extension(".mtl");
  std::string text = unitLine + wishes.unit + "\n";
  std::set<std::string> names;
  std::string list;
  std::string faces;
  std::size_t first = 1;
  for (const MeshBody& body : written) {
    faces += "o " + onOneLine(body.name) + "\n";
    for (const Point& point : body.mesh.points()) {
      faces += 'v';
      for (const double value : {point.x, point.y, point.z}) append(faces, value);
      faces += '\n';
    }
    // After a material there is no way back to none but a material without a colour.
    std::string now;
    for (std::size_t t = 0; t < body.mesh.triangles().size(); ++t) {
      const auto color = body.colorOf(t);
      const std::string name = color ? materialOf(*color) : "none";
      if (color && names.insert(name).second) {
        list += "newmtl " + name + "\nKd";
        for (const double part : {color->red, color->green, color->blue}) append(list, part);
        list += "\n";
      }
      if (name != now && (color || !names.empty())) faces += "usemtl " + name + "\n";
      now = name;
      faces += 'f';
      for (const std::uint32_t corner : body.mesh.triangles()[t]) faces += " " + std::to_string(first + corner);
      faces += '\n';
    }
    first += body.mesh.points().size();
  }
  if (!names.empty()) text += "mtllib " + materials.filename().string() + "\n";
  text += faces;
  if (!names.empty()) writeText(materials, "newmtl none\n" + list);  // for the machine
  writeText(path, text);
  if (wishes.readBack == ReadBack::Skip) return;
  if (readWhole(path, mostMeshBytes) != text)
    throw FileError(say("the file is not read back as it was written"), path.string(),
                    say("Check the disk, and write to another place"));
}

}  // namespace kervo
