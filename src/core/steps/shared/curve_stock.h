// Curve bodies that a step changes.
#pragma once

#include "fields/bodies_field.h"
#include "model/step_inputs.h"

namespace kervo {

/// The curve bodies picked. Throws an Error at the field for one of another kind, and if none is picked.
std::vector<BodyId> curvesOf(StepInputs& inputs, const BodiesField& field);

/// The whole bodies among what is selected that are curves.
std::vector<BodyId> selectedCurves(const Selected& selected);

/// A curve in place of what it was.
void replaceCurve(StepResult& result, const BodyId& body, const Shape& curve);

}  // namespace kervo
