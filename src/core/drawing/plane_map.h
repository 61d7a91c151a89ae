// Affine maps of the plane: what files of other programs place their curves by.
#pragma once

#include <memory>

#include "drawing/plane_curve.h"

namespace kervo {

/// p ↦ x·p.u + y·p.v + by, with any x and y: it may scale, mirror, stretch and shear.
struct PlaneMap {
  PlanePoint x{1, 0}, y{0, 1}, by;

  static PlaneMap shift(PlanePoint way) { return {{1, 0}, {0, 1}, way}; }
  static PlaneMap scale(double u, double v) { return {{u, 0}, {0, v}, {}}; }
  /// Counter-clockwise about (0, 0), in radians.
  static PlaneMap turn(double angle);

  PlanePoint turned(PlanePoint way) const { return x * way.u + y * way.v; }
  PlanePoint operator()(PlanePoint point) const { return turned(point) + by; }
  /// This one after `first`.
  PlaneMap after(const PlaneMap& first) const { return {turned(first.x), turned(first.y), (*this)(first.by)}; }
};

/// The curve as it is after the map. Circles become ellipses where it stretches. Null where nothing is left of it: it
/// is mapped to a line or a point.
std::shared_ptr<const PlaneCurve> mapped(const PlaneCurve& curve, const PlaneMap& map);

/// centre + a·cos(t) + b·sin(t) for t in radians from one value to the other, which may be less; a and b are any two
/// directions. A circle, an arc, or (part of) an ellipse; closed if t goes round once or more. Null if it is flat.
std::shared_ptr<const PlaneCurve> roundCurve(PlanePoint centre, PlanePoint a, PlanePoint b, double from, double to);

/// A line, or null if it has no length.
std::shared_ptr<const PlaneCurve> lineCurve(PlanePoint from, PlanePoint to);

}  // namespace kervo
