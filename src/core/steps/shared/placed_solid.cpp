#include "steps/shared/placed_solid.h"

namespace kervo {

Plane Placement::of(Inputs& inputs) const {
  Plane placed = plane.of(inputs);
  const Point by = at.of(inputs);
  placed.origin = placed.at(by.x, by.y, by.z);
  return placed;
}

void PlacedSolid::startFrom(const Selected& selected, Start& start) const {
  const auto plane = selected.planeForNew();
  if (!plane) return;
  start.set(placement().plane, *plane);
  if (const Picked* face = selected.planarFace(); plane->kind == PlanePick::Kind::OnFace)
    start.set(placement().at, {selected.inUnit(face->middle.u), selected.inUnit(face->middle.v), selected.inUnit(0)});
}

std::optional<std::string> PlacedSolid::offered(const Selected& selected) const {
  const bool always = offered_ == Offered::Always;
  const bool fits = (selected.nothing() && (always || selected.emptyDocument)) || (selected.planarFace() && always);
  return fits ? std::optional(label()) : std::nullopt;
}

StepResult PlacedSolid::newBody(const Inputs& inputs, Shape shape) {
  StepResult result;
  result.audit.volumeAfter = shape.volume();
  result.audit.touched = {inputs.id()};
  result.pieces.push_back(Piece::whole(inputs.id(), inputs.id(), shape));
  result.made.push_back({.id = inputs.id(), .form = std::move(shape)});
  return result;
}

}  // namespace kervo
