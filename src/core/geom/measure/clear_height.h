// How much room there is above what people walk on.
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// The least distance straight up, and where it is.
struct ClearHeight {
  double height = 0;  ///< mm
  Point foot, head;
};

/// The least distance from where one can walk on a shape (faces that lean by less than 50°) along `up` (unit length) to
/// what is above it. Exact where the faces are planar, else as close as their meshes (1 mm). What lies on the shape is
/// not above it. Nothing if nothing is. Throws Stopped on request.
std::optional<ClearHeight> clearHeight(const Shape& walked, const std::vector<Shape>& above, Vector up,
                                       Progress& progress);

}  // namespace kervo
