// The step kind Round: edges rounded with a constant radius.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& roundStep();

}  // namespace kervo
