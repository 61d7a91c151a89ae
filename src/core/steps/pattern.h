// The step kind Pattern: copies of bodies in a line or grid, round an axis, along a drawn line, or mirrored.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& patternStep();

}  // namespace kervo
