#include "model/names_for_people.h"

#include <algorithm>
#include <optional>

#include "base/say.h"

namespace kervo {

namespace {

std::optional<std::string> nameOfStep(const StepId& id, const Model& model) {
  const auto step =
      std::find_if(model.steps.begin(), model.steps.end(), [&](const auto& each) { return each.id == id; });
  return step == model.steps.end() ? std::nullopt : std::optional(step->name);
}

/// Of the body that is written like this, or of the step that made it.
std::optional<std::string> nameOfMaker(const std::string& text, const Model& model) {
  const auto id = BodyId::read(text);
  if (!id) return std::nullopt;
  if (const auto body = model.everShown.find(*id); body != model.everShown.end()) return body->second.name;
  return nameOfStep(id->step(), model);
}

/// "side:3" as "side 3".
std::string partOf(const std::string& origin) {
  std::string part = origin.substr(origin.find(':') + 1);
  std::replace(part.begin(), part.end(), ':', ' ');
  return part;
}

std::optional<std::string> nameOfQuoted(const std::string& text, const Model& model) {
  if (const auto id = BodyId::read(text); id && model.everShown.contains(*id)) return model.everShown.at(*id).name;
  // An edge, by the faces on its two sides.
  if (const auto bar = text.find(" | "); bar != std::string::npos) {
    const std::string first = text.substr(0, bar), second = text.substr(bar + 3);
    if (!nameOfQuoted(first, model) || !nameOfQuoted(second, model)) return std::nullopt;
    return edgeName(EdgeReference{"", first, second, std::nullopt}, model);
  }
  const auto colon = text.find(':');
  if (colon == std::string::npos || !nameOfMaker(text.substr(0, colon), model)) return std::nullopt;
  return faceName(text, model);
}

}  // namespace

std::string withNames(const std::string& text, const Model& model, Quotes quotes) {
  std::string result;
  std::size_t done = 0;
  for (auto open = text.find('"'); open != std::string::npos;) {
    const auto close = text.find('"', open + 1);
    if (close == std::string::npos) break;
    const auto name = nameOfQuoted(text.substr(open + 1, close - open - 1), model);
    if (!name) {
      // What closes here may open the next one.
      open = close;
      continue;
    }
    result += text.substr(done, open - done);
    result += quotes == Quotes::Keep ? '"' + *name + '"' : *name;
    done = close + 1;
    open = text.find('"', done);
  }
  return result + text.substr(done);
}

std::vector<std::string> withNames(const std::vector<std::string>& texts, const Model& model) {
  std::vector<std::string> result;
  result.reserve(texts.size());
  for (const std::string& text : texts) result.push_back(withNames(text, model));
  return result;
}

std::string faceName(const std::string& origin, const Model& model) {
  const std::string id = origin.substr(0, origin.find(':'));
  const std::string maker = nameOfMaker(id, model).value_or(id);
  return id.size() == origin.size() ? maker : say("%1 of %2", partOf(origin), maker);
}

std::string faceName(const FaceReference& face, const Model& model) {
  const auto body = model.everShown.find(face.body);
  if (body == model.everShown.end() || face.name.find(':') == std::string::npos) return faceName(face.name, model);
  return say("%1 of %2", partOf(face.name), body->second.name);
}

std::string edgeName(const EdgeReference& edge, const Model& model) {
  if (edge.second.empty()) return say("border of %1", faceName(edge.first, model));
  // Between two faces of one maker, that is named once.
  if (makerOf(edge.first) == makerOf(edge.second) && nameOfQuoted(edge.first, model))
    return partOf(edge.first) + " | " + faceName(edge.second, model);
  return faceName(edge.first, model) + " | " + faceName(edge.second, model);
}

}  // namespace kervo
