// The step kind Bring in: bodies from a file, stored in the document.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& bringInStep();

}  // namespace kervo
