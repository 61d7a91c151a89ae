// The step kind Place: bodies moved, turned, aligned, moved until they meet a face, or scaled; also as copies.
#pragma once

#include "model/step.h"

namespace kervo {

const StepKind& placeStep();

}  // namespace kervo
