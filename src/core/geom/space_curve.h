// Curves in space as values: what drawn curves come to, and what is swept.
#pragma once

#include <string>
#include <variant>
#include <vector>

#include "geom/space.h"
#include "geom/spline.h"

namespace kervo {

/// A line through points in space, mm.
using Polyline = std::vector<Point>;

struct Segment {
  Point from, to;
};
/// Counter-clockwise about the normal of `axes`, whose origin is the centre; angles in radians from its x axis. A whole
/// turn is a circle.
struct CircularArc {
  Plane axes;
  double radius = 0;
  double fromAngle = 0, toAngle = 0;
};

/// As a CircularArc, centre + `large`·cos·x + `small`·sin·y; large ≥ small.
struct EllipticalArc {
  Plane axes;
  double large = 0, small = 0;
  double fromAngle = 0, toAngle = 0;
};
/// A spline on a plane.
struct SplineArc {
  Plane plane;
  Spline spline;
};

/// A curve parametrized by t from 0 to 1.
class SpaceCurve {
 public:
  using Form = std::variant<Segment, CircularArc, EllipticalArc, SplineArc>;
  SpaceCurve(Segment segment) : form_(segment) {}
  SpaceCurve(CircularArc arc) : form_(arc) {}
  SpaceCurve(EllipticalArc arc) : form_(arc) {}
  SpaceCurve(SplineArc arc) : form_(std::move(arc)) {}

  const Form& form() const { return form_; }
  bool closed() const;
  Point at(double t) const;
  /// Of unit length, in the direction of growing t.
  Vector tangentAt(double t) const;
  double length() const;  ///< mm
  SpaceCurve moved(Vector by) const;
  /// To be shown, curved ones in steps of 5° at most.
  Polyline outline() const;

 private:
  Form form_;
};

struct NamedCurve {
  std::string name;
  SpaceCurve curve;
};

}  // namespace kervo
