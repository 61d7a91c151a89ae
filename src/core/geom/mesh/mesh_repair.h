// Meshes made sound: welded, turned one way, closed, freed of crossings.
#pragma once

#include "base/progress.h"
#include "geom/mesh.h"

namespace kervo {

struct MeshWishes {
  double weldWithin = 0;  ///< mm: points nearer than that become one
  bool fillHoles = true;
  bool removeCrossings = true;
  bool keepLargest = false;  ///< only the connected part with the largest area
};

/// What was done, in numbers, and what is left to do.
struct MeshRepaired {
  Mesh mesh;
  std::size_t weldedPoints = 0;
  std::size_t degenerate = 0, doubles = 0;  ///< triangles that went
  bool turned = false;                      ///< some triangles, or all, looked the other way
  std::size_t holes = 0, holesLeft = 0;     ///< that were there, and that could not be filled
  std::size_t crossings = 0;                ///< pairs of triangles that ran through each other
  std::size_t crossingsLeft = 0;
  std::size_t partsGone = 0;

  /// Something is different from what it was.
  bool changed() const {
    return weldedPoints + degenerate + doubles + holes - holesLeft + crossings - crossingsLeft + partsGone > 0 ||
           turned;
  }
};

/// The mesh as the wishes have it. Triangles keep their paints; new ones have none. Throws Stopped on request.
MeshRepaired repaired(const Mesh& mesh, const MeshWishes& wishes, Progress& progress);

}  // namespace kervo
