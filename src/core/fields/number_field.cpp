#include "fields/number_field.h"

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<Expression>;

const char* NumberField::typeName() const {
  return wanted_.isLength() ? "length" : wanted_.dimension == angleDimension ? "angle" : "number";
}

std::string NumberField::allowed() const {
  switch (wanted_.rule) {
    case NumberRule::Any:
      return {};
    case NumberRule::Positive:
      return say("greater than zero");
    case NumberRule::NotNegative:
      return say("zero or more");
  }
  return {};
}

nlohmann::json NumberField::print(const Expression& value) const {
  return value.text();
}

Expression NumberField::parse(const nlohmann::json& json, const std::string& place) const {
  return expressionFrom(json, place);
}

void NumberField::hash(Hasher& hasher, const Expression&) const {
  hasher.add("number");
}

}  // namespace kervo
