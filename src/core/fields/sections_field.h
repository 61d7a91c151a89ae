// Sections in a row: drawings, curve bodies, outlines of faces and points, in their order.
#pragma once

#include "fields/field.h"
#include "fields/reference.h"

namespace kervo {

/// One section.
struct SectionPick {
  enum class Kind { Drawing, Curve, Face, Point };
  Kind kind = Kind::Drawing;
  StepId drawing = {};
  BodyId curve = {};
  FaceReference face = {};
  PointReference point = {};
  bool operator==(const SectionPick&) const = default;

  static SectionPick ofDrawing(StepId step) { return {Kind::Drawing, std::move(step)}; }
  static SectionPick ofCurve(BodyId body) { return {Kind::Curve, {}, std::move(body)}; }
  static SectionPick of(FaceReference face) { return {Kind::Face, {}, {}, std::move(face)}; }
  static SectionPick of(PointReference point) { return {Kind::Point, {}, {}, {}, std::move(point)}; }
};

extern template class FieldOf<std::vector<SectionPick>>;

class SectionsField : public FieldOf<std::vector<SectionPick>> {
 public:
  using FieldOf::FieldOf;
  const char* typeName() const override { return "sections"; }
  std::string allowed() const override;

 protected:
  nlohmann::json print(const std::vector<SectionPick>& value) const override;
  std::vector<SectionPick> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<SectionPick>& value) const override;
  void references(std::set<StepId>& steps, const std::vector<SectionPick>& value) const override;
};

}  // namespace kervo
