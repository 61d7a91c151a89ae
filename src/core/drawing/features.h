// Corners of a drawing rounded and chamfered, and curves mirrored: made of points, curves and constraints, so that they
// follow what they were made from.
#pragma once

#include <string>
#include <vector>

#include "drawing/trims.h"

namespace kervo {

/// The corner at a point in which two lines end, as an arc that touches both. The point stays where the lines would
/// meet; `drawing` is where it was solved. The last constraint is the radius. Throws Error if it is no such corner or
/// the radius, in mm, leaves nothing of a line.
Trimmed withRoundCorner(Drawing drawing, const std::string& point, const Expression& radius, double value);

/// … as a line, as far from the corner on both. The last two constraints are those distances.
Trimmed withChamferedCorner(Drawing drawing, const std::string& point, const Expression& distance, double value);

/// A size with which the corner can be rounded or chamfered, mm: a round number. Throws Error if it is no corner.
double sizeForCorner(const Drawing& drawing, const std::string& point);

/// With copies of the curves on the other side of a line, held symmetric to them. Points on the line are shared.
/// Throws Error for curves that are given by numbers, and for ellipses.
Drawing withMirrored(Drawing drawing, const std::vector<std::string>& curves, const std::string& line,
                     const DrawingValues& values, const Solution& solution);

}  // namespace kervo
