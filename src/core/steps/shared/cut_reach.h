// From where to where a cut reaches: the profiles of a Cut step, swept between its start and its end.
#pragma once

#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/face_field.h"
#include "fields/regions_field.h"
#include "geom/sweep/sweep.h"
#include "model/step_inputs.h"

namespace kervo {

/// The fields that say it.
struct CutReach {
  explicit CutReach(FieldTable& table);

  enum class Way { Into, Out, Both, TwoDepths };
  enum class From { Profile, Offset, Face };
  enum class To { Distance, Through, NextWall, Face, Body };
  const RegionsField profiles;
  const ChoiceField<Way> way;
  const ChoiceField<From> from;
  const LengthField fromOffset;
  const FaceField fromFace;
  const ChoiceField<To> to;
  const LengthField depth;
  const FaceField toFace;
  const BodiesField toBody;
  const LengthField outDepth;
  const AngleField draft;

  /// The profiles swept as the fields say. `stock`: what "next wall" looks at; `around`: what "through" is beyond.
  /// Throws Error if start and end do not go together, or nothing is met.
  std::vector<SweptRegion> swept(StepInputs& inputs, const std::vector<BodyId>& stock, const Box& around,
                                 Progress& progress) const;
};

}  // namespace kervo
