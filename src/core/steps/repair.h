// The step kind Repair: damaged bodies made sound again, linked to where they come from.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& repairStep();

}  // namespace kervo
