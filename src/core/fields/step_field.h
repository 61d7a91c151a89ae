// Another step, chosen from the list of steps.
#pragma once

#include "base/say.h"
#include "fields/field.h"

namespace kervo {

/// Empty if none is chosen.
struct StepPick {
  StepId step = {};
  bool operator==(const StepPick&) const = default;
};

extern template class FieldOf<StepPick>;

class StepField : public FieldOf<StepPick> {
 public:
  using FieldOf::FieldOf;
  const char* typeName() const override { return "step"; }
  std::string allowed() const override { return say("the id of a step before this one"); }

 protected:
  nlohmann::json print(const StepPick& value) const override;
  StepPick parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const StepPick& value) const override;
  void references(std::set<StepId>& steps, const StepPick& value) const override;
};

}  // namespace kervo
