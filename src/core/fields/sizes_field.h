// Any number of lengths.
#pragma once

#include "base/say.h"
#include "fields/field.h"

namespace kervo {

struct Sizes {
  std::vector<Expression> each;
  bool operator==(const Sizes&) const = default;
};

extern template class FieldOf<Sizes>;

class SizesField : public FieldOf<Sizes> {
 public:
  SizesField(FieldTable& table, FieldText text, NumberRule rule = NumberRule::Any)
      : FieldOf(table, std::move(text)), wanted_{lengthDimension, rule} {}

  /// In mm, in their order.
  const std::vector<double>& of(const Inputs& inputs) const { return inputs.numbers(*this); }
  const NumberWanted& wanted() const { return wanted_; }
  const char* typeName() const override { return "sizes"; }
  std::string allowed() const override { return say("lengths with ; between them"); }
  /// Lengths with ; between, since a comma may stand in an expression.
  FieldValue fromText(const std::string& text, const std::string& place) const override;

 protected:
  nlohmann::json print(const Sizes& value) const override;
  Sizes parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const Sizes& value) const override;
  std::vector<NumberPart> parts(const Sizes& value) const override;
  void changeParts(Sizes& value, const std::function<Expression(const Expression&)>& change) const override;

 private:
  NumberWanted wanted_;
};

/// What stands between ; in a text, without the blanks around. An empty text holds no size.
Sizes sizesIn(const std::string& text);
/// As they are written: "10 mm; 25 mm".
std::string textOf(const Sizes& sizes);

}  // namespace kervo
