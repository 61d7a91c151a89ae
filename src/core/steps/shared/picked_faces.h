// Faces picked of one or several bodies, by body.
#pragma once

#include <vector>

#include "fields/faces_field.h"
#include "model/step_inputs.h"
#include "model/step_result.h"

namespace kervo {

struct PickedFaces {
  BodyId body;
  Shape shape;
  std::vector<int> numbers;  ///< in facesOf(shape), in the order in which they were picked
  std::vector<Face> faces;
};

/// The faces of a field, each once; those of shielded bodies left out, with a warning. Throws Error if none is picked,
/// one is lost, or all bodies are shielded.
std::vector<PickedFaces> pickedFaces(StepInputs& inputs, const FacesField& field, StepResult& result);

}  // namespace kervo
