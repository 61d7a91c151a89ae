#include "exchange/body_file.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "base/error.h"
#include "exchange/brep_file.h"
#include "exchange/shape_bytes.h"
#include "exchange/step_file.h"
#include "geom/topology.h"

namespace kervo {

namespace {

enum class Format { Step, Brep, Unknown };

Format formatOf(const std::filesystem::path& path) {
  std::string extension = path.extension().string();
  std::transform(extension.begin(), extension.end(), extension.begin(),
                 [](unsigned char c) { return std::tolower(c); });
  if (extension == ".step" || extension == ".stp") return Format::Step;
  if (extension == ".brep" || extension == ".brp") return Format::Brep;
  return Format::Unknown;
}

FileError unknownFormat(const std::filesystem::path& path) {
  return FileError("files ending in \"" + path.extension().string() + "\" are not known", path.string(),
                   "Use .step, .stp or .brep");
}

}  // namespace

bool isBodyFile(const std::filesystem::path& path) {
  return formatOf(path) != Format::Unknown;
}

FileContents readBodies(const std::filesystem::path& path, Progress& progress) {
  switch (formatOf(path)) {
    case Format::Step:
      return readStep(path, progress);
    case Format::Brep:
      return readBrep(path, progress);
    case Format::Unknown:
      break;
  }
  throw unknownFormat(path);
}

void writeBodies(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const std::string& unit,
                 Progress& progress, ReadBack readBack) {
  if (formatOf(path) == Format::Unknown) throw unknownFormat(path);
  if (bodies.empty()) throw FileError("there is no body to write", path.string(), "Keep at least one body");
  if (formatOf(path) == Format::Step)
    writeStep(path, bodies, unit, readBack, progress);
  else
    writeBrep(path, bodies, readBack, progress);
}

std::string colorText(const Color& color) {
  char text[8];
  const auto byte = [](double value) { return static_cast<int>(std::lround(std::clamp(value, 0.0, 1.0) * 255)); };
  std::snprintf(text, sizeof text, "#%02x%02x%02x", byte(color.red) & 255, byte(color.green) & 255,
                byte(color.blue) & 255);
  return text;
}

std::optional<Color> colorFromText(const std::string& text) {
  if (text.size() != 7 || text[0] != '#' || text.find_first_not_of("0123456789abcdefABCDEF", 1) != std::string::npos)
    return std::nullopt;
  const auto part = [&](std::size_t at) { return std::stoi(text.substr(at, 2), nullptr, 16) / 255.0; };
  return Color{part(1), part(3), part(5)};
}

Document withBroughtIn(const Document& document, const FileContents& contents, const std::string& source,
                       const StepKinds& kinds) {
  Document result = document;
  std::vector<BroughtBody> brought;
  for (const FileBody& body : contents.bodies) {
    // Equal shapes share one key, and a key never stands for another shape.
    const std::string bytes = shapeToBytes(body.shape);
    const std::string key = Hasher().add(bytes).key().text();
    result.made.shapes.try_emplace(key, body.shape);
    brought.push_back({key, body.name, body.color, body.layer, faceColors(body.shape)});
  }
  std::map<std::string, FieldValue> fields{{"source", source}, {"unit", contents.unit}, {"bodies", std::move(brought)}};
  return result.withStep(Step(result.freeId("import"), *kinds.find("bring-in"), std::move(fields)));
}

FileBody fileBodyOf(const Body& body, const Model& model) {
  const auto colorOf = [&](const BodyId& id) {
    const auto found = model.everShown.find(id);
    return found == model.everShown.end() ? std::nullopt : found->second.color;
  };
  return {body.name, withShownColors(body.shape, colorOf), body.color, body.layer};
}

std::vector<FileBody> bodiesOf(const Model& model) {
  std::vector<FileBody> result;
  result.reserve(model.bodies.size());
  for (const Body& body : model.bodies) result.push_back(fileBodyOf(body, model));
  return result;
}

}  // namespace kervo
