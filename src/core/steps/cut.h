// The step kind Cut: regions of a drawing swept through stock and taken away.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& cutStep();

}  // namespace kervo
