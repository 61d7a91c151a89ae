// The fields for an axis: one of the world's, a round face's, an edge's, or one that a step made.
#pragma once

#include "fields/axis_field.h"
#include "fields/choice_field.h"
#include "fields/edges_field.h"
#include "fields/face_field.h"

namespace kervo {

/// They stand in one well, and matter while `when` holds.
struct AxisFields {
  enum class From { X, Y, Z, Face, Edge, Datum };
  AxisFields(FieldTable& table, const When& when, Well well = Well::Reach, From standard = From::X);

  /// The axis that they say. Throws Error if there is none.
  Axis of(Inputs& inputs) const;

  const ChoiceField<From> axis;
  const FaceField face;
  const EdgesField edge;
  const AxisField datum;
};

}  // namespace kervo
