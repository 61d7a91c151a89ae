// What a press and a release of the mouse draw: points that are shared with what is there, curves, and constraints that
// the hand meant.
#pragma once

#include "drawing/drawing.h"
#include "drawing/solve.h"

namespace kervo {

/// From where to where something was drawn.
struct Stroke {
  PlanePoint from, to;
  double reach = 0;   ///< ends this near to a point of the drawing are that point, mm
  bool infer = true;  ///< nearly level and upright lines become so
};

/// What can be drawn by a stroke: "line", "circle", "rectangle".
bool isDrawnByStroke(const std::string& kind);

/// The drawing with what the stroke draws, points as `solution` has them. Unchanged for a stroke without length.
Drawing withStroke(Drawing drawing, const Solution& solution, const std::string& kind, const Stroke& stroke);

}  // namespace kervo
