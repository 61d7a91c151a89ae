// What is taken out of sight so that one can look into bodies.
#pragma once

#include <optional>
#include <vector>

#include "geom/shape.h"

namespace kervo {

/// Regions of space in which nothing is seen.
struct Clip {
  /// A convex region: the points that lie on the normal's side of all its walls, or on them.
  using Region = std::vector<Plane>;
  std::vector<Region> regions;
  /// The inside of a closed body, or all but that.
  std::optional<Shape> body = {};
  bool outside = false;

  /// Whether one of the regions holds the point. The body is not asked.
  bool hides(Point point) const;
};

/// A wall of a region, as far as it cuts: the place of a cut face.
struct CutWall {
  Plane plane;                 ///< its normal points into what goes
  std::vector<Plane> borders;  ///< only where it lies on the normal's side of all of these
};

/// Of all regions.
std::vector<CutWall> wallsOf(const Clip& clip);

}  // namespace kervo
