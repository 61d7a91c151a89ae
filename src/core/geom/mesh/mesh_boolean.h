// Meshes divided and united by each other, and what has to be right about them first.
#pragma once

#include <optional>
#include <string>

#include "base/progress.h"
#include "geom/mesh.h"

namespace kervo {

struct MeshDivision {
  Mesh outside;  ///< of the cutter; empty if nothing is left
  Mesh inside;
};

/// Divides a closed mesh by a closed cutter, from one intersection with exact predicates. Triangles keep their paints;
/// those that were the cutter's keep the cutter's. Volumes add up to rounding. Throws Error if one of the two is not
/// closed or runs through itself, or the result would; Stopped on request.
MeshDivision divideMesh(const Mesh& stock, const Mesh& cutter, Progress& progress);

/// Both together, without what lies inside. Throws as divideMesh() does.
Mesh uniteMeshes(const Mesh& a, const Mesh& b, Progress& progress);

/// Pairs of triangles of one mesh that run through each other.
struct Crossing {
  std::size_t pairs = 0;
  Point near = {};  ///< the place of the first of them
};
/// The first such pair only, or with `all` every one of them. Nothing if there is none.
std::optional<Crossing> selfCrossing(const Mesh& mesh, bool all = false);

}  // namespace kervo
