// How high a profile is swept: a height, or until a plane, such as that of a level or a leaning roof.
#pragma once

#include "fields/choice_field.h"
#include "fields/number_field.h"
#include "fields/plane_field.h"
#include "geom/sweep/sweep.h"

namespace kervo {

struct HeightReach {
  enum class To { Height, Plane };

  /// `standard`: the height when none is given. `help`: of the height.
  HeightReach(FieldTable& table, Well well, const char* standard, const char* help = "");

  bool isHeight(const Inputs& inputs) const { return to.of(inputs) == To::Height; }
  /// Where the sweep ends, a height counted from where it starts.
  SweepLimit end(Inputs& inputs) const;
  /// The height of a sweep that starts `from` mm above the drawing's plane, along its normal or (along = −1) against
  /// it. Throws Error if it goes until a plane that is not parallel, or lies behind the start.
  double parallelHeight(Inputs& inputs, const Plane& drawn, double from, double along) const;

  const ChoiceField<To> to;
  const LengthField height;
  const PlaneField until;
};

}  // namespace kervo
