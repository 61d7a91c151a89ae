// Curves in space as values: what drawn curves come to, and what is swept.
#pragma once

#include <string>
#include <variant>
#include <vector>

#include "geom/space.h"

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

/// A curve parametrized by t from 0 to 1.
class SpaceCurve {
 public:
  using Form = std::variant<Segment, CircularArc>;
  SpaceCurve(Segment segment) : form_(segment) {}
  SpaceCurve(CircularArc arc) : form_(arc) {}

  const Form& form() const { return form_; }
  bool closed() const;
  Point at(double t) const;
  /// Of unit length, in the direction of growing t.
  Vector tangentAt(double t) const;
  double length() const;  ///< mm
  SpaceCurve moved(Vector by) const;
  /// To be shown, arcs in steps of 5° at most.
  Polyline outline() const;

 private:
  Form form_;
};

struct NamedCurve {
  std::string name;
  SpaceCurve curve;
};

}  // namespace kervo
