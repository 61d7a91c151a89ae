// The step kind Drawing: curves on a plane or planar face, and the regions they enclose.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& drawingStep();

}  // namespace kervo
