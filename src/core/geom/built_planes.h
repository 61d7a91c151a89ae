// Planes built from what is there: between two planes, through points, across an axis.
#pragma once

#include "geom/space.h"
#include "geom/topology.h"

namespace kervo {

/// Which of the two planes that halve the angle of two others is meant.
enum class Between {
  Faces,  ///< the one within a body that the two bound, looking outwards
  Planes  ///< the one between two planes that look nearly the same way
};

/// Half-way between two parallel planes (with the first one's normal), or the plane that halves the angle between two
/// others. Throws Error if both are the same.
Plane midwayPlane(const Plane& a, const Plane& b, Between between);

/// The plane through three points; whichever comes first, its normal looks up, or else along y or x. Throws Error if
/// they lie on one line.
Plane planeThrough(Point a, Point b, Point c);

/// Across a straight edge at its middle, or the plane of a round one. Throws Error for another edge.
Plane planeAcross(const Edge& edge);
/// Touches a face where it is nearest to a point, its normal outwards. Throws Error where the face has no normal, as at
/// the tip of a cone, or if that place of its surface is not on the face.
Plane tangentPlane(const Face& face, Point near);
/// Across the axis of a round face, at its middle. Throws Error if it has none.
Plane planeAcross(const Face& face);

}  // namespace kervo
