// Curves put onto faces: along a direction, or along the faces' normals.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/surface/hit_finder.h"
#include "geom/sweep/profile.h"

namespace kervo {

/// The curves of a curve body along a direction on a solid or surface, as a curve body that lies on it; empty if they
/// miss it. Throws Error for a curve along the direction; Stopped on request.
Shape projectedAlong(const Shape& curves, const Shape& onto, Vector direction, Hits hits, Progress& progress);

/// Surfaces along a direction that cut a body exactly where projectedAlong() would draw the curves, and nowhere else:
/// one or more for each of the curves. To divide by them is much faster than by curves that lie on free-form faces.
std::vector<Shape> cuttingSheets(const Shape& curves, const Shape& onto, Vector direction, Hits hits,
                                 Progress& progress);

/// … to the nearest places, along the normals of the faces. Exact to 1e-4 mm.
Shape projectedByNormals(const Shape& curves, const Shape& onto, Progress& progress);

/// Curve bodies as one, their curves as they are.
Shape together(const std::vector<Shape>& curves);
/// What bounds regions, as a curve body.
Shape bordersOf(const std::vector<Region>& regions);
/// Where open curves on a surface end inside it: the end, and how far its border is, mm. Then they do not divide it.
struct LooseEnd {
  Point place;
  double toBorder = 0;
};
std::vector<LooseEnd> looseEndsOn(const Shape& curves, const Shape& surface);
/// The place of the first region that holds a point of their plane, or their number if none does.
std::size_t regionAt(const std::vector<Region>& regions, PlanePoint point);

}  // namespace kervo
