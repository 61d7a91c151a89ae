// Which bodies a step takes.
#pragma once

#include "base/say.h"
#include "fields/field.h"

namespace kervo {

/// Bodies that are named, or all that the step touches.
struct BodyPick {
  bool all = false;
  std::vector<BodyId> bodies;
  bool operator==(const BodyPick&) const = default;

  static BodyPick everything() { return {true, {}}; }
  static BodyPick only(std::vector<BodyId> bodies) { return {false, std::move(bodies)}; }
};

/// The members of all bodies picked, each once. Throws an Error at the field for a body that is not there.
std::vector<BodyId> bodiesFor(Inputs& inputs, const BodyPick& pick, const Field& field);

extern template class FieldOf<BodyPick>;

class BodiesField : public FieldOf<BodyPick> {
 public:
  using FieldOf::FieldOf;
  std::vector<BodyId> of(Inputs& inputs) const { return bodiesFor(inputs, in(inputs), *this); }
  const char* typeName() const override { return "bodies"; }
  std::string allowed() const override { return say("all, or a list of bodies"); }
  /// "all", or ids with commas between.
  FieldValue fromText(const std::string& text, const std::string& place) const override;

 protected:
  nlohmann::json print(const BodyPick& value) const override;
  BodyPick parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const BodyPick& value) const override;
  void references(std::set<StepId>& steps, const BodyPick& value) const override;
};

}  // namespace kervo
