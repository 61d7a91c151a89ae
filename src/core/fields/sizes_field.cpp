#include "fields/sizes_field.h"

#include <sstream>

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<Sizes>;

Sizes sizesIn(const std::string& text) {
  Sizes sizes;
  std::istringstream parts(text);
  for (std::string part; std::getline(parts, part, ';');) {
    const auto first = part.find_first_not_of(" \t");
    if (first == std::string::npos) continue;
    sizes.each.emplace_back(part.substr(first, part.find_last_not_of(" \t") - first + 1));
  }
  return sizes;
}

std::string textOf(const Sizes& sizes) {
  std::string text;
  for (const Expression& size : sizes.each) text += (text.empty() ? "" : "; ") + size.text();
  return text;
}

FieldValue SizesField::fromText(const std::string& text, const std::string& place) const {
  if (!text.empty() && text.front() == '[') return Field::fromText(text, place);
  return sizesIn(text);
}

nlohmann::json SizesField::print(const Sizes& value) const {
  nlohmann::json result = nlohmann::json::array();
  for (const Expression& size : value.each) result.push_back(size.text());
  return result;
}

Sizes SizesField::parse(const nlohmann::json& json, const std::string& place) const {
  return {listFrom<Expression>(json, place, expressionFrom)};
}

void SizesField::hash(Hasher& hasher, const Sizes& value) const {
  hasher.add(static_cast<std::uint64_t>(value.each.size()));
}

std::vector<NumberPart> SizesField::parts(const Sizes& value) const {
  std::vector<NumberPart> result;
  for (const Expression& size : value.each) result.push_back({size, wanted_, say("number %1", result.size() + 1)});
  return result;
}

void SizesField::changeParts(Sizes& value, const std::function<Expression(const Expression&)>& change) const {
  for (Expression& size : value.each) size = change(size);
}

}  // namespace kervo
