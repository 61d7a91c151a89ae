// Surfaces made longer over their open borders.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/topology.h"

namespace kervo {

/// The surface grown by `by` mm over all of its open borders. Planes, cylinders and whole free-form faces go on as they
/// are, other borders straight on along their tangents, with mitred corners. New faces are named `name`:extension.
/// Throws Error if `by` is not positive, or the border cannot be extended that far.
Shape extended(const Shape& surface, double by, const std::string& name);

enum class SurfaceGoesOn {
  Straight,  ///< along the tangents, by faces of their own; neighbours meet in mitred corners
  AsItRuns   ///< the faces' own surfaces go on, with their curvature
};

/// The surface grown over some of its open borders. Throws Error as extended() does, for an edge that is no open
/// border, and for a face that cannot go on as it runs.
Shape extendedAt(const Shape& surface, const std::vector<Edge>& edges, double by, SurfaceGoesOn way,
                 const std::string& name);

/// Grown as far as it takes to reach through a solid; `by` is set to that length. Throws Error if twice the size of the
/// solid is not enough.
Shape extendedThrough(const Shape& surface, const std::vector<Edge>& edges, const Shape& solid, SurfaceGoesOn way,
                      const std::string& name, double& by, Progress& progress);

}  // namespace kervo
