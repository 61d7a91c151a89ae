#include "fields/face_field.h"

#include "fields/field_of.h"
#include "fields/json_parts.h"
#include "fields/reference_parts.h"

namespace kervo {

template class FieldOf<FaceReference>;

Face FaceField::of(Inputs& inputs) const {
  return faceFor(inputs, in(inputs), *this);
}

nlohmann::json FaceField::print(const FaceReference& value) const {
  return kervo::toJson(value);
}

FaceReference FaceField::parse(const nlohmann::json& json, const std::string& place) const {
  return faceFrom(json, place);
}

void FaceField::hash(Hasher& hasher, const FaceReference& value) const {
  addTo(hasher, value);
}

void FaceField::references(std::set<StepId>& steps, const FaceReference& value) const {
  kervo::addSteps(steps, value);
}

}  // namespace kervo
