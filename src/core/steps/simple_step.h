// What all step kinds have in common: a key, a label and a table of fields.
#pragma once

#include "model/step.h"
#include "model/step_inputs.h"

namespace kervo {

/// A kind made from its table; the derived class adds evaluate().
class SimpleStep : public StepKind {
 public:
  SimpleStep(std::string key, std::string label, std::vector<FieldSpec> fields)
      : key_(std::move(key)), label_(std::move(label)), fields_(std::move(fields)) {}
  const std::string& key() const override { return key_; }
  const std::string& label() const override { return label_; }
  const std::vector<FieldSpec>& fields() const override { return fields_; }

 private:
  std::string key_;
  std::string label_;
  std::vector<FieldSpec> fields_;
};

}  // namespace kervo
