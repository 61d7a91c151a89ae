// Curves through points, and curves with fewer or more control points.
#pragma once

#include <vector>

#include "geom/shape.h"
#include "geom/topology.h"

namespace kervo {

enum class Through {
  Spline,  ///< smooth through all of them
  Lines,   ///< straight from one to the next
  Arc      ///< a circle's: through three
};

/// A curve body through points in their order; back to the first one if `closed`. Throws Error for too few points, for
/// neighbours in one place, and for three points on a line where an arc is wanted.
Shape curveThrough(const std::vector<Point>& points, Through kind, bool closed);

/// A spline on the surface of a face, through the places of it that are nearest to the points; it follows the surface
/// to 1e-6 mm. Round a cylinder it goes the shorter way from each point to the next.
Shape curveOnFace(const std::vector<Point>& points, const Face& face, bool closed);

/// Each curve of a body as one spline of that degree with so many control points, its ends kept, as near to the curve
/// as least squares bring it.
struct Refitted {
  Shape curve;
  double off = 0;  ///< mm, between the two at most
  Point offAt;     ///< where
};
/// Throws Error for a degree below 1 or above 9, and for fewer control points than the degree needs.
Refitted refitted(const Shape& curve, int degree, int controlPoints);

}  // namespace kervo
