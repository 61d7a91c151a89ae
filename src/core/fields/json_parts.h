// Pieces of JSON that several field types and the document itself are made of. All of them throw a FileError that names
// `place` ("steps[3].fields.depth") for another form.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

#include "base/error.h"
#include "base/expression.h"
#include "base/ids.h"
#include "geom/space.h"

namespace kervo {

/// "… is needed here".
FileError wrongJson(const std::string& place, const std::string& needed);

/// Throws unless the object has only these keys.
void requireOnly(const nlohmann::json& object, std::initializer_list<const char*> keys, const std::string& place);
/// The text of a key; `fallback` if it is missing and `fallback` is given.
std::string textAt(const nlohmann::json& object, const char* key, const std::string& place,
                   const char* fallback = nullptr);
std::vector<std::string> textsFrom(const nlohmann::json& json, const std::string& place);

/// The id that `text` is.
template <class Id>
Id idFrom(const std::string& text, const std::string& place) {
  try {
    return text;
  } catch (const Error& error) {
    throw FileError(error.happened(), place, error.help());
  }
}

/// The same for the value of a key.
template <class Id>
Id idAt(const nlohmann::json& object, const char* key, const std::string& place, const char* fallback = nullptr) {
  return idFrom<Id>(textAt(object, key, place, fallback), place + "." + key);
}
std::vector<BodyId> bodyIdsFrom(const nlohmann::json& json, const std::string& place);

double finiteNumber(const nlohmann::json& json, const std::string& place);
/// An expression in quotes, or a number.
Expression expressionFrom(const nlohmann::json& json, const std::string& place);
nlohmann::json pointJson(Point point);
Point pointFrom(const nlohmann::json& json, const std::string& place);

/// A list, each entry read by `read(json, place)`.
template <class T, class Json, class Read>
std::vector<T> listFrom(const Json& json, const std::string& place, Read&& read) {
  if (!json.is_array()) throw wrongJson(place, "a list");
  std::vector<T> result;
  for (std::size_t i = 0; i < json.size(); ++i) result.push_back(read(json[i], place + "[" + std::to_string(i) + "]"));
  return result;
}

}  // namespace kervo
