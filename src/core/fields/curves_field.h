// The curves of a drawing.
#pragma once

#include "drawing/curve_kind.h"
#include "fields/plane_field.h"

namespace kervo {

extern template class FieldOf<std::vector<DrawnCurve>>;

class CurvesField : public FieldOf<std::vector<DrawnCurve>> {
 public:
  /// `plane`: on which they are drawn.
  CurvesField(FieldTable& table, FieldText text, const PlaneField& plane)
      : FieldOf(table, std::move(text)), plane_(plane) {}

  /// Evaluated, in the plane's coordinates.
  std::vector<PlanarCurve> of(const Inputs& inputs) const;
  const PlaneField& plane() const { return plane_; }
  const char* typeName() const override { return "curves"; }
  std::string allowed() const override;

 protected:
  nlohmann::json print(const std::vector<DrawnCurve>& value) const override;
  std::vector<DrawnCurve> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<DrawnCurve>& value) const override;
  /// Every curve is of a known kind and has as many numbers as that takes.
  void require(const std::vector<DrawnCurve>& value) const override;
  std::vector<NumberPart> parts(const std::vector<DrawnCurve>& value) const override;
  void changeParts(std::vector<DrawnCurve>& value,
                   const std::function<Expression(const Expression&)>& change) const override;

 private:
  const PlaneField& plane_;
};

}  // namespace kervo
