#include "fields/json_parts.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "base/say.h"

namespace kervo {

using nlohmann::json;

FileError wrongJson(const std::string& place, const std::string& needed) {
  return FileError(say("%1 is needed here", say(needed.c_str())), place, say("See docs/file-format.md"));
}

void requireOnly(const json& object, std::initializer_list<const char*> keys, const std::string& place) {
  for (const auto& item : object.items()) {
    const bool known = std::any_of(keys.begin(), keys.end(), [&](const char* key) { return item.key() == key; });
    if (!known)
      throw FileError(say("the key \"%1\" is not known", item.key()), place, say("Correct its spelling, or remove it"));
  }
}

std::string textAt(const json& object, const char* key, const std::string& place, const char* fallback) {
  if (!object.contains(key)) {
    if (fallback) return fallback;
    throw wrongJson(place, say("a key \"%1\"", key));
  }
  if (!object[key].is_string()) throw wrongJson(place + "." + key, "a text");
  return object[key].get<std::string>();
}

std::vector<std::string> textsFrom(const json& value, const std::string& place) {
  if (!value.is_array()) throw wrongJson(place, "a list of names");
  std::vector<std::string> result;
  for (const json& item : value) {
    if (!item.is_string()) throw wrongJson(place, "a list of names");
    result.push_back(item.get<std::string>());
  }
  return result;
}

std::vector<BodyId> bodyIdsFrom(const json& value, const std::string& place) {
  std::vector<BodyId> result;
  for (const std::string& text : textsFrom(value, place)) result.push_back(idFrom<BodyId>(text, place));
  return result;
}

double finiteNumber(const json& value, const std::string& place) {
  if (!value.is_number() || !std::isfinite(value.get<double>())) throw wrongJson(place, "a finite number");
  return value.get<double>();
}

Expression expressionFrom(const json& value, const std::string& place) {
  if (value.is_string()) return Expression(value.get<std::string>());
  if (value.is_number()) return Expression(formatNumber(finiteNumber(value, place), 17));
  throw wrongJson(place, "an expression in quotes, or a number,");
}

json pointJson(Point p) {
  return json::array({p.x, p.y, p.z});
}

Point pointFrom(const json& value, const std::string& place) {
  if (!value.is_array() || value.size() != 3) throw wrongJson(place, "a list of three numbers");
  return {finiteNumber(value[0], place + "[0]"), finiteNumber(value[1], place + "[1]"),
          finiteNumber(value[2], place + "[2]")};
}

}  // namespace kervo
