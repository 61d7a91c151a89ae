// What holds the halves of a mould to the body in them.
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space.h"
#include "geom/space_curve.h"

namespace kervo {

/// Of one half.
struct Undercuts {
  double area = 0;              ///< mm² of the body that the half would meet when it is drawn off
  double steep = 0;             ///< mm² that lean less than is wanted
  std::vector<Polyline> lines;  ///< that hatch the undercuts
};

struct UndercutsOfHalves {
  Undercuts front;  ///< of the half that is drawn off along the normal of the plane
  Undercuts back;
};

/// How halves meet: at a height over the plane, or as the half at the back does.
struct HalvesMeet {
  std::optional<double> level = {};
  Shape back = {};
};

/// `draft`: how far walls are to lean, radians. Flat faces of bodies that are parted by a plane are exact, others as
/// their triangles are, with the exact normals at their corners; along other partings to 0.02 mm.
UndercutsOfHalves undercutsOf(const std::vector<Shape>& bodies, const Plane& plane, const HalvesMeet& meet,
                              double draft, Progress& progress);

/// How much of some surfaces looks along the normal of a plane, and how much against it, mm². `within`: in its
/// coordinates; triangles with their middle elsewhere do not count.
struct Facing {
  double along = 0, against = 0;
};
Facing facingOf(const std::vector<Shape>& surfaces, const Plane& plane, const Box& within, Progress& progress);

}  // namespace kervo
