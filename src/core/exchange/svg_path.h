// The paths of SVG (SVG 2, chapter 9): text with letters and numbers, as curves.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "drawing/plane_curve.h"

namespace kervo {

using PlaneCurves = std::vector<std::shared_ptr<const PlaneCurve>>;

/// All commands: lines, arcs of ellipses, quadratic and cubic curves. In the path's own coordinates, v downwards as
/// there. Curves that are straight come as lines. Throws Error that quotes where it cannot be read.
PlaneCurves svgPath(const std::string& text);

/// The numbers of a list such as "0,0 10-5". Throws Error for what is none.
std::vector<double> svgNumbers(const std::string& text);

}  // namespace kervo
