// The step kind Split: stock divided by a plane, with a kerf if wanted.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& splitStep();

}  // namespace kervo
