// What holds a half of a mould to the body in it.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space.h"
#include "geom/space_curve.h"

namespace kervo {

struct Undercuts {
  double area = 0;              ///< mm² of the half that would meet the body when it is drawn off
  double steep = 0;             ///< mm² that lean less than is wanted
  std::vector<Polyline> lines;  ///< that hatch the undercuts
};

/// Of a half that is drawn off along the normal of `plane` (`up`) or against it. `block`: its outsides, in the plane's
/// coordinates, which count as nothing. `draft`: how far walls are to lean, radians. Flat faces are exact, others as
/// their triangles are, with the exact normals at their corners.
Undercuts undercutsOf(const Shape& half, const Plane& plane, const Box& block, bool up, double draft,
                      Progress& progress);

}  // namespace kervo
