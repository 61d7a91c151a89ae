// The step kind Block: a box from three sizes.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& blockStep();

}  // namespace kervo
