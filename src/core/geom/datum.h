// Datums: planes, axes and points outside of bodies, which cuts, drawings and placements refer to.
#pragma once

#include <variant>

#include "geom/space.h"

namespace kervo {

using Datum = std::variant<Plane, Axis, Point>;

/// "plane", "axis" or "point".
inline const char* nameOf(const Datum& datum) {
  static constexpr const char* names[] = {"plane", "axis", "point"};
  return names[datum.index()];
}

}  // namespace kervo
