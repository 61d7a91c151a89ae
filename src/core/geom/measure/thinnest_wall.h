// The thinnest wall that a cut leaves beside it.
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

struct Wall {
  double thickness = 0;  ///< mm
  Point from, to;        ///< where it is: on the cut and on the other side
};

/// Which faces count as new: those that were not there, or those that were somewhere else as well.
enum class NewFaces { Added, AlsoMoved };

/// The least distance through material between faces of `after` that `before` did not have and all other faces that
/// they do not share a corner with; only walls thinner than `limit` are looked for. Nothing if there is none. Exact
/// between the faces' surfaces (the kernel's extrema); source: measured in the project's kernel notes, "thinnest wall".
/// Of meshes, where there is nothing before, as far as rays find it (mesh_wall.h).
std::optional<Wall> thinnestWall(const Shape& before, const std::vector<Shape>& after, double limit, Progress& progress,
                                 NewFaces which = NewFaces::Added);

}  // namespace kervo
