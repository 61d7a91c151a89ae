// The step kind Torus: a ring from two radii.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& torusStep();

}  // namespace kervo
