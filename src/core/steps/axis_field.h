// The fields for an axis: one of the world's, a round face's, or an edge's.
#pragma once

#include <vector>

#include "model/step_inputs.h"

namespace kervo {

/// Fields "axis", "axis_face" and "axis_edge", in the well Reach; the first matters while `whenField` has one of the
/// values.
std::vector<FieldSpec> axisFields(const std::string& whenField, const std::vector<std::string>& whenValues);

/// The axis that they say. Throws Error if the face or edge has none.
Axis axisOf(StepInputs& inputs);

}  // namespace kervo
