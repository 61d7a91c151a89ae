#include "exchange/document_json.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <nlohmann/json.hpp>
#include <set>

#include "base/error.h"
#include "base/identifier.h"
#include "base/say.h"
#include "exchange/body_file.h"
#include "exchange/document_versions.h"
#include "fields/brought_field.h"
#include "fields/json_parts.h"

namespace kervo {

using nlohmann::json;
using nlohmann::ordered_json;

namespace {

constexpr std::size_t mostSteps = 100'000;
constexpr std::size_t mostDimensions = 100'000;
constexpr std::size_t mostSections = 1000;

/// Refuses what the library would take without a word: a key that comes twice, of which the last would win, and
/// objects so deep that no document has them.
class Strictness {
 public:
  bool operator()(int depth, json::parse_event_t event, const json& value) {
    constexpr int deepest = 64;
    if (depth > deepest) throw FileError(say("objects and lists are nested more than 64 deep"));
    if (event == json::parse_event_t::object_start) keys_.emplace_back();
    if (event == json::parse_event_t::object_end) keys_.pop_back();
    if (event == json::parse_event_t::key && !keys_.back().insert(value.get<std::string>()).second)
      throw FileError(say("the key \"%1\" comes twice in one object", value.get<std::string>()), "",
                      say("Remove one of them"));
    return true;
  }

 private:
  std::vector<std::set<std::string>> keys_;
};

json parsed(const std::string& text, const std::string& fileName) {
  try {
    return json::parse(
        text, [strictness = std::make_shared<Strictness>()](int depth, json::parse_event_t event, json& value) {
          return (*strictness)(depth, event, value);
        });
  } catch (const FileError& error) {
    throw FileError(error.happened(), fileName, error.help());
  } catch (const json::exception& error) {
    // The library's message holds line and column after its own prefix "[json.exception…] ".
    std::string message = error.what();
    if (const auto end = message.find("] "); end != std::string::npos) message = message.substr(end + 2);
    throw FileError(say("this is not valid JSON (%1)", message), fileName, say("Correct the file there"));
  }
}

const json& listAt(const json& root, const char* key) {
  static const json none = json::array();
  if (!root.contains(key)) return none;
  if (!root[key].is_array()) throw wrongJson(key, "a list");
  return root[key];
}

Step stepFrom(const json& value, const StepKinds& kinds, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "a step");
  requireOnly(value, {"id", "kind", "on", "fields"}, place);
  const StepId id = idAt<StepId>(value, "id", place);
  if (id.empty()) throw FileError(say("an id is empty"), place + ".id", say("Use letters, digits, - and _"));
  const std::string kindName = textAt(value, "kind", place);
  const StepKind* kind = kinds.find(kindName);
  if (!kind)
    throw FileError(say("there is no step kind \"%1\"", kindName), place + ".kind",
                    say("Correct its spelling, or open the file with a newer Kervo"));
  if (value.contains("on") && !value["on"].is_boolean()) throw wrongJson(place + ".on", "true or false");
  std::map<std::string, FieldValue> fields;
  if (value.contains("fields")) {
    if (!value["fields"].is_object()) throw wrongJson(place + ".fields", "an object");
    for (const auto& item : value["fields"].items()) {
      const std::string at = place + ".fields." + item.key();
      const Field* field = kind->field(item.key());
      if (!field)
        throw FileError(say("a step of kind \"%1\" has no field \"%2\"", kindName, item.key()), at,
                        say("Correct its spelling, or remove it"));
      FieldValue fieldValue = field->fromJson(item.value(), at);
      try {
        field->check(fieldValue);
      } catch (const Error& error) {
        throw FileError(error.happened(), at, error.help());
      }
      fields.emplace(item.key(), std::move(fieldValue));
    }
  }
  return Step(id, *kind, fields, value.value("on", true));
}

/// Sections stand in what is seen, all other steps in what is made.
void requireWhere(const Step& step, bool seen, const std::string& place) {
  if ((step.kind().makes() == Makes::Section) == seen) return;
  if (seen)
    throw FileError(say("a step of kind \"%1\" is no section", step.kind().key()), place + ".kind",
                    say("Move it to \"steps\""));
  throw FileError(say("a section is only seen, it is no step of the model"), place + ".kind",
                  say("Move it to \"sections\" in \"seen\""));
}

void requireNewId(const StepId& id, std::set<StepId>& ids, const std::string& place) {
  if (!ids.insert(id).second)
    throw FileError(say("another step has the id \"%1\" already", id), place + ".id", say("Choose another id"));
}

/// Calls `read` with key, place and value of every entry of the object under a key.
template <class Read>
void forEachAt(const json& root, const char* key, const std::string& within, Read&& read) {
  if (!root.contains(key)) return;
  const std::string place = within + key;
  if (!root[key].is_object()) throw wrongJson(place, "an object");
  for (const auto& item : root[key].items())
    read(item.key(), std::string(place).append(".").append(item.key()), item.value());
}

std::optional<bool> flagAt(const json& value, const char* key, const std::string& place) {
  if (!value.contains(key)) return std::nullopt;
  if (!value[key].is_boolean()) throw wrongJson(place + "." + key, "true or false");
  return value[key].get<bool>();
}

BodyTreatment treatmentFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "an object");
  requireOnly(value, {"shielded", "hole_maker"}, place);
  return {flagAt(value, "shielded", place), flagAt(value, "hole_maker", place)};
}

BodyLook lookFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "an object");
  requireOnly(value, {"name", "color", "layer", "level", "in", "visible", "faded", "material", "density"}, place);
  BodyLook look;
  if (value.contains("name")) look.name = textAt(value, "name", place);
  if (value.contains("layer")) look.layer = textAt(value, "layer", place);
  if (value.contains("level")) look.level = textAt(value, "level", place);
  if (value.contains("in")) look.within = textsFrom(value["in"], place + ".in");
  if (value.contains("color")) {
    look.color = colorFromText(textAt(value, "color", place));
    if (!look.color) throw wrongJson(place + ".color", "a colour as #rrggbb");
  }
  look.visible = flagAt(value, "visible", place);
  look.faded = flagAt(value, "faded", place);
  if (value.contains("material")) look.material = textAt(value, "material", place);
  if (value.contains("density")) {
    look.density = finiteNumber(value["density"], place + ".density");
    if (*look.density < 0) throw wrongJson(place + ".density", "a density of zero or more, in kg/m³,");
  }
  return look;
}

std::vector<SectionStep> sectionsFrom(const json& value, const StepKinds& kinds, std::set<StepId>& ids) {
  std::vector<SectionStep> result;
  if (!value.contains("sections")) return result;
  const json& sections = value["sections"];
  if (!sections.is_array()) throw wrongJson("seen.sections", "a list");
  if (sections.size() > mostSections) throw FileError(say("there are more than 1000 sections"), "seen.sections");
  for (std::size_t i = 0; i < sections.size(); ++i) {
    const std::string place = "seen.sections[" + std::to_string(i) + "]";
    Step step = stepFrom(sections[i], kinds, place);
    requireWhere(step, true, place);
    requireNewId(step.id(), ids, place);
    result.push_back({std::make_shared<const Step>(std::move(step))});
  }
  return result;
}

Vector vectorFrom(const json& value, const std::string& place) {
  if (!value.is_array() || value.size() != 3) throw wrongJson(place, "a list of three numbers");
  return {finiteNumber(value[0], place), finiteNumber(value[1], place), finiteNumber(value[2], place)};
}

ViewCamera cameraFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "an object");
  requireOnly(value, {"centre", "towards_eye", "up", "height", "projection"}, place);
  ViewCamera camera;
  if (value.contains("centre")) camera.centre = vectorFrom(value["centre"], place + ".centre");
  if (value.contains("towards_eye")) camera.towardsEye = vectorFrom(value["towards_eye"], place + ".towards_eye");
  if (value.contains("up")) camera.up = vectorFrom(value["up"], place + ".up");
  if (value.contains("height")) camera.height = finiteNumber(value["height"], place + ".height");
  const std::string projection = textAt(value, "projection", place, "parallel");
  if (projection != "parallel" && projection != "perspective")
    throw wrongJson(place + ".projection", "parallel or perspective");
  camera.perspective = projection == "perspective";
  if (camera.height <= 0) throw wrongJson(place + ".height", "a length of more than zero, in mm,");
  constexpr double flat = 1e-6;
  if (length(camera.towardsEye) < flat ||
      length(cross(camera.towardsEye, camera.up)) < flat * length(camera.towardsEye))
    throw wrongJson(place + ".up", "a direction across that to the eye");
  // What is kept exactly is not rounded again.
  constexpr double rounding = 1e-12;
  if (std::abs(length(camera.towardsEye) - 1) > rounding) camera.towardsEye = normalized(camera.towardsEye);
  const double leaning = dot(camera.up, camera.towardsEye);
  if (std::abs(leaning) > rounding || std::abs(length(camera.up) - 1) > rounding)
    camera.up = normalized(camera.up - camera.towardsEye * leaning);
  return camera;
}

constexpr const char* showNames[] = {"all", "below", "only"};

/// `within`: the place of what has them: "seen".
LevelSight levelSightFrom(const json& value, const std::string& within, const std::vector<Level>& levels) {
  LevelSight result;
  if (!value.contains("levels")) return result;
  const std::string place = within + ".levels";
  const json& sight = value["levels"];
  if (!sight.is_object()) throw wrongJson(place, "an object");
  requireOnly(sight, {"working", "show"}, place);
  result.working = textAt(sight, "working", place, "");
  if (!result.working.empty() && !findLevel(levels, result.working))
    throw FileError(say("there is no level named \"%1\"", result.working), place + ".working",
                    say("Correct the name, or remove it"));
  const std::string show = textAt(sight, "show", place, showNames[0]);
  const auto found = std::find(std::begin(showNames), std::end(showNames), show);
  if (found == std::end(showNames)) throw wrongJson(place + ".show", "all, below or only");
  result.show = static_cast<LevelSight::Show>(found - std::begin(showNames));
  return result;
}

std::vector<SavedView> viewsFrom(const json& value, const std::vector<Level>& levels) {
  std::vector<SavedView> result;
  if (!value.contains("views")) return result;
  const json& views = value["views"];
  if (!views.is_array()) throw wrongJson("seen.views", "a list");
  if (views.size() > mostSections) throw FileError(say("there are more than 1000 views"), "seen.views");
  std::set<std::string> ids;
  for (std::size_t i = 0; i < views.size(); ++i) {
    const std::string place = "seen.views[" + std::to_string(i) + "]";
    if (!views[i].is_object()) throw wrongJson(place, "a view");
    requireOnly(views[i], {"id", "name", "camera", "style", "visible", "faded", "sections", "levels"}, place);
    SavedView view;
    view.id = textAt(views[i], "id", place);
    view.name = textAt(views[i], "name", place, view.id.c_str());
    if (view.id.empty() || !ids.insert(view.id).second)
      throw FileError(say("a view needs an id that no other one has"), place + ".id", say("Choose another id"));
    if (views[i].contains("camera")) view.camera = cameraFrom(views[i]["camera"], place + ".camera");
    view.style = textAt(views[i], "style", place, "shaded");
    if (view.style != "shaded" && view.style != "clear" && view.style != "lines")
      throw wrongJson(place + ".style", "shaded, clear or lines");
    for (const auto& [key, into] : {std::pair("visible", &view.visible), std::pair("faded", &view.faded)})
      forEachAt(views[i], key, place + ".", [&](const std::string& body, const std::string& at, const json& flag) {
        if (!flag.is_boolean()) throw wrongJson(at, "true or false");
        (*into)[idFrom<BodyId>(body, at)] = flag.get<bool>();
      });
    if (views[i].contains("sections")) {
      if (!views[i]["sections"].is_array()) throw wrongJson(place + ".sections", "a list");
      for (const json& section : views[i]["sections"]) {
        if (!section.is_string()) throw wrongJson(place + ".sections", "a list of ids");
        view.sections.push_back(idFrom<StepId>(section.get<std::string>(), place + ".sections"));
      }
    }
    view.levels = levelSightFrom(views[i], place, levels);
    result.push_back(std::move(view));
  }
  return result;
}

std::vector<Material> materialsFrom(const json& value) {
  std::vector<Material> result;
  if (!value.contains("materials")) return result;
  const json& materials = value["materials"];
  if (!materials.is_array()) throw wrongJson("seen.materials", "a list");
  if (materials.size() > mostSections) throw FileError(say("there are more than 1000 materials"), "seen.materials");
  for (std::size_t i = 0; i < materials.size(); ++i) {
    const std::string place = "seen.materials[" + std::to_string(i) + "]";
    if (!materials[i].is_object()) throw wrongJson(place, "a material");
    requireOnly(materials[i], {"name", "density"}, place);
    Material material{textAt(materials[i], "name", place), 0};
    if (material.name.empty() || findMaterial(result, material.name))
      throw FileError(say("a material needs a name that no other one has"), place + ".name",
                      say("Choose another name"));
    if (materials[i].contains("density")) material.density = finiteNumber(materials[i]["density"], place + ".density");
    if (!(material.density > 0)) throw wrongJson(place + ".density", "a density of more than zero, in kg/m³,");
    result.push_back(std::move(material));
  }
  return result;
}

std::vector<Level> levelsFrom(const json& root) {
  std::vector<Level> result;
  const json& levels = listAt(root, "levels");
  if (levels.size() > mostSections) throw FileError(say("there are more than 1000 levels"), "levels");
  for (std::size_t i = 0; i < levels.size(); ++i) {
    const std::string place = "levels[" + std::to_string(i) + "]";
    if (!levels[i].is_object()) throw wrongJson(place, "a level");
    requireOnly(levels[i], {"name", "is", "layer"}, place);
    result.push_back({textAt(levels[i], "name", place), Expression(textAt(levels[i], "is", place)),
                      textAt(levels[i], "layer", place, "")});
  }
  return result;
}

/// `steps`: ids that are taken; those of the sections are added.
SeenHalf seenFrom(const json& value, const StepKinds& kinds, std::set<StepId>& steps, const MadeHalf& made) {
  if (!value.is_object()) throw wrongJson("seen", "an object");
  requireOnly(value, {"steps", "on_levels", "levels", "sections", "views", "bodies", "materials", "limits"}, "seen");
  SeenHalf seen;
  seen.sections = sectionsFrom(value, kinds, steps);
  seen.views = viewsFrom(value, made.levels);
  forEachAt(value, "steps", "seen.", [&](const std::string& key, const std::string& place, const json& name) {
    const StepId id = idFrom<StepId>(key, "seen.steps");
    if (!steps.contains(id))
      throw FileError(say("there is no step \"%1\" to be called so", id), place, say("Correct the id, or remove it"));
    if (name.is_string()) seen.steps[id] = name.get<std::string>();
    if (seen.steps[id].empty()) throw wrongJson(place, "a name");
  });
  seen.levels = levelSightFrom(value, "seen", made.levels);
  forEachAt(value, "on_levels", "seen.", [&](const std::string& key, const std::string& place, const json& level) {
    if (!level.is_string()) throw wrongJson(place, "the name of a level");
    seen.onLevels[idFrom<StepId>(key, "seen.on_levels")] = level.get<std::string>();
  });
  forEachAt(value, "bodies", "seen.", [&](const std::string& key, const std::string& place, const json& look) {
    seen.bodies[idFrom<BodyId>(key, "seen.bodies")] = lookFrom(look, place);
  });
  seen.materials = materialsFrom(value);
  if (value.contains("limits")) {
    const json& limits = value["limits"];
    if (!limits.is_object()) throw wrongJson("seen.limits", "an object");
    requireOnly(limits, {"wall"}, "seen.limits");
    if (limits.contains("wall")) seen.wallLimit = Expression(textAt(limits, "wall", "seen.limits"));
  }
  return seen;
}

ordered_json stepJson(const Step& step) {
  ordered_json entry;
  entry["id"] = step.id();
  entry["kind"] = step.kind().key();
  if (!step.on()) entry["on"] = false;
  ordered_json fields = ordered_json::object();
  for (const Field* field : step.kind().fields())
    if (const FieldValue& value = step.value(*field); !(value == field->standard()))
      fields[field->key()] = field->toJson(value);
  entry["fields"] = std::move(fields);
  return entry;
}

void putLevels(ordered_json& into, const LevelSight& sight) {
  if (!sight.working.empty()) into["levels"]["working"] = sight.working;
  if (sight.show != LevelSight::Show::All) into["levels"]["show"] = showNames[static_cast<std::size_t>(sight.show)];
}

ordered_json viewJson(const SavedView& view) {
  const auto listOf = [](const Vector& v) { return ordered_json::array({v.x, v.y, v.z}); };
  ordered_json result{{"id", view.id}, {"name", view.name}};
  result["camera"] = {{"centre", listOf(view.camera.centre)},
                      {"towards_eye", listOf(view.camera.towardsEye)},
                      {"up", listOf(view.camera.up)},
                      {"height", view.camera.height},
                      {"projection", view.camera.perspective ? "perspective" : "parallel"}};
  result["style"] = view.style;
  for (const auto& [body, visible] : view.visible) result["visible"][body.text()] = visible;
  for (const auto& [body, faded] : view.faded) result["faded"][body.text()] = faded;
  for (const StepId& section : view.sections) result["sections"].push_back(section.text());
  putLevels(result, view.levels);
  return result;
}

ordered_json treatmentJson(const BodyTreatment& treatment) {
  ordered_json result = ordered_json::object();
  if (treatment.shielded) result["shielded"] = *treatment.shielded;
  if (treatment.holeMaker) result["hole_maker"] = *treatment.holeMaker;
  return result;
}

ordered_json lookJson(const BodyLook& look) {
  ordered_json result = ordered_json::object();
  if (look.name) result["name"] = *look.name;
  if (look.color) result["color"] = colorText(*look.color);
  if (look.layer) result["layer"] = *look.layer;
  if (look.level) result["level"] = *look.level;
  if (look.within) result["in"] = *look.within;
  if (look.visible) result["visible"] = *look.visible;
  if (look.faded) result["faded"] = *look.faded;
  if (look.material) result["material"] = *look.material;
  if (look.density) result["density"] = *look.density;
  return result;
}

ordered_json seenJson(const Document& document) {
  const SeenHalf& seen = document.seen;
  ordered_json result = ordered_json::object();
  // In the order of the Cut list. A name without a step is left out: a reader would refuse it.
  const auto nameStep = [&](const Step& step) {
    if (const auto name = seen.steps.find(step.id()); name != seen.steps.end())
      result["steps"][step.id().text()] = name->second;
  };
  for (const auto& step : document.made.steps) nameStep(*step);
  for (const auto& [step, level] : seen.onLevels) result["on_levels"][step.text()] = level;
  putLevels(result, seen.levels);
  for (const SectionStep& section : seen.sections) nameStep(*section.step);
  for (const SectionStep& section : seen.sections) result["sections"].push_back(stepJson(*section.step));
  for (const SavedView& view : seen.views) result["views"].push_back(viewJson(view));
  for (const auto& [id, look] : seen.bodies) result["bodies"][id.text()] = lookJson(look);
  for (const Material& material : seen.materials)
    result["materials"].push_back({{"name", material.name}, {"density", material.density}});
  if (seen.wallLimit) result["limits"]["wall"] = seen.wallLimit->text();
  return result;
}

void requireVersion(const json& root) {
  if (!root.is_object() || textAt(root, "format", "", "") != "kervo")
    throw FileError(say("this is not a Kervo document: the key \"format\" with the value \"kervo\" is missing"));
  if (!root.contains("version") || !root["version"].is_number_integer()) throw wrongJson("version", "a whole number");
  const auto version = root["version"].get<long long>();
  if (version > documentVersion)
    throw FileError(
        say("the document has version %1, but this Kervo knows versions up to %2", version, documentVersion), "version",
        say("Open it with a newer Kervo"));
  if (version < 1) throw wrongJson("version", say("a version from 1 to %1", documentVersion));
}

}  // namespace

std::string documentToJson(const Document& document) {
  ordered_json root;
  root["format"] = "kervo";
  root["version"] = documentVersion;
  const MadeHalf& made = document.made;
  root["unit"] = made.unit;
  root["dimensions"] = ordered_json::array();
  for (const DimensionRow& row : made.dimensions)
    root["dimensions"].push_back({{"name", row.name}, {"is", row.expression.text()}});
  for (const Level& level : made.levels) {
    ordered_json row{{"name", level.name}, {"is", level.height.text()}};
    if (!level.layer.empty()) row["layer"] = level.layer;
    root["levels"].push_back(std::move(row));
  }
  root["steps"] = ordered_json::array();
  for (const auto& step : made.steps) root["steps"].push_back(stepJson(*step));
  root["bodies"] = ordered_json::object();
  for (const auto& [id, treatment] : made.bodies) root["bodies"][id.text()] = treatmentJson(treatment);
  root["seen"] = seenJson(document);
  // Texts of other programs, such as file names, need not be UTF-8.
  return root.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

Document documentFromJson(const std::string& text, const StepKinds& kinds, const std::string& fileName) {
  json root = parsed(text, fileName);
  try {
    requireVersion(root);
    bringUpToDate(root);
    requireOnly(root, {"format", "version", "unit", "dimensions", "levels", "steps", "bodies", "seen"},
                say("the document"));
    Document document;
    MadeHalf& made = document.made;
    made.unit = textAt(root, "unit", say("the document"), "mm");
    const std::optional<Unit> unit = findUnit(made.unit);
    if (!unit || unit->dimension != lengthDimension) throw wrongJson("unit", "mm, cm, m, in or ft");

    const json& dimensions = listAt(root, "dimensions");
    if (dimensions.size() > mostDimensions) throw FileError(say("there are more than 100000 dimensions"), "dimensions");
    for (std::size_t i = 0; i < dimensions.size(); ++i) {
      const std::string place = "dimensions[" + std::to_string(i) + "]";
      if (!dimensions[i].is_object()) throw wrongJson(place, "a dimension");
      requireOnly(dimensions[i], {"name", "is"}, place);
      made.dimensions.push_back({textAt(dimensions[i], "name", place), Expression(textAt(dimensions[i], "is", place))});
    }

    made.levels = levelsFrom(root);
    const json& steps = listAt(root, "steps");
    if (steps.size() > mostSteps) throw FileError(say("there are more than 100000 steps"), "steps");
    std::set<StepId> ids;
    for (std::size_t i = 0; i < steps.size(); ++i) {
      const std::string place = "steps[" + std::to_string(i) + "]";
      Step step = stepFrom(steps[i], kinds, place);
      requireWhere(step, false, place);
      requireNewId(step.id(), ids, place);
      made.steps.push_back(std::make_shared<const Step>(std::move(step)));
    }

    forEachAt(root, "bodies", "", [&](const std::string& key, const std::string& place, const json& treatment) {
      made.bodies[idFrom<BodyId>(key, "bodies")] = treatmentFrom(treatment, place);
    });
    if (root.contains("seen")) document.seen = seenFrom(root["seen"], kinds, ids, made);
    return document;
  } catch (const FileError& error) {
    throw FileError(error.happened(), error.where().empty() ? fileName : fileName + ", " + error.where(), error.help());
  }
}

std::vector<std::string> shapeKeys(const Document& document) {
  std::set<std::string> keys;
  for (const auto& step : document.made.steps)
    for (const FieldValue& value : step->values())
      if (const auto* bodies = value.asIf<std::vector<BroughtBody>>())
        for (const BroughtBody& body : *bodies) keys.insert(body.shape);
  return {keys.begin(), keys.end()};
}

}  // namespace kervo
