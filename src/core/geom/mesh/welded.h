// Triangles put together by their corners.
#pragma once

#include "geom/mesh.h"

namespace kervo {

/// What went when a mesh was put together.
struct Welded {
  Mesh mesh;
  std::size_t points = 0;      ///< that were joined with another one
  std::size_t degenerate = 0;  ///< triangles without an area
  std::size_t doubles = 0;     ///< triangles that were there before, whichever way round
};

/// Points nearer than `within` mm become one, at the place of the first; triangles that then have no area go, and with
/// `removeDoubles` those that are there twice. What closes stays closed: where the corners of a triangle lie on a line,
/// the one beside it is divided at the corner in the middle.
Welded welded(const Mesh& mesh, double within, bool removeDoubles);

}  // namespace kervo
