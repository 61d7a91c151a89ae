// One face.
#pragma once

#include "fields/field.h"
#include "fields/reference.h"

namespace kervo {

extern template class FieldOf<FaceReference>;

class FaceField : public FieldOf<FaceReference> {
 public:
  using FieldOf::FieldOf;
  /// Throws an Error at the field if no face is chosen, or it is lost.
  Face of(Inputs& inputs) const;
  const char* typeName() const override { return "face"; }

 protected:
  nlohmann::json print(const FaceReference& value) const override;
  FaceReference parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const FaceReference& value) const override;
  void references(std::set<StepId>& steps, const FaceReference& value) const override;
};

}  // namespace kervo
