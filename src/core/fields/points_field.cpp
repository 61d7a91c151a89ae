#include "fields/points_field.h"

#include "fields/field_of.h"
#include "fields/json_parts.h"
#include "fields/reference_parts.h"

namespace kervo {

template class FieldOf<std::vector<PointReference>>;

nlohmann::json PointsField::print(const std::vector<PointReference>& value) const {
  nlohmann::json result = nlohmann::json::array();
  for (const PointReference& each : value) result.push_back(kervo::toJson(each));
  return result;
}

std::vector<PointReference> PointsField::parse(const nlohmann::json& json, const std::string& place) const {
  return listFrom<PointReference>(json, place, pointReferenceFrom);
}

void PointsField::hash(Hasher& hasher, const std::vector<PointReference>& value) const {
  addTo(hasher, value);
}

void PointsField::references(std::set<StepId>& steps, const std::vector<PointReference>& value) const {
  for (const PointReference& each : value) kervo::addSteps(steps, each);
}

}  // namespace kervo
