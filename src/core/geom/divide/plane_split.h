// Dividing a body by a plane, with or without a kerf.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/divide/boolean.h"

namespace kervo {

/// The width that a cut removes: what lies between two distances above the plane, in mm.
struct Kerf {
  double from = 0;
  double to = 0;
  double width() const { return to - from; }
  static Kerf centred(double width) { return {-width / 2, width / 2}; }
  static Kerf inFront(double width) { return {0, width}; }
  static Kerf behind(double width) { return {-width, 0}; }
};

/// A body divided by a plane.
struct PlaneSplit {
  std::vector<Shape> front;  ///< on the side that the plane's normal points to
  std::vector<Shape> back;
  Shape waste;  ///< what the kerf removed; empty without one
  Division cut;

  /// The whole body lies on one side, clear of plane and kerf.
  bool missed() const { return waste.empty() && (front.empty() || back.empty()); }
};

/// The new faces are named `name`:cut. Throws as divide() does.
PlaneSplit splitByPlane(const std::string& name, const Shape& stock, const Plane& plane, const Kerf& kerf,
                        Progress& progress);

/// Of a part that lies on one side of the plane: the signed distance in mm of its corner that is farthest from it, or
/// of a point of a face if all its corners lie in the plane.
double farthestFrom(const Plane& plane, const Shape& part);

}  // namespace kervo
