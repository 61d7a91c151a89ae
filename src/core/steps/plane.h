// The step kind Plane: a plane at a distance from another plane or a planar face.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& planeStep();

}  // namespace kervo
