// Yes or no.
#pragma once

#include "base/say.h"
#include "fields/field.h"

namespace kervo {

extern template class FieldOf<bool>;

class FlagField : public FieldOf<bool> {
 public:
  using FieldOf::FieldOf;
  bool of(const Inputs& inputs) const { return in(inputs); }
  const char* typeName() const override { return "flag"; }
  std::string allowed() const override { return say("true or false"); }
  FieldValue fromText(const std::string& text, const std::string& place) const override;

 protected:
  nlohmann::json print(const bool& value) const override;
  bool parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const bool& value) const override { hasher.add(value ? "yes" : "no"); }
};

}  // namespace kervo
