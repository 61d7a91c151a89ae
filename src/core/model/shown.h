// How a model is seen: names, colours, layers and visibility of its bodies.
#pragma once

#include "model/document.h"
#include "model/model.h"

namespace kervo {

/// The model with its steps and bodies called and shown as the steps that made them say, and as a person set it on top.
/// What it was shown as before is forgotten.
Model shown(Model model, const SeenHalf& seen);

}  // namespace kervo
