// What a press and a release of the mouse draw: points that are shared with what is there, curves, and constraints that
// the hand meant.
#pragma once

#include <string>
#include <vector>

#include "drawing/drawing.h"
#include "drawing/solve.h"

namespace kervo {

/// From where to where something was drawn.
struct Stroke {
  PlanePoint from, to;
  double reach = 0;   ///< ends this near to a point of the drawing are that point, mm
  bool infer = true;  ///< nearly level and upright lines become so
};

/// What a stroke draws.
struct StrokeKind {
  const char* name;   ///< of its icon, too
  const char* label;  ///< for people, to be shown through say()
  bool about;         ///< it goes outwards from its middle: its size is to be a round one, not the place of its end
};

/// Line, circle, rectangle by its corners or about its middle, hexagon, slot, ellipse.
const std::vector<StrokeKind>& strokeKinds();

/// The drawing with what the stroke draws, points as `solution` has them. Unchanged for a stroke without length.
Drawing withStroke(Drawing drawing, const Solution& solution, const std::string& kind, const Stroke& stroke);

/// The sizes shown beside the pointer while it is drawn, mm.
std::vector<double> sizesOf(const std::string& kind, const Stroke& stroke);

}  // namespace kervo
