// The step kind Extrude: regions of a drawing to solids, open lines to surfaces; new, joined or common.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& extrudeStep();

}  // namespace kervo
