// Three lengths: a point, a place on a plane, or a direction.
#pragma once

#include <array>

#include "fields/field.h"
#include "geom/space.h"

namespace kervo {

extern template class FieldOf<std::vector<Expression>>;

class CoordinatesField : public FieldOf<std::vector<Expression>> {
 public:
  /// `names` of the three: "x", "y", "z".
  CoordinatesField(FieldTable& table, FieldText text, std::array<std::string, 3> names);
  Point of(const Inputs& inputs) const;
  const std::array<std::string, 3>& names() const { return names_; }
  const char* typeName() const override { return "coordinates"; }
  std::string allowed() const override;
  /// Also as three numbers with commas between.
  FieldValue fromText(const std::string& text, const std::string& place) const override;

 protected:
  nlohmann::json print(const std::vector<Expression>& value) const override;
  std::vector<Expression> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<Expression>& value) const override;
  void require(const std::vector<Expression>& value) const override;
  std::vector<NumberPart> parts(const std::vector<Expression>& value) const override;
  void changeParts(std::vector<Expression>& value,
                   const std::function<Expression(const Expression&)>& change) const override;

 private:
  std::array<std::string, 3> names_;
};

}  // namespace kervo
