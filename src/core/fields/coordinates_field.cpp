#include "fields/coordinates_field.h"

#include <sstream>

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<std::vector<Expression>>;

CoordinatesField::CoordinatesField(FieldTable& table, FieldText text, std::array<std::string, 3> names)
    : FieldOf(table, std::move(text), std::vector<Expression>(3, Expression("0"))), names_(std::move(names)) {}

Point CoordinatesField::of(const Inputs& inputs) const {
  const std::vector<double>& numbers = inputs.numbers(*this);
  return {numbers[0], numbers[1], numbers[2]};
}

std::string CoordinatesField::allowed() const {
  return names_[0] + ", " + names_[1] + ", " + names_[2];
}

FieldValue CoordinatesField::fromText(const std::string& text, const std::string& place) const {
  if (!text.empty() && text.front() == '[') return Field::fromText(text, place);
  std::vector<Expression> numbers;
  std::istringstream parts(text);
  for (std::string part; std::getline(parts, part, ',');) numbers.emplace_back(part);
  if (numbers.size() != 3) throw wrongJson(place, "a list of three lengths");
  return numbers;
}

nlohmann::json CoordinatesField::print(const std::vector<Expression>& value) const {
  nlohmann::json result = nlohmann::json::array();
  for (const Expression& number : value) result.push_back(number.text());
  return result;
}

std::vector<Expression> CoordinatesField::parse(const nlohmann::json& json, const std::string& place) const {
  auto numbers = listFrom<Expression>(json, place, expressionFrom);
  if (numbers.size() != 3) throw wrongJson(place, "a list of three lengths");
  return numbers;
}

void CoordinatesField::hash(Hasher& hasher, const std::vector<Expression>& value) const {
  hasher.add(static_cast<std::uint64_t>(value.size()));
}

void CoordinatesField::require(const std::vector<Expression>& value) const {
  if (value.size() != names_.size()) throw Error(say("the field \"%1\" takes three lengths", key()));
}

std::vector<NumberPart> CoordinatesField::parts(const std::vector<Expression>& value) const {
  std::vector<NumberPart> result;
  for (const Expression& number : value) result.push_back({number, {}});
  return result;
}

void CoordinatesField::changeParts(std::vector<Expression>& value,
                                   const std::function<Expression(const Expression&)>& change) const {
  for (Expression& number : value) number = change(number);
}

}  // namespace kervo
