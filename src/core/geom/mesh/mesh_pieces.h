// The separate bodies that a mesh consists of.
#pragma once

#include <vector>

#include "geom/mesh.h"

namespace kervo {

/// Its connected parts, each with the hollows inside it, the first one first. Parts that only touch in a point or in an
/// edge of four triangles are separate.
std::vector<Mesh> piecesOf(const Mesh& mesh);

/// The triangles of a mesh for which `wanted` is set, with the points they need, and all that is known about them.
Mesh someOf(const Mesh& mesh, const std::vector<bool>& wanted);

/// Whether a point lies inside a closed mesh.
bool inside(const Mesh& mesh, Point point);

/// All triangles of several meshes in one. Points are not shared between them. The tolerance is the largest one.
Mesh together(const std::vector<Mesh>& meshes);

}  // namespace kervo
