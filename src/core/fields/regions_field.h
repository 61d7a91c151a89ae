// Regions of a drawing.
#pragma once

#include <map>

#include "base/say.h"
#include "drawing/drawing_result.h"
#include "fields/number_field.h"

namespace kervo {

/// Regions of a drawing, by name, or all of them.
struct RegionPick {
  StepId drawing;
  bool all = true;
  std::vector<std::string> regions = {};          ///< names, or patterns that mean all copies of a row or ring
  std::map<std::string, Expression> depths = {};  ///< of regions that go another depth than the step says
  bool operator==(const RegionPick&) const = default;
};

nlohmann::json toJson(const RegionPick& pick);
/// Throws FileError naming `place`.
RegionPick regionsFrom(const nlohmann::json& json, const std::string& place);
void addTo(Hasher& hasher, const RegionPick& pick);
void addSteps(std::set<StepId>& steps, const RegionPick& pick);
/// The drawing that a pick means. Throws an Error at the field if no step before this one made it.
DrawingResult drawingFor(Inputs& inputs, const RegionPick& pick, const Field& field);

extern template class FieldOf<RegionPick>;

class RegionsField : public FieldOf<RegionPick> {
 public:
  /// `depth`: from which a single region may differ, or null.
  RegionsField(FieldTable& table, FieldText text, const NumberField* depth = nullptr)
      : FieldOf(table, std::move(text)), depth_(depth) {}

  DrawingResult drawing(Inputs& inputs) const { return drawingFor(inputs, in(inputs), *this); }
  /// The regions picked, in their order, not joined. Throws an Error at the field if the drawing has none, or not one
  /// of that name.
  std::vector<Region> of(Inputs& inputs) const;
  /// Depths that were given to single regions, in mm.
  std::map<std::string, double> depths(const Inputs& inputs) const;
  const NumberField* depth() const { return depth_; }
  const char* typeName() const override { return "regions"; }
  std::string allowed() const override { return say("a drawing's step, or {\"drawing\": …, \"regions\": […]}"); }

 protected:
  nlohmann::json print(const RegionPick& value) const override;
  RegionPick parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const RegionPick& value) const override { addTo(hasher, value); }
  void references(std::set<StepId>& steps, const RegionPick& value) const override { kervo::addSteps(steps, value); }
  std::vector<NumberPart> parts(const RegionPick& value) const override;
  void changeParts(RegionPick& value, const std::function<Expression(const Expression&)>& change) const override;

 private:
  const NumberField* depth_;
};

}  // namespace kervo
