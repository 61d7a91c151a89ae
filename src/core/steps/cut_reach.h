// From where to where a cut reaches: the profiles of a Cut step, swept between its start and its end.
#pragma once

#include <vector>

#include "geom/sweep.h"
#include "model/step_inputs.h"

namespace kervo {

/// The step's profiles swept as its fields say. `stock`: what "next wall" looks at; `around`: what "through" is beyond.
/// Throws Error if start and end do not go together, or nothing is met.
std::vector<SweptRegion> sweptProfiles(StepInputs& inputs, const std::vector<BodyId>& stock, const Box& around,
                                       Progress& progress);

}  // namespace kervo
