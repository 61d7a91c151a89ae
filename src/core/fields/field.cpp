#include "fields/field.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "base/error.h"
#include "base/say.h"

namespace kervo {

Field::Field(FieldTable& table, FieldText text) : text_(std::move(text)), index_(table.fields_.size()) {
  table.fields_.push_back(this);
}

const Field* FieldTable::field(std::string_view key) const {
  const auto found =
      std::find_if(fields_.begin(), fields_.end(), [&](const Field* field) { return field->key() == key; });
  return found == fields_.end() ? nullptr : *found;
}

void Field::fail(std::string happened, std::string help) const {
  throw Error(std::move(happened), place(), std::move(help));
}

std::string Field::text(const FieldValue& value) const {
  const nlohmann::json json = toJson(value);
  return json.is_string() ? json.get<std::string>() : json.dump();
}

bool Field::isNothing(const FieldValue& value) const {
  const nlohmann::json json = toJson(value);
  return json.empty() || (json.is_string() && json.get<std::string>().empty());
}

FieldValue Field::fromText(const std::string& text, const std::string& place) const {
  const bool structured = !text.empty() && (text.front() == '{' || text.front() == '[');
  if (!structured) return fromJson(text, place);
  try {
    return fromJson(nlohmann::json::parse(text), place);
  } catch (const nlohmann::json::exception& error) {
    throw Error(say("this is no JSON"), place, error.what());
  }
}

}  // namespace kervo
