// Verbs on curve bodies: split where something crosses them, join, lengthen, and move their control points.
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space_curve.h"
#include "geom/topology.h"

namespace kervo {

/// Curves and edges of bodies as a curve body.
Shape curveBody(const std::vector<SpaceCurve>& curves, const std::vector<Edge>& edges);

/// What cuts curves: a plane, or a body of any kind.
struct CurveCutter {
  std::optional<Plane> plane = {};
  Shape body = {};
};

/// The stretches into which the cutters divide a curve body, in order along its curves. A closed curve that is crossed
/// once opens there. One stretch a curve that nothing crosses. Throws Stopped on request.
std::vector<Shape> splitCurve(const Shape& curve, const std::vector<CurveCutter>& cutters, Progress& progress);

/// The middle of a curve body's first curve, by its length.
Point middleOfCurve(const Shape& curve);
/// Where a point is: above zero in front of a plane and outside of a solid, below zero behind it and inside; 0 on it,
/// or of a surface or curve, which has no sides.
int sideOf(Point point, const CurveCutter& cutter);
/// The length of all curves of a curve body, mm; 0 for other bodies.
double lengthOfCurve(const Shape& curve);
/// How many separate curves it has, and how many of them are closed.
int chainCount(const Shape& curve);
int closedChainCount(const Shape& curve);

/// The longest curve of a curve body.
Shape longestCurve(const Shape& curve);

/// Several curve bodies as one, ends that are no further apart than `gap` (mm) joined, the nearest first. What is
/// between two ends becomes a straight edge. Throws Error if no ends are that close.
struct JoinedCurves {
  Shape curve;
  int joints = 0;
  int bridges = 0;  ///< of those, with a straight edge between
};
JoinedCurves joinedCurves(const std::vector<Shape>& curves, double gap);

/// Where its first open curve starts or ends, and in which direction it would go on; nothing if all are closed.
std::optional<Axis> endOfCurve(const Shape& curve, bool atEnd);

enum class GoesOn {
  Straight,  ///< along the tangent
  AsItRuns   ///< lines, circles and ellipses along themselves, splines as their last span
};

/// The open curves of a body longer at their starts or ends by a length in mm. Throws Error if none is open, and for a
/// circle or ellipse that would go round more than once.
Shape lengthenedCurve(const Shape& curve, bool atEnd, GoesOn way, double by);
/// … until the first of the cutters is met. Throws Error if none is.
Shape lengthenedCurve(const Shape& curve, bool atEnd, GoesOn way, const std::vector<CurveCutter>& until);

/// The control points of each of its curves, in order; those that two edges share come once. All are numbered through.
std::vector<std::vector<Point>> controlPointsOf(const Shape& curve);
/// With one of them elsewhere. Edges whose points do not move stay what they are; the others become splines.
/// `index` from 0.
Shape withControlPoint(const Shape& curve, std::size_t index, Point to);
/// With one more after it, which changes nothing of the curve. Throws Error for the last one of an open curve.
Shape withControlPointAfter(const Shape& curve, std::size_t index);
/// Without one of them. Throws Error where two edges meet in it that are not both straight, and if nothing would be
/// left.
Shape withoutControlPoint(const Shape& curve, std::size_t index);

}  // namespace kervo
