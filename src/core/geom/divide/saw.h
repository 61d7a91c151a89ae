// The parts of a solid that a plane or a slab cuts through where all that they meet are planes, and cylinders along or
// straight across them, as in plates, blocks and profiles. There the new edges are lines and arcs through points that
// are known exactly, and the new outlines follow from the old ones: that takes a tenth of the time of the kernel's
// intersection. What comes out is checked like any other division.
#pragma once

#include <optional>
#include <vector>

#include "geom/divide/divided_parts.h"

namespace kervo {

/// Nothing if the cutter is not a block that reaches across the solid, if the solid has other faces there, or if a
/// corner, a tangent or a face lies in the plane or very near to it: all that is left to the kernel. Throws Unsound if
/// the parts cannot be put together.
std::optional<DividedParts> sawn(const Shape& stock, const std::vector<Shape>& cutters, Progress& progress);

}  // namespace kervo
