// Exact shapes as meshes.
#pragma once

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// How closely triangles follow an exact body: as fine as parts are made.
struct MeshFineness {
  double chord = 0;           ///< mm between a face and its triangles, at most; 0: a ten-thousandth of the body's size
  double angleRadians = 0.1;  ///< between neighbouring segments of a curve, at most

  double chordFor(const Shape& shape) const;
};

/// The triangles of an exact shape, faces with colours of their own painted. Those of a solid close exactly. A mesh
/// stays as it is. Throws Error for a curve and for a solid whose triangles do not close; Stopped on request.
Mesh meshed(const Shape& shape, const MeshFineness& fineness, Progress& progress);

}  // namespace kervo
