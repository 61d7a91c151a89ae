// Stock that cutters within a box are taken out of, body by body.
#pragma once

#include <functional>

#include "steps/shared/divided_bodies.h"

namespace kervo {

/// Divides each body of the stock that the box `reach` overlaps; others, and curves, are spared. True if one was met.
bool cutStock(StepResult& result, StepInputs& inputs, const Stock& stock, const Box& reach,
              const std::function<Division(const Shape&)>& divided, Progress& progress);

}  // namespace kervo
