#include "fields/brought_field.h"

#include <cmath>
#include <set>

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

using nlohmann::json;

template class FieldOf<std::vector<BroughtBody>>;

namespace {

Color colorFrom(const json& value, const std::string& place) {
  const std::optional<Color> color = value.is_string() ? colorFromText(value.get<std::string>()) : std::nullopt;
  if (!color) throw wrongJson(place, "a colour as #rrggbb");
  return *color;
}

int countFrom(const json& value, const std::string& place, int least) {
  if (!value.is_number_integer() || value.get<std::int64_t>() < least || value.get<std::int64_t>() > 1'000'000'000)
    throw wrongJson(place, "a whole number");
  return value.get<int>();
}

/// Axes are at right angles and of unit length, but for how exactly numbers are written.
Plane placeFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "a place");
  requireOnly(value, {"at", "x", "y"}, place);
  Plane plane;
  for (const auto& [key, into] : {std::pair("at", &plane.origin), std::pair("x", &plane.x), std::pair("y", &plane.y)})
    if (value.contains(key)) *into = pointFrom(value[key], place + "." + key);
  constexpr double rounding = 1e-6;
  const auto isUnit = [](const Vector& v) { return std::abs(length(v) - 1) < rounding; };
  if (!isUnit(plane.x) || !isUnit(plane.y) || std::abs(dot(plane.x, plane.y)) > rounding)
    throw wrongJson(place, "an x and a y of unit length at right angles");
  plane.normal = cross(plane.x, plane.y);
  return plane;
}

json placeJson(const Plane& plane) {
  return {{"at", pointJson(plane.origin)}, {"x", pointJson(plane.x)}, {"y", pointJson(plane.y)}};
}

BroughtBody broughtFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "a brought-in body");
  requireOnly(value, {"shape", "name", "color", "layer", "face_colors", "in", "place", "number", "face_numbers"},
              place);
  BroughtBody body;
  body.shape = textAt(value, "shape", place);
  body.name = textAt(value, "name", place, "");
  body.layer = textAt(value, "layer", place, "");
  if (value.contains("color")) body.color = colorFrom(value["color"], place + ".color");
  if (value.contains("in"))
    body.within = listFrom<std::string>(value["in"], place + ".in", [](const json& name, const std::string& at) {
      if (!name.is_string() || name.get<std::string>().empty()) throw wrongJson(at, "the name of an assembly");
      return name.get<std::string>();
    });
  if (value.contains("place")) body.place = placeFrom(value["place"], place + ".place");
  if (value.contains("number")) body.number = countFrom(value["number"], place + ".number", 0);
  if (value.contains("face_numbers"))
    body.faceNumbers =
        listFrom<int>(value["face_numbers"], place + ".face_numbers",
                      [](const json& number, const std::string& at) { return countFrom(number, at, 1); });
  if (!value.contains("face_colors")) return body;
  const std::string inside = place + ".face_colors";
  if (!value["face_colors"].is_object()) throw wrongJson(inside, "an object of face numbers and colours");
  for (const auto& item : value["face_colors"].items()) {
    const std::string& number = item.key();
    if (number.empty() || number.size() > 9 || number.find_first_not_of("0123456789") != std::string::npos)
      throw wrongJson(inside, "the number of a face");
    body.faceColors.emplace(std::stoi(number), colorFrom(item.value(), std::string(inside).append(".").append(number)));
  }
  return body;
}

void addColor(Hasher& hasher, const Color& color) {
  hasher.add(color.red).add(color.green).add(color.blue);
}

}  // namespace

std::vector<BodyId> idsOf(const std::vector<BroughtBody>& bodies, const StepId& step) {
  std::vector<BodyId> ids;
  std::set<std::size_t> used;
  for (std::size_t i = 0; i < bodies.size(); ++i) {
    const std::size_t place = bodies.size() == 1 ? 0 : i + 1;
    const auto number = static_cast<std::size_t>(bodies[i].number.value_or(static_cast<int>(place)));
    if (!used.insert(number).second)
      throw Error(say("two brought-in bodies have the number %1", number), "", say("Give each one of its own"));
    ids.push_back(number == 0 ? BodyId(step) : BodyId::broughtIn(step, number));
  }
  return ids;
}

std::string BroughtField::allowed() const {
  return say(
      "a list of {\"shape\": KEY, \"name\": …, \"color\": \"#rrggbb\", \"layer\": …, \"face_colors\": {\"3\": "
      "\"#rrggbb\"}, \"in\": [ASSEMBLY, …], \"place\": {\"at\": [0, 0, 0], \"x\": [1, 0, 0], \"y\": [0, 1, 0]}, "
      "\"number\": 2, \"face_numbers\": [1, 4, …]}");
}

json BroughtField::print(const std::vector<BroughtBody>& value) const {
  json result = json::array();
  for (const BroughtBody& body : value) {
    json entry{{"shape", body.shape}, {"name", body.name}};
    if (body.color) entry["color"] = colorText(*body.color);
    if (!body.layer.empty()) entry["layer"] = body.layer;
    if (!body.within.empty()) entry["in"] = body.within;
    if (body.place) entry["place"] = placeJson(*body.place);
    if (body.number) entry["number"] = *body.number;
    if (!body.faceNumbers.empty()) entry["face_numbers"] = body.faceNumbers;
    for (const auto& [number, color] : body.faceColors) entry["face_colors"][std::to_string(number)] = colorText(color);
    result.push_back(std::move(entry));
  }
  return result;
}

std::vector<BroughtBody> BroughtField::parse(const json& value, const std::string& place) const {
  return listFrom<BroughtBody>(value, place, broughtFrom);
}

void BroughtField::hash(Hasher& hasher, const std::vector<BroughtBody>& value) const {
  hasher.add(static_cast<std::uint64_t>(value.size()));
  for (const BroughtBody& body : value) {
    hasher.add(body.shape).add(body.name).add(body.layer).add(body.color ? "colour" : "");
    if (body.color) addColor(hasher, *body.color);
    hasher.add(static_cast<std::uint64_t>(body.within.size()));
    for (const std::string& name : body.within) hasher.add(name);
    hasher.add(body.place ? "place" : "");
    if (body.place)
      for (const Vector& each : {body.place->origin, body.place->x, body.place->y})
        hasher.add(each.x).add(each.y).add(each.z);
    hasher.add(static_cast<std::uint64_t>(body.number ? *body.number + 1 : 0));
    hasher.add(static_cast<std::uint64_t>(body.faceNumbers.size()));
    for (const int number : body.faceNumbers) hasher.add(static_cast<std::uint64_t>(number));
    hasher.add(static_cast<std::uint64_t>(body.faceColors.size()));
    for (const auto& [number, color] : body.faceColors) {
      hasher.add(static_cast<std::uint64_t>(number));
      addColor(hasher, color);
    }
  }
}

}  // namespace kervo
