// A text, kept as it is.
#pragma once

#include "fields/field.h"

namespace kervo {

extern template class FieldOf<std::string>;

class TextField : public FieldOf<std::string> {
 public:
  using FieldOf::FieldOf;
  const std::string& of(const Inputs& inputs) const { return in(inputs); }
  const char* typeName() const override { return "text"; }

 protected:
  nlohmann::json print(const std::string& value) const override;
  std::string parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::string& value) const override { hasher.add(value); }
};

}  // namespace kervo
