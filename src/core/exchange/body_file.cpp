#include "exchange/body_file.h"

#include <algorithm>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "exchange/formats.h"
#include "exchange/shape_bytes.h"
#include "fields/brought_field.h"
#include "geom/instance.h"
#include "geom/topology.h"

namespace kervo {

bool isBodyFile(const std::filesystem::path& path) {
  const Format* format = formatOf(path);
  return format && format->holds == Format::Holds::Bodies;
}

FileContents readBodies(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress) {
  FileContents contents = requireBodyFormat(path, Direction::Read).read(path, wishes, progress);
  const std::size_t lost = contents.lost.size();
  if (lost == 0 || (wishes.parts && !contents.bodies.empty())) return contents;
  const LostPart& first = contents.lost.front();
  const std::string happened =
      lost == 1 ? first.happened : say("%1; %2 more of its parts cannot be read", first.happened, lost - 1);
  if (contents.bodies.empty()) throw FileError(happened, path.string(), first.help);
  throw BrokenFile(
      happened, path.string(),
      first.help.empty() ? say("Bring in only the parts that can be read, or get the file once more") : first.help);
}

FileContents onlyOf(FileContents contents, const std::vector<std::string>& names, const std::filesystem::path& path) {
  for (const std::string& name : names)
    if (std::none_of(contents.bodies.begin(), contents.bodies.end(),
                     [&](const FileBody& body) { return body.name == name; }))
      throw FileError(say("no body of the file is called \"%1\"", name), path.string(),
                      say("Look at the names with kervo-cli info"));
  std::erase_if(contents.bodies,
                [&](const FileBody& body) { return std::find(names.begin(), names.end(), body.name) == names.end(); });
  return contents;
}

void writeBodies(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
                 Progress& progress) {
  const Format& format = requireBodyFormat(path, Direction::Write);
  if (bodies.empty()) throw FileError(say("there is no body to write"), path.string(), say("Keep at least one body"));
  for (const FileBody& body : bodies)
    if (body.shape.mesh() && !format.triangles)
      throw FileError(say("\"%1\" is a mesh, and %2 files hold exact bodies only", body.name, say(format.name.c_str())),
                      path.string(), say("Leave it out, or write %1", namesOfMeshFormats()));
  if (format.instances) return format.write(path, bodies, wishes, progress);
  std::vector<FileBody> each = bodies;
  for (FileBody& body : each) body.shape = plain(body.shape);
  format.write(path, each, wishes, progress);
}

Document withBroughtIn(const Document& document, const FileContents& contents, const std::string& source,
                       const StepKinds& kinds) {
  Document result = document;
  std::vector<BroughtBody> brought;
  std::map<const void*, std::string> keys;  // of parts that have several instances
  for (const FileBody& body : contents.bodies) {
    // Equal shapes share one key, and a key never stands for another shape.
    const std::optional<Plane> place = placeOf(body.shape);
    std::string& known = keys[identityOfPart(body.shape)];
    const Shape part = place ? partOf(body.shape) : body.shape;
    const std::string key = place && !known.empty() ? known : keyOfStored(part);
    if (place) known = key;
    result.made.shapes.try_emplace(key, part);
    brought.push_back({key, body.name, body.color, body.layer, faceColors(body.shape), body.within, place});
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
  result.shape = body.form.mesh() ? body.form.anyShape() : withShownColors(*body.form.kept(), colorOf);
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
