// The step kind Cylinder: a cylinder from radius and height.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& cylinderStep();

}  // namespace kervo
