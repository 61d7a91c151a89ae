#include "exchange/body_file.h"

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "exchange/formats.h"
#include "exchange/shape_bytes.h"
#include "fields/brought_field.h"
#include "geom/topology.h"

namespace kervo {

bool isBodyFile(const std::filesystem::path& path) {
  const Format* format = formatOf(path);
  return format && format->holds == Format::Holds::Bodies;
}

FileContents readBodies(const std::filesystem::path& path, const std::string& unit, Progress& progress) {
  return requireBodyFormat(path, Direction::Read).read(path, unit, progress);
}

void writeBodies(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
                 Progress& progress) {
  const Format& format = requireBodyFormat(path, Direction::Write);
  if (bodies.empty()) throw FileError(say("there is no body to write"), path.string(), say("Keep at least one body"));
  for (const FileBody& body : bodies)
    if (body.shape.mesh() && !format.triangles)
      throw FileError(say("\"%1\" is a mesh, and %2 files hold exact bodies only", body.name, say(format.name.c_str())),
                      path.string(), say("Leave it out, or write %1", namesOfMeshFormats()));
  format.write(path, bodies, wishes, progress);
}

Document withBroughtIn(const Document& document, const FileContents& contents, const std::string& source,
                       const StepKinds& kinds) {
  Document result = document;
  std::vector<BroughtBody> brought;
  for (const FileBody& body : contents.bodies) {
    // Equal shapes share one key, and a key never stands for another shape.
    const std::string key = keyOfStored(body.shape);
    result.made.shapes.try_emplace(key, body.shape);
    brought.push_back({key, body.name, body.color, body.layer, faceColors(body.shape), body.within});
  }
  for (const FileLevel& level : contents.levels)
    if (!findLevel(result.made.levels, level.name))
      result.made.levels.push_back({level.name, Expression(formatNumber(level.height, 12) + " mm"), ""});
  std::map<std::string, FieldValue> fields{{"source", source}, {"unit", contents.unit}, {"bodies", std::move(brought)}};
  return result.withStep(Step(result.freeId("import"), kinds.bringingIn(), fields));
}

FileBody fileBodyOf(const Body& body, const Model& model) {
  const auto colorOf = [&](const BodyId& id) {
    const auto found = model.everShown.find(id);
    return found == model.everShown.end() ? std::nullopt : found->second.color;
  };
  FileBody result;
  result.name = body.name;
  result.shape = body.form.mesh() ? body.form.anyShape() : withShownColors(body.shape(), colorOf);
  result.color = body.color;
  result.layer = body.layer;
  result.within = body.within;
  result.level = body.level;
  return result;
}

std::vector<FileLevel> levelsOf(const Model& model) {
  std::vector<FileLevel> result;
  for (const LevelNow& level : levelsByHeight(model.levels))
    if (level.height) result.push_back({level.name, *level.height});
  return result;
}

std::vector<FileBody> bodiesOf(const Model& model) {
  std::vector<FileBody> result;
  result.reserve(model.bodies.size());
  for (const Body& body : model.bodies) result.push_back(fileBodyOf(body, model));
  return result;
}

}  // namespace kervo
