// The step kind Cone: a cone or its frustum from two radii and a height.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& coneStep();

}  // namespace kervo
