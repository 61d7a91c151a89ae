// Steps as values: a kind, and values for its fields.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "base/hash.h"
#include "model/step_kind.h"

namespace kervo {

/// One entry of the Cut list. An immutable value.
class Step {
 public:
  /// Fields not given take their standard. Throws Error for a field that the kind does not have, or a value that cannot
  /// stand in it.
  Step(StepId id, const StepKind& kind, const std::map<std::string, FieldValue>& fields, bool on = true);

  const StepId& id() const { return id_; }
  const StepKind& kind() const { return *kind_; }
  bool on() const { return on_; }
  /// In the order of the kind's fields.
  const std::vector<FieldValue>& values() const { return values_; }
  const FieldValue& value(const Field& field) const { return values_[field.index()]; }
  /// @throws std::out_of_range if the kind has no field of that key.
  const FieldValue& value(const std::string& key) const;
  /// Key of everything but numbers: kind, id, picks, choices.
  const Key& fixedKey() const { return fixedKey_; }

  /// The same step with one field changed.
  Step with(const Field& field, FieldValue value) const;
  Step with(const std::string& key, FieldValue value) const;
  Step switched(bool on) const;
  /// Under another id.
  Step withId(StepId id) const;

 private:
  Step(StepId id, const StepKind& kind, std::vector<FieldValue> values, bool on);
  void makeKey();

  StepId id_;
  const StepKind* kind_;
  std::vector<FieldValue> values_;
  bool on_;
  Key fixedKey_;
};

/// Whether a field matters with the step's present choices.
bool matters(const Step& step, const Field& field);

}  // namespace kervo
