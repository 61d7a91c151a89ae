// A drawing: points, curves and constraints.
#pragma once

#include "drawing/drawing.h"
#include "drawing/drawing_result.h"
#include "fields/plane_field.h"
#include "fields/taken_field.h"

namespace kervo {

extern template class FieldOf<Drawing>;

class DrawingField : public FieldOf<Drawing> {
 public:
  /// `plane`: on which it is drawn. `taken`: what it takes along, if it can.
  DrawingField(FieldTable& table, FieldText text, const PlaneField& plane, const TakenField* taken = nullptr)
      : FieldOf(table, std::move(text)), plane_(plane), taken_(taken) {}

  /// What its expressions come to.
  DrawingValues valuesOf(const Inputs& inputs) const;
  const PlaneField& plane() const { return plane_; }
  const TakenField* taken() const { return taken_; }
  const char* typeName() const override { return "drawing"; }
  std::string allowed() const override;

 protected:
  nlohmann::json print(const Drawing& value) const override;
  Drawing parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const Drawing& value) const override;
  /// Kinds are known, and curves have as many numbers as theirs take.
  void require(const Drawing& value) const override;
  std::vector<NumberPart> parts(const Drawing& value) const override;
  void changeParts(Drawing& value, const std::function<Expression(const Expression&)>& change) const override;

 private:
  const PlaneField& plane_;
  const TakenField* taken_;
};

}  // namespace kervo
