// Field values as JSON, each type in the one form that docs/file-format.md describes.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>

#include "base/error.h"
#include "model/step.h"

namespace kervo {

nlohmann::json toJson(const FieldValue& value);
/// Throws FileError naming `place` (e.g. "steps[3].fields.depth") for another type or form.
FieldValue fieldFromJson(const FieldSpec& field, const nlohmann::json& json, const std::string& place);

/// Throws FileError unless the object has only these keys.
void requireOnly(const nlohmann::json& object, std::initializer_list<const char*> keys, const std::string& place);
/// The text of a key; `fallback` if it is missing and `fallback` is given. Throws FileError otherwise.
std::string textAt(const nlohmann::json& object, const char* key, const std::string& place,
                   const char* fallback = nullptr);

/// The id that `text` is. Throws a FileError if it is none.
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
/// A finite number. Throws FileError otherwise.
double finiteNumber(const nlohmann::json& json, const std::string& place);

}  // namespace kervo
