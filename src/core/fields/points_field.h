// Corners of bodies.
#pragma once

#include "fields/field.h"
#include "fields/reference.h"

namespace kervo {

extern template class FieldOf<std::vector<PointReference>>;

class PointsField : public FieldOf<std::vector<PointReference>> {
 public:
  using FieldOf::FieldOf;
  const char* typeName() const override { return "points"; }

 protected:
  nlohmann::json print(const std::vector<PointReference>& value) const override;
  std::vector<PointReference> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<PointReference>& value) const override;
  void references(std::set<StepId>& steps, const std::vector<PointReference>& value) const override;
};

}  // namespace kervo
