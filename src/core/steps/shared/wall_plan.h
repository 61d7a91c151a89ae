// The plan of walls along drawn lines.
#pragma once

#include <vector>

#include "base/progress.h"
#include "drawing/drawing_result.h"

namespace kervo {

/// What walls along all curves of a drawing cover in its plane: `left` mm to the left of them and `right` to the right.
/// Where two meet, their sides run on until they meet; where one ends at another, or more than two meet, they are one.
/// Curves that follow each other are followed in the direction of the first of them. Its borders are called curve:left,
/// curve:right, curve:start, curve:end, and curve:corner where a sharp one is cut off. Throws Error if there are none,
/// or one is bent too tightly; Stopped on request.
std::vector<Region> wallPlan(const DrawingResult& drawing, double left, double right, Progress& progress);

}  // namespace kervo
