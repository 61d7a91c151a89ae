// Where a hollow body is drained.
#pragma once

#include <optional>
#include <vector>

#include "geom/shape.h"

namespace kervo {

/// A hole: from inside the space, `length` mm along `way` to outside.
struct DrainPlace {
  Point from;
  Vector way;
  double length = 0;
};

/// At most so many places, where the space inside of walls is lowest along `down` (of unit length), each with room for
/// a hole of that radius, and far from each other. Fewer, if there is no room for more.
std::vector<DrainPlace> drainPlaces(const Shape& walls, const Shape& space, Vector down, int count, double radius);

/// Through the wall around the space that a line both ways from `middle` along `way` (of unit length) meets nearest to
/// there, seen from outside. None where it meets none, or where a hole of that radius would not lie in the wall whole.
std::optional<DrainPlace> drainAlong(const Shape& walls, const Shape& space, Point middle, Vector way, double radius);

}  // namespace kervo
