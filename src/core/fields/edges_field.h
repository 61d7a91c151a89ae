// Edges, of one or several bodies.
#pragma once

#include <map>

#include "fields/field.h"
#include "fields/reference.h"

namespace kervo {

extern template class FieldOf<std::vector<EdgeReference>>;

class EdgesField : public FieldOf<std::vector<EdgeReference>> {
 public:
  using FieldOf::FieldOf;
  /// By body. Throws an Error at the field if none is chosen, or one is lost.
  std::map<BodyId, std::vector<Edge>> of(Inputs& inputs) const;
  /// The first one; there must be one.
  Edge first(Inputs& inputs) const;
  const char* typeName() const override { return "edges"; }

 protected:
  nlohmann::json print(const std::vector<EdgeReference>& value) const override;
  std::vector<EdgeReference> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<EdgeReference>& value) const override;
  void references(std::set<StepId>& steps, const std::vector<EdgeReference>& value) const override;
};

}  // namespace kervo
