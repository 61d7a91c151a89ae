// The step kinds that make one solid from sizes, at a place on a plane.
#pragma once

#include "steps/simple_step.h"

namespace kervo {

/// The fields `plane` and `at` that every placed solid has, after those given.
std::vector<FieldSpec> withPlacement(std::vector<FieldSpec> sizes);
/// A positive length.
FieldSpec sizeField(std::string key, std::string label, std::string defaultText);
/// The plane picked, moved to the point `at` in its own coordinates.
Plane placementOf(StepInputs& inputs);
/// One new body named by the step.
StepResult newBody(const StepInputs& inputs, Shape shape);

}  // namespace kervo
