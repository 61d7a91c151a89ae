// Short ways to place and look up shapes in tests.
#pragma once

#include <numbers>
#include <string>

#include "base/error.h"
#include "geom/topology.h"

namespace kervo::test {

inline constexpr double pi = std::numbers::pi;

/// The level plane through a point.
inline Plane at(double x, double y, double z) {
  Plane plane;
  plane.origin = {x, y, z};
  return plane;
}

/// The face with that as its first origin.
inline Face faceNamed(const Shape& shape, const std::string& name) {
  for (const Face& face : facesOf(shape))
    if (face.origins().front() == name) return face;
  throw Error("no face " + name);
}

}  // namespace kervo::test
