#include "steps/placed_solid.h"

namespace kervo {

std::vector<FieldSpec> withPlacement(std::vector<FieldSpec> sizes) {
  sizes.push_back({.key = "plane", .label = "Plane", .type = FieldType::Plane, .defaultText = "xy"});
  sizes.push_back(
      {.key = "at", .label = "Place", .type = FieldType::Placement, .help = "On the plane: u, v, and height above it"});
  return sizes;
}

FieldSpec sizeField(std::string key, std::string label, std::string defaultText) {
  return {.key = std::move(key),
          .label = std::move(label),
          .type = FieldType::Length,
          .defaultText = std::move(defaultText),
          .rule = NumberRule::Positive};
}

Plane placementOf(StepInputs& inputs) {
  Plane plane = inputs.plane("plane");
  const Point at = inputs.point("at");
  plane.origin = plane.at(at.x, at.y, at.z);
  return plane;
}

StepResult newBody(const StepInputs& inputs, Shape shape) {
  StepResult result;
  result.audit.volumeAfter = shape.volume();
  result.audit.touched = {inputs.id()};
  result.pieces.push_back(
      {inputs.id(), inputs.id(), shape.volume(), shape.area(), shape.roughBox().centre(), true, shape});
  result.made.push_back({inputs.id(), std::move(shape), "", "", std::nullopt, ""});
  return result;
}

}  // namespace kervo
