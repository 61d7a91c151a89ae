// All kinds of step there are.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKinds& allStepKinds();

}  // namespace kervo
