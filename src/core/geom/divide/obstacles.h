// What a box can be told to keep clear of: the boundaries and the insides of other bodies. For src/core/geom only.
#pragma once

#include <vector>

#include "geom/shape.h"

namespace kervo {

/// Bodies and surfaces that something is about to be intersected with.
class Obstacles {
 public:
  explicit Obstacles(const std::vector<Shape>& shapes);

  /// True only if no face of any of them comes near the box: it lies as a whole inside or outside each solid. False
  /// may mean that this was not found out.
  bool facesKeepClearOf(const Box& box) const;
  /// True only if no solid reaches into the box either.
  bool keepClearOf(const Box& box) const;

 private:
  /// A face by its box and, for a plane, the plane.
  struct Side {
    Box box;
    bool isPlane = false;
    Plane plane;  ///< of a solid: the normal points out of it
    /// The whole solid lies behind the plane.
    bool supports = false;
  };
  struct Body {
    Box box;
    bool solid = false;
    std::vector<Side> sides;
  };

  std::vector<Body> bodies_;
};

}  // namespace kervo
