// Bodies that a step changes as a whole, one by one.
#pragma once

#include <functional>

#include "fields/edges_field.h"
#include "geom/blended_edges.h"
#include "model/step_inputs.h"

namespace kervo {

/// A body in place of what it was.
void replaceBody(StepResult& result, const BodyId& body, const Shape& before, const Shape& after);

/// Every body that has some of the edges, with them blended; shielded ones stay as they are. Says so if there are more
/// edges than were picked, since those that continue one tangentially go along.
StepResult withEdgesBlended(
    StepInputs& inputs, const EdgesField& edges,
    const std::function<BlendedEdges(const Shape& before, const std::vector<Edge>& edges)>& blend);

}  // namespace kervo
