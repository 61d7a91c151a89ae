// The parts of a large solid found by intersecting only those of its faces that a cutter comes near to: what a cut
// costs then depends on what it meets, not on how much else the body has. Even where all are near an eighth of the work
// is spared, since the kernel need not sort the stock's faces into solids. What comes out is checked like any other
// division.
#pragma once

#include <optional>
#include <vector>

#include "geom/divide/divided_parts.h"

namespace kervo {

/// Nothing for a solid that is as well intersected as a whole. Throws Unsound if the parts cannot be put together.
std::optional<DividedParts> dividedNear(const Shape& stock, const std::vector<Shape>& cutters, const Attempt& attempt,
                                        Progress& progress);

}  // namespace kervo
