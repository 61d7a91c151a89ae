// A place in messages.
#pragma once

#include <string>

#include "base/quantity.h"
#include "geom/space.h"

namespace kervo {

/// Its coordinates in mm, to be read.
inline std::string placeText(Point place) {
  // Rounded to a nanometre, so that 0 is not −2.2e-16.
  const auto text = [](double coordinate) { return formatNumber(std::round(coordinate * 1e6) / 1e6, 4); };
  return say("%1, %2, %3 mm", text(place.x), text(place.y), text(place.z));
}

}  // namespace kervo
