// Curves wrapped round a face with their lengths kept.
#pragma once

#include <vector>

#include "geom/space_curve.h"
#include "geom/topology.h"

namespace kervo {

/// Curves of a plane laid round a cylinder or cone with their lengths kept. The plane's origin comes to the nearest
/// place of the face's surface, the plane's x axis to the tangent that is nearest to it. They are not cut off where the
/// face ends. Throws Error for another face, for a plane across the face's axis, and for curves that would overlap
/// themselves.
Shape wrapped(const std::vector<SpaceCurve>& curves, const Plane& plane, const Face& face);

}  // namespace kervo
