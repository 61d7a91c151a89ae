// Between meshes and CGAL's. For src/core/geom/mesh only, where CGAL is compiled on its own.
#pragma once

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Surface_mesh.h>

#include "geom/mesh.h"

namespace kervo {

using CgalSpace = CGAL::Exact_predicates_inexact_constructions_kernel;
using CgalMesh = CGAL::Surface_mesh<CgalSpace::Point_3>;
/// The paint of each triangle.
using CgalPaints = CgalMesh::Property_map<CgalMesh::Face_index, Paint>;
inline constexpr const char* paintsName = "f:paint";

/// Nothing for triangles that cannot all be put beside each other: an edge of three, a side turned over.
std::optional<CgalMesh> toCgal(const Mesh& mesh);
/// With the paints, if there are any.
Mesh fromCgal(const CgalMesh& mesh, double tolerance);

}  // namespace kervo
