// The step kind Combine: stock and cutters subtracted, united or intersected.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& combineStep();

}  // namespace kervo
