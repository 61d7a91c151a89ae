// A plane to cut, draw or place on.
#pragma once

#include "fields/field.h"
#include "fields/reference.h"

namespace kervo {

/// A plane: a standard one, the result of a step, a planar face, or one built on the spot.
struct PlanePick {
  enum class Kind {
    Standard,
    OfStep,
    OnFace,
    Midway,   ///< between two planar faces
    Points,   ///< through three corners
    Across,   ///< an edge, or the axis of a round face
    Tangent,  ///< to a face, where it is nearest to a point
    AtHeight  ///< level, at a height above the ground plane
  };
  Kind kind = Kind::Standard;
  std::string name = "xy";                  ///< Standard: xy, xz or yz; OfStep: the step's id
  FaceReference face;                       ///< OnFace, Tangent, Midway: the first one, Across: unless it is an edge
  FaceReference other = {};                 ///< Midway: the second one
  std::vector<PointReference> points = {};  ///< Points: three
  std::vector<EdgeReference> edge = {};     ///< Across: one, or none for a face
  Point near = {};                          ///< Tangent
  std::vector<Expression> height = {};      ///< AtHeight: one, a length
  bool operator==(const PlanePick&) const = default;

  static PlanePick standard(std::string name) { return {Kind::Standard, std::move(name), {}}; }
  static PlanePick ofStep(const StepId& step) { return {Kind::OfStep, step, {}}; }
  static PlanePick onFace(FaceReference face) { return {Kind::OnFace, "", std::move(face)}; }
  static PlanePick midway(FaceReference a, FaceReference b) {
    return {Kind::Midway, "", std::move(a), std::move(b), {}, {}};
  }
  static PlanePick through(std::vector<PointReference> points) {
    return {Kind::Points, "", {}, {}, std::move(points), {}};
  }
  static PlanePick tangent(FaceReference face, Point near) {
    return {Kind::Tangent, "", std::move(face), {}, {}, {}, near};
  }
  static PlanePick atHeight(Expression height) {
    PlanePick pick{Kind::AtHeight, "", {}};
    pick.height.push_back(std::move(height));
    return pick;
  }
  static PlanePick across(EdgeReference edge) { return {Kind::Across, "", {}, {}, {}, {std::move(edge)}}; }
  static PlanePick across(FaceReference face) { return {Kind::Across, "", std::move(face), {}, {}, {}}; }
};

nlohmann::json toJson(const PlanePick& pick);
/// Throws FileError naming `place`.
PlanePick planeFrom(const nlohmann::json& json, const std::string& place);
void addTo(Hasher& hasher, const PlanePick& pick);
void addSteps(std::set<StepId>& steps, const PlanePick& pick);
/// The numbers of a pick, where it has any. `place`: of the pick in the value of its field.
std::vector<NumberPart> numbersOf(const PlanePick& pick, const std::string& place = {});
void changeNumbers(PlanePick& pick, const std::function<Expression(const Expression&)>& change);
/// The plane that the pick of a field means now; `number`: where its own numbers begin among those of the field. Throws
/// an Error at the field if it is lost or not planar.
Plane planeFor(Inputs& inputs, const PlanePick& pick, const Field& field, std::size_t number = 0);

extern template class FieldOf<PlanePick>;

class PlaneField : public FieldOf<PlanePick> {
 public:
  /// `standard`: xy, xz or yz.
  PlaneField(FieldTable& table, FieldText text, const char* standard = "xy")
      : FieldOf(table, std::move(text), PlanePick::standard(standard)) {}
  Plane of(Inputs& inputs) const { return planeFor(inputs, in(inputs), *this); }
  const char* typeName() const override { return "plane"; }

 protected:
  nlohmann::json print(const PlanePick& value) const override;
  PlanePick parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const PlanePick& value) const override { addTo(hasher, value); }
  void references(std::set<StepId>& steps, const PlanePick& value) const override { kervo::addSteps(steps, value); }
  std::vector<NumberPart> parts(const PlanePick& value) const override { return numbersOf(value); }
  void changeParts(PlanePick& value, const std::function<Expression(const Expression&)>& change) const override {
    changeNumbers(value, change);
  }
};

}  // namespace kervo
