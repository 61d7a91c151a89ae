// Numbers: lengths, angles and plain ones, as expressions.
#pragma once

#include "fields/field.h"

namespace kervo {

extern template class FieldOf<Expression>;

class NumberField : public FieldOf<Expression> {
 public:
  NumberField(FieldTable& table, FieldText text, NumberWanted wanted, const std::string& standard)
      : FieldOf(table, std::move(text), Expression(standard)), wanted_(wanted) {}

  /// mm, radians or plain; 0 while the field does not matter.
  double of(const Inputs& inputs) const { return inputs.numbers(*this).front(); }
  const NumberWanted& wanted() const { return wanted_; }
  const char* typeName() const override;
  std::string allowed() const override;

 protected:
  nlohmann::json print(const Expression& value) const override;
  Expression parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const Expression& value) const override;
  std::vector<NumberPart> parts(const Expression& value) const override { return {{value, wanted_}}; }
  void changeParts(Expression& value, const std::function<Expression(const Expression&)>& change) const override {
    value = change(value);
  }

 private:
  NumberWanted wanted_;
};

class LengthField : public NumberField {
 public:
  LengthField(FieldTable& table, FieldText text, const std::string& standard, NumberRule rule = NumberRule::Any)
      : NumberField(table, std::move(text), {lengthDimension, rule}, standard) {}
};

class AngleField : public NumberField {
 public:
  AngleField(FieldTable& table, FieldText text, const std::string& standard)
      : NumberField(table, std::move(text), {angleDimension, NumberRule::Any}, standard) {}
};

class PlainNumberField : public NumberField {
 public:
  PlainNumberField(FieldTable& table, FieldText text, const std::string& standard, NumberRule rule = NumberRule::Any)
      : NumberField(table, std::move(text), {plainNumber, rule}, standard) {}
};

}  // namespace kervo
