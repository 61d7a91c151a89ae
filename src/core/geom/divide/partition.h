// Several solids divided by each other and by surfaces, all at once: every region with what it is part of.
//
// Split, Combine's regions and shared faces are made from it. Surfaces that end inside a body are left out in a second
// pass, so that they leave no marks.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// Where a region lies beside one of the surfaces that bound it. `Both` where it touches both sides of the surface,
/// e.g. round the border of a finite one.
enum class SheetSide { None, Front, Back, Both };

/// One region: the points that lie in the same of the solids and are not kept apart by a surface.
struct Part {
  Shape shape;
  std::vector<std::size_t> in;   ///< numbers of the solids that it is part of, rising; never empty
  std::vector<SheetSide> sides;  ///< one a surface; Front is the side that the surface's normal points to

  bool isIn(std::size_t solid) const;
};

struct Partition {
  std::vector<Part> parts;
  std::string remedy;  ///< as in Division
  double meshed = 0;   ///< as in Division
};

/// Divides `solids` by each other and by `surfaces` in one intersection. The regions' volumes add up to each solid's,
/// as in divide(), with the same checks and remedies. Surfaces that end inside a region leave it whole and unmarked.
/// Throws Error if no attempt passes, or one of `solids` is not a solid; Stopped on request.
Partition partition(const std::vector<Shape>& solids, const std::vector<Shape>& surfaces, Progress& progress);

/// The pieces into which surfaces, solids and curves that lie on it divide a surface, each with its sides as in Part;
/// just the surface if they do not. Front of a curve is to its left, seen from the surface's front. Areas add up.
/// Throws as partition() does.
Partition partitionOfSurface(const Shape& surface, const std::vector<Shape>& cutters, Progress& progress);

/// … of several surfaces at once, each divided by all others and the cutters. Sides are by the other surfaces, in their
/// order, then by the cutters.
std::vector<Partition> partitionOfSurfaces(const std::vector<Shape>& surfaces, const std::vector<Shape>& cutters,
                                           Progress& progress);

}  // namespace kervo
