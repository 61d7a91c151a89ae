// The outlines of a text as curves, in the font that comes with the program.
#pragma once

#include <string>
#include <vector>

#include "drawing/plane_curve.h"

namespace kervo {

/// The letters of a line of text (UTF-8), kerned, as lines and splines that are exactly the font's. It begins at the
/// origin of `motion` and runs along its x; capital letters are `height` high, in mm. Curves are called
/// ID:LETTER.CURVE, letters numbered from 1. Throws Error for a text without anything to be seen, and for letters that
/// the font does not have.
std::vector<PlanarCurve> textOutline(const std::string& id, const std::string& text, double height,
                                     const PlaneMotion& motion);

}  // namespace kervo
