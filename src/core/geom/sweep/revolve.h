// Profiles revolved about an axis in their plane.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/sweep/profile.h"

namespace kervo {

/// The region turned about an axis from one angle to another, in radians, counter-clockwise seen against the axis'
/// direction: a solid with faces `name`:side:curve and, unless it goes all round (0 to 2π), `name`:start and
/// `name`:end. Throws Error if the axis does not lie in the region's plane, or crosses the region.
Shape revolved(const Region& region, const std::string& name, const Axis& axis, double from, double to,
               Progress& progress);

/// Throws Error unless the axis lies in the plane and the lines lie on one side of it. They may touch it.
void requireBesideAxis(const Plane& plane, const std::vector<std::vector<Point>>& lines, const Axis& axis);

}  // namespace kervo
