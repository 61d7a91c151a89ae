// Surfaces that a step changes, and places that it marks in the view.
#pragma once

#include "fields/bodies_field.h"
#include "model/step_inputs.h"
#include "model/step_result.h"

namespace kervo {

/// The surfaces picked; shielded ones are noted and left out. Throws an Error at the field for a body of another kind.
std::vector<BodyId> surfacesOf(StepInputs& inputs, const BodiesField& field, Audit& audit);

/// The whole bodies among what is selected that are surfaces.
std::vector<BodyId> selectedSurfaces(const Selected& selected);

/// A surface, or what became of it, in place of what it was.
void replaceSurface(StepResult& result, const BodyId& body, const Shape& before, const Shape& after);
/// A body that a step makes, called as the step is.
void addNew(StepResult& result, const StepId& step, const Shape& shape);

/// A small cross at a place. `size`: of the body there, mm.
void markPlace(Finding& finding, Point place, double size);

}  // namespace kervo
