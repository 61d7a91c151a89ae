// Bodies that a step changes as a whole, one by one.
#pragma once

#include <functional>

#include "fields/edges_field.h"
#include "model/step_inputs.h"

namespace kervo {

/// A body in place of what it was.
void replaceBody(StepResult& result, const BodyId& body, const Shape& before, const Shape& after);

/// Every body that has some of the edges, changed; shielded ones stay as they are.
StepResult withEdgesChanged(StepInputs& inputs, const EdgesField& edges,
                            const std::function<Shape(const Shape& before, const std::vector<Edge>& edges)>& change);

}  // namespace kervo
