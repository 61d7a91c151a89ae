#include "fields/step_field.h"

#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<StepPick>;

nlohmann::json StepField::print(const StepPick& value) const {
  return value.step.text();
}

StepPick StepField::parse(const nlohmann::json& json, const std::string& place) const {
  if (!json.is_string()) throw wrongJson(place, "the id of a step");
  return {idFrom<StepId>(json.get<std::string>(), place)};
}

void StepField::hash(Hasher& hasher, const StepPick& value) const {
  hasher.add(value.step);
}

void StepField::references(std::set<StepId>& steps, const StepPick& value) const {
  if (!value.step.empty()) steps.insert(value.step);
}

}  // namespace kervo
