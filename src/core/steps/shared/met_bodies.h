// What outlines of a drawing meet when they are swept through everything: parts of bodies, one behind another, and
// which of them are slabs.
#pragma once

#include <string>
#include <vector>

#include "geom/sweep/sweep.h"
#include "model/step_inputs.h"

namespace kervo {

/// What one outline has in common with one body, in one piece.
struct MetPart {
  BodyId body;
  Shape part;
  double low = 0, high = 0;  ///< above the drawing's plane, along its normal, mm
  /// The body goes on beyond the outline, and is a plate there: between two faces along the drawing's plane, thinner
  /// than it is wide.
  bool slab = false;
};

/// All that a region meets, from the lowest to the highest. `through`: it, swept through everything.
std::vector<MetPart> metBy(const SweptRegion& through, StepInputs& inputs, const std::vector<BodyId>& stock,
                           Progress& progress);

/// The region swept through these parts of one body, and through nothing else of it. `met`: by metBy(); `chosen`: for
/// each of them, whether it is to go; those of other bodies are passed over.
std::vector<SweptRegion> cuttersFor(const SweptRegion& through, const BodyId& body, const std::vector<MetPart>& met,
                                    const std::vector<bool>& chosen);

}  // namespace kervo
