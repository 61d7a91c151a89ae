// Profiles swept along paths.
#pragma once

#include <string>

#include "base/progress.h"
#include "geom/sweep/path.h"
#include "geom/sweep/profile.h"

namespace kervo {

/// How a profile stands on its path.
enum class Standing {
  Perpendicular,  ///< keeps its angle to the path and does not turn about it
  Upright,        ///< turns about a fixed direction only
  Guided          ///< keeps facing a second curve
};

struct PathSweep {
  Shape path;  ///< a curve body of one curve
  Standing standing = Standing::Perpendicular;
  Vector up{0, 0, 1};  ///< Upright: the fixed direction
  Shape guide = {};    ///< Guided: a curve body of one curve, followed by the share of its length
  double twist = 0;    ///< radians about the path, counter-clockwise seen against it, from its start to its end
};

/// The region carried along a path, from that end of it which is nearer to the region, as rigidly as `order` says: it
/// begins where it was drawn. A solid with faces `name`:side:curve and, unless the path closes, `name`:start and
/// `name`:end. Straight and circular stretches give planes, cylinders, cones and tori; others follow to 1e-6 mm.
/// Corners between straight stretches are mitred. Throws Error where it would fold or cross itself, and at other
/// corners. Stopped on request.
Shape sweptAlong(const Region& region, const std::string& name, const PathSweep& order, Progress& progress);

/// An open line carried like that: a surface with faces `name`:side:curve.
Shape sweptAlong(const Path& line, const std::string& name, const PathSweep& order, Progress& progress);

/// By how much a profile turns about a closed path, in radians, so that it meets itself; 0 for most.
double closingTurn(const PathSweep& order, Point profile);

}  // namespace kervo
