// Lift: faces of bodies as a surface of their own.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& liftStep();

}  // namespace kervo
