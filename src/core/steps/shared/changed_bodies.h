// Bodies that a step changes as a whole, one by one.
#pragma once

#include "model/step_inputs.h"

namespace kervo {

/// A body in place of what it was.
void replaceBody(StepResult& result, const BodyId& body, const Shape& before, const Shape& after);

}  // namespace kervo
