// The step kind Group: its solids joined, minus its hole-makers; shielded members pass through untouched.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& groupStep();

}  // namespace kervo
