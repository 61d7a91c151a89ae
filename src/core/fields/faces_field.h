// Several faces.
#pragma once

#include "fields/field.h"
#include "fields/reference.h"

namespace kervo {

extern template class FieldOf<std::vector<FaceReference>>;

class FacesField : public FieldOf<std::vector<FaceReference>> {
 public:
  using FieldOf::FieldOf;
  /// Throws an Error at the field if none is chosen, or one is lost.
  std::vector<Face> of(Inputs& inputs) const;
  const char* typeName() const override { return "faces"; }

 protected:
  nlohmann::json print(const std::vector<FaceReference>& value) const override;
  std::vector<FaceReference> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<FaceReference>& value) const override;
  void references(std::set<StepId>& steps, const std::vector<FaceReference>& value) const override;
};

}  // namespace kervo
