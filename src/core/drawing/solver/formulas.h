// What formulas of constraints are put together from.
#pragma once

#include <cmath>
#include <initializer_list>
#include <numbers>
#include <vector>

#include "drawing/solver/equations.h"
#include "geom/planes.h"

namespace kervo::formula {

inline constexpr double turn = 2 * std::numbers::pi;

/// The points that a formula's values begin with.
inline DualPoint point(const Dual* values, std::size_t index) {
  return {values[2 * index], values[2 * index + 1]};
}

/// The signed distance from the line through two points, to its left above zero.
inline Dual offset(const DualPoint& point, const DualPoint& from, const DualPoint& to) {
  const DualPoint along = to - from;
  return cross(along, point - from) / length(along);
}

inline double sign(double value) {
  return value < 0 ? -1 : 1;
}

/// An angle as near to zero as whole turns bring it.
inline Dual nearZero(const Dual& angle) {
  return angle - Dual(turn * std::round(angle.value / turn));
}

inline std::vector<Scalar> list(std::initializer_list<ScalarPoint> points, std::initializer_list<Scalar> others = {}) {
  std::vector<Scalar> scalars;
  for (const ScalarPoint& each : points) {
    scalars.push_back(each.u);
    scalars.push_back(each.v);
  }
  scalars.insert(scalars.end(), others);
  return scalars;
}

}  // namespace kervo::formula
