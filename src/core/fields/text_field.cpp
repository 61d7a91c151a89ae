#include "fields/text_field.h"

#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<std::string>;

nlohmann::json TextField::print(const std::string& value) const {
  return value;
}

std::string TextField::parse(const nlohmann::json& json, const std::string& place) const {
  if (!json.is_string()) throw wrongJson(place, "a text");
  return json.get<std::string>();
}

}  // namespace kervo
