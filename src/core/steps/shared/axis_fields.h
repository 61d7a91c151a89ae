// The fields for an axis: one of the world's, a round face's, or an edge's.
#pragma once

#include "fields/choice_field.h"
#include "fields/edges_field.h"
#include "fields/face_field.h"

namespace kervo {

/// They stand in the well Reach, and matter while `when` holds.
struct AxisFields {
  AxisFields(FieldTable& table, const When& when);

  /// The axis that they say. Throws Error if the face or edge has none.
  Axis of(Inputs& inputs) const;

  enum class From { X, Y, Z, Face, Edge };
  const ChoiceField<From> axis;
  const FaceField face;
  const EdgesField edge;
};

}  // namespace kervo
