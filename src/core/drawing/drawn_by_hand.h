// What clicks and drags of the mouse draw: points that are shared with what is there, curves, and constraints that the
// hand meant.
#pragma once

#include <string>
#include <vector>

#include "base/expression.h"
#include "base/quantity.h"
#include "drawing/drawing.h"
#include "drawing/snap.h"
#include "drawing/solve.h"

namespace kervo {

/// The places at which something was drawn, in their order.
struct Stroke {
  std::vector<Snap> at;
  double reach = 0;   ///< what is smaller draws nothing, mm; places this near to a point of the drawing are that point
  bool infer = true;  ///< what places were taken for becomes constraints; nearly level and upright lines become so
  /// Sizes that were typed while drawing, as the kind lists them; an empty one was not.
  std::vector<Expression> sizes = {};
  int sides = 6;  ///< of a polygon

  static Stroke between(PlanePoint from, PlanePoint to, double reach, bool infer = true) {
    return {{{from}, {to}}, reach, infer};
  }
  PlanePoint from() const { return at.front().at; }
  PlanePoint to() const { return at.back().at; }
};

/// What a stroke draws.
struct StrokeKind {
  const char* name;    ///< of its icon, too
  const char* label;   ///< for people, to be shown through say()
  const char* brief;   ///< … beside others
  bool about = false;  ///< it goes outwards from its middle: its size is to be a round one, not the place of its end
  std::size_t places = 2;  ///< how many it takes, at least
  bool more = false;       ///< it takes more, until it is ended
  bool chain = false;      ///< the next one begins where it ends
  struct Size {
    const char* label;  ///< for people, to be shown through say()
    Dimensionality dimension = lengthDimension;
  };
  std::vector<Size> sizes = {};   ///< that can be typed while it is drawn
  bool variant = false;           ///< another way to draw the one before it
  const char* shownAs = nullptr;  ///< another kind, while it is drawn
};

/// Line, chain of lines, arc, circles about a middle and through three points, rectangles by corners, about a middle
/// and by three points, polygon, slot, ellipse, splines, text along a line.
const std::vector<StrokeKind>& strokeKinds();
/// The kind of that name, or null.
const StrokeKind* findStrokeKind(const std::string& name);

/// The drawing with what the stroke draws, points as `solution` has them. Unchanged for a stroke without length, or
/// with too few places.
Drawing withStroke(Drawing drawing, const Solution& solution, const std::string& kind, const Stroke& stroke);

/// The sizes as they are drawn, of each that the kind lists, mm or rad.
std::vector<double> sizesOf(const std::string& kind, const Stroke& stroke);

/// The place at which a stroke that began at `from` has the sizes that were typed: numbers in mm or rad, nothing where
/// it follows the pointer at `to`.
PlanePoint placeWithSizes(const std::string& kind, PlanePoint from, PlanePoint to,
                          const std::vector<std::optional<double>>& sizes);

}  // namespace kervo
