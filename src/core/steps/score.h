// The step kind Score: marks faces without cutting volume, shares faces between touching bodies, finds curves.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& scoreStep();

}  // namespace kervo
