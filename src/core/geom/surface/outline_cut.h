// Surfaces divided by drawn outlines that lie inside of their faces, without an intersection: each outline is followed
// on its face and becomes an edge there. Where many outlines are cut out of a free-form face this is some hundred times
// as fast as the kernel.
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/surface/projected.h"

namespace kervo {

/// A drawing's curves, and how they come onto a surface.
struct ProjectedOutlines {
  Shape curves;
  Vector along;  ///< of unit length
  Hits hits = Hits::All;
};

/// The pieces into which the outlines divide a surface; their edges follow the outlines to 3e-5 mm. Nothing where they
/// must be intersected instead: curves that are not closed, that cross each other, a border, a seam or an edge, and
/// that come to where a face is seen along itself. Throws Stopped on request.
std::optional<std::vector<Shape>> cutByOutlines(const Shape& surface, const std::vector<ProjectedOutlines>& outlines,
                                                Progress& progress);

}  // namespace kervo
