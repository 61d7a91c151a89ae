#include "fields/bodies_field.h"

#include <algorithm>
#include <sstream>

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<BodyPick>;

namespace {

std::string listed(const std::vector<BodyId>& names) {
  constexpr std::size_t most = 8;
  std::string text;
  for (std::size_t i = 0; i < names.size() && i < most; ++i) text += (i ? ", " : "") + names[i];
  return names.size() > most ? text + ", …" : text;
}

}  // namespace

std::vector<BodyId> bodiesFor(Inputs& inputs, const BodyPick& pick, const Field& field) {
  if (pick.all) return inputs.members("");
  std::vector<BodyId> result;
  for (const BodyId& wanted : pick.bodies) {
    const std::vector<BodyId> found = inputs.members(wanted);
    if (found.empty()) {
      // The message depends on all bodies: it is not kept when another one comes or goes.
      const std::vector<BodyId> present = inputs.members("");
      field.fail(say("there is no body \"%1\" here", wanted),
                 present.empty() ? say("Make or bring in a body before this step")
                                 : say("Pick again; at this step there are: %1", listed(present)));
    }
    for (const BodyId& body : found)
      if (std::find(result.begin(), result.end(), body) == result.end()) result.push_back(body);
  }
  return result;
}

FieldValue BodiesField::fromText(const std::string& text, const std::string& place) const {
  if (text == "all") return BodyPick::everything();
  if (!text.empty() && text.front() == '[') return Field::fromText(text, place);
  BodyPick pick;
  std::istringstream parts(text);
  for (std::string part; std::getline(parts, part, ',');) pick.bodies.push_back(idFrom<BodyId>(part, place));
  return pick;
}

nlohmann::json BodiesField::print(const BodyPick& value) const {
  return value.all ? nlohmann::json("all") : nlohmann::json(value.bodies);
}

BodyPick BodiesField::parse(const nlohmann::json& json, const std::string& place) const {
  if (json.is_string() && json.get<std::string>() == "all") return BodyPick::everything();
  if (!json.is_array()) throw wrongJson(place, "\"all\" or a list of bodies");
  return BodyPick::only(bodyIdsFrom(json, place));
}

void BodiesField::hash(Hasher& hasher, const BodyPick& value) const {
  hasher.add(value.all ? "all" : "some").add(static_cast<std::uint64_t>(value.bodies.size()));
  for (const BodyId& body : value.bodies) hasher.add(body);
}

void BodiesField::references(std::set<StepId>& steps, const BodyPick& value) const {
  for (const BodyId& body : value.bodies) steps.insert(body.step());
}

}  // namespace kervo
