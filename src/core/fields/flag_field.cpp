#include "fields/flag_field.h"

#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<bool>;

FieldValue FlagField::fromText(const std::string& text, const std::string& place) const {
  if (text != "true" && text != "false") throw wrongJson(place, "true or false");
  return text == "true";
}

nlohmann::json FlagField::print(const bool& value) const {
  return value;
}

bool FlagField::parse(const nlohmann::json& json, const std::string& place) const {
  if (!json.is_boolean()) throw wrongJson(place, "true or false");
  return json.get<bool>();
}

}  // namespace kervo
