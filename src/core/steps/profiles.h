// The regions of a drawing that a step takes as profiles.
#pragma once

#include <vector>

#include "model/step_inputs.h"

namespace kervo {

/// The regions picked, in their order, not joined. Throws Error if the drawing has none, or not one of that name.
std::vector<Region> pickedRegions(const RegionPick& pick, const DrawingResult& drawing);

/// The same, those that share a border joined to one.
std::vector<Region> chosenRegions(const RegionPick& pick, const DrawingResult& drawing);

}  // namespace kervo
