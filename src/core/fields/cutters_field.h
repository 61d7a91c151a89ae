// What cuts: planes, faces, bodies and drawings together.
#pragma once

#include "fields/plane_field.h"
#include "fields/regions_field.h"

namespace kervo {

/// One thing that cuts: a plane, a face, a body, or what is drawn.
struct CutterPick {
  enum class Kind { Plane, Face, Body, Drawing };
  Kind kind = Kind::Plane;
  PlanePick plane = {};
  FaceReference face = {};
  BodyId body = {};
  RegionPick drawing = {};  ///< all: its open lines, or its regions if there are none
  bool operator==(const CutterPick&) const = default;

  static CutterPick of(PlanePick plane) { return {Kind::Plane, std::move(plane)}; }
  static CutterPick of(FaceReference face) { return {Kind::Face, {}, std::move(face)}; }
  static CutterPick ofBody(BodyId body) { return {Kind::Body, {}, {}, std::move(body)}; }
  static CutterPick of(RegionPick drawing) { return {Kind::Drawing, {}, {}, {}, std::move(drawing)}; }

  /// Whether it lies in a plane that can be moved and turned, as far as a pick tells.
  bool hasPlane() const { return kind == Kind::Plane || kind == Kind::Face; }
};

extern template class FieldOf<std::vector<CutterPick>>;

class CuttersField : public FieldOf<std::vector<CutterPick>> {
 public:
  /// Whether curve bodies are among what can be taken.
  enum class Curves { Refused, Taken };
  CuttersField(FieldTable& table, FieldText text, Curves curves)
      : FieldOf(table, std::move(text), {CutterPick::of(PlanePick::standard("xy"))}), curves_(curves) {}

  bool takesCurves() const { return curves_ == Curves::Taken; }
  /// While a plane or face is among them, or nothing is.
  When havePlane() const;
  const char* typeName() const override { return "cutters"; }
  std::string allowed() const override;

 protected:
  nlohmann::json print(const std::vector<CutterPick>& value) const override;
  std::vector<CutterPick> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<CutterPick>& value) const override;
  void references(std::set<StepId>& steps, const std::vector<CutterPick>& value) const override;
  std::vector<NumberPart> parts(const std::vector<CutterPick>& value) const override;
  void changeParts(std::vector<CutterPick>& value,
                   const std::function<Expression(const Expression&)>& change) const override;

 private:
  Curves curves_;
};

}  // namespace kervo
