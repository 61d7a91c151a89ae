// The step kind Sphere: a ball from its radius.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& sphereStep();

}  // namespace kervo
