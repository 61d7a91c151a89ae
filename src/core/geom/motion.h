// Motions of bodies: moving, turning, mirroring, scaling, and shapes under them.
#pragma once

#include <array>
#include <string>

#include "geom/shape.h"

namespace kervo {

/// A similarity: p ↦ M·p + t, with M a rotation or reflection times a factor.
class Motion {
 public:
  /// Leaves everything where it is.
  Motion() = default;
  static Motion by(Vector way);
  /// Counter-clockwise seen against the axis; the axis need not have unit length.
  static Motion turn(Point on, Vector axis, double angleRadians);
  /// To the other side of a plane.
  static Motion mirror(const Plane& plane);
  /// Away from (factor > 1) or towards a point. The factor must be positive.
  static Motion scale(Point from, double factor);
  /// Takes one plane, with its axes, onto the other.
  static Motion onto(const Plane& from, const Plane& to);

  /// First this one, then the other.
  Motion then(const Motion& next) const;
  Point operator()(Point p) const;
  /// A direction: turned, but not moved.
  Vector turned(Vector v) const;
  /// det M^(1/3), negative for reflections.
  double factor() const;
  bool identity() const;
  /// M by rows.
  const std::array<Vector, 3>& rows() const { return rows_; }
  Vector moving() const { return moving_; }

 private:
  std::array<Vector, 3> rows_{Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}};
  Vector moving_;
};

/// The shape under a motion. Faces keep their names; with a prefix they are called `prefix`:name. Throws Error if sizes
/// leave what tolerances allow.
Shape moved(const Shape& shape, const Motion& motion, const std::string& prefix = {});

}  // namespace kervo
