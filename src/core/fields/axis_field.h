// An axis that a step has made.
#pragma once

#include "base/say.h"
#include "fields/field.h"

namespace kervo {

/// A datum by its id; empty if none is chosen.
struct DatumPick {
  BodyId id = {};
  bool operator==(const DatumPick&) const = default;
};

extern template class FieldOf<DatumPick>;

/// An axis among the datums.
class AxisField : public FieldOf<DatumPick> {
 public:
  using FieldOf::FieldOf;
  /// Throws an Error at the field if there is no axis of that id.
  Axis of(Inputs& inputs) const;
  const char* typeName() const override { return "axis"; }
  std::string allowed() const override { return say("the id of an Axis step"); }

 protected:
  nlohmann::json print(const DatumPick& value) const override;
  DatumPick parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const DatumPick& value) const override;
  void references(std::set<StepId>& steps, const DatumPick& value) const override;
};

}  // namespace kervo
