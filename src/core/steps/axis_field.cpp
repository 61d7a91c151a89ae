#include "steps/axis_field.h"

namespace kervo {

std::vector<FieldSpec> axisFields(const std::string& whenField, const std::vector<std::string>& whenValues) {
  return {{.key = "axis",
           .label = "Axis",
           .type = FieldType::Choice,
           .well = Well::Reach,
           .defaultText = "x",
           .choices = {"x", "y", "z", "face", "edge"},
           .help = "face: the axis of a round face, or the normal of a planar one; edge: along a straight edge, or the "
                   "axis of a round one",
           .whenField = whenField,
           .whenValues = whenValues},
          {.key = "axis_face",
           .label = "Axis of",
           .type = FieldType::Face,
           .well = Well::Reach,
           .whenField = "axis",
           .whenValues = {"face"}},
          {.key = "axis_edge",
           .label = "Axis along",
           .type = FieldType::Edges,
           .well = Well::Reach,
           .whenField = "axis",
           .whenValues = {"edge"}}};
}

Axis axisOf(StepInputs& inputs) {
  const std::string& axis = inputs.choice("axis");
  if (axis == "x") return {{}, {1, 0, 0}};
  if (axis == "y") return {{}, {0, 1, 0}};
  if (axis == "z") return {{}, {0, 0, 1}};
  if (axis == "face") {
    const Face face = inputs.face("axis_face");
    if (const auto found = face.axis()) return *found;
    if (face.plane()) return {face.samplePoint(), face.normal()};
    throw Error("a " + face.surfaceName() + " face has no axis", "field Axis of", "Pick a planar or a round face");
  }
  const auto& edges = inputs.value<std::vector<EdgeReference>>("axis_edge");
  if (edges.empty()) throw Error("no edge is chosen", "field Axis along", "Pick a straight or round edge");
  const auto found = inputs.edges(edges.front()).edges.front().second.axis();
  if (!found) throw Error("the edge is neither straight nor round", "field Axis along", "Pick another edge");
  return *found;
}

}  // namespace kervo
