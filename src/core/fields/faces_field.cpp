#include "fields/faces_field.h"

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"
#include "fields/reference_parts.h"

namespace kervo {

template class FieldOf<std::vector<FaceReference>>;

std::vector<Face> FacesField::of(Inputs& inputs) const {
  if (in(inputs).empty()) fail(say("no face is chosen"), say("Pick the faces"));
  std::vector<Face> faces;
  for (const FaceReference& reference : in(inputs)) faces.push_back(faceFor(inputs, reference, *this));
  return faces;
}

nlohmann::json FacesField::print(const std::vector<FaceReference>& value) const {
  nlohmann::json result = nlohmann::json::array();
  for (const FaceReference& each : value) result.push_back(kervo::toJson(each));
  return result;
}

std::vector<FaceReference> FacesField::parse(const nlohmann::json& json, const std::string& place) const {
  return listFrom<FaceReference>(json, place, faceFrom);
}

void FacesField::hash(Hasher& hasher, const std::vector<FaceReference>& value) const {
  addTo(hasher, value);
}

void FacesField::references(std::set<StepId>& steps, const std::vector<FaceReference>& value) const {
  for (const FaceReference& each : value) kervo::addSteps(steps, each);
}

}  // namespace kervo
