// Triangles of a mesh that lie on one plane, cylinder, cone, sphere or torus. For src/core/geom/surface only.
#pragma once

#include <Geom_ElementarySurface.hxx>
#include <cstdint>
#include <vector>

#include "base/progress.h"
#include "geom/mesh.h"

namespace kervo {

/// What is taken for one surface.
struct FacetRule {
  double tolerance = 0.01;  ///< mm, of a point from the surface
  double angle = 0.44;      ///< radians, between neighbouring triangles of a round face at most
};

struct MeshRegion {
  std::vector<std::uint32_t> triangles;
  Handle(Geom_ElementarySurface) surface;  ///< null: none of these
  double off = 0;                          ///< mm, of the point that is farthest from it
};

struct MeshRegions {
  std::vector<MeshRegion> regions;
  std::vector<std::uint32_t> of;  ///< each triangle's region
};

/// Each triangle of a closed mesh in one region, and each region in one piece. Flat parts are found first; then from
/// neighbouring parts that bend no more than the rule allows the simplest surface through their points, which grows
/// over all parts beside it that lie on it. What is left stays flat, unless it is a single triangle beside others that
/// bend as little. Throws Stopped on request.
MeshRegions regionsOf(const Mesh& mesh, const FacetRule& rule, Progress& progress);

}  // namespace kervo
