#include "geom/surface/best_floor.h"

#include <Poly_Triangulation.hxx>
#include <algorithm>
#include <vector>

#include "geom/display/face_meshes.h"
#include "geom/kernel/topology_body.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// What leans by more than 45° over the floor needs support.
constexpr double steepest = 0.70710678118654752;

/// A triangle of the piece: its middle, its outer normal, its area.
struct Facet {
  Point middle;
  Vector normal;
  double area = 0;
};

std::vector<Facet> facetsOf(const Shape& piece) {
  std::vector<Facet> facets;
  Progress progress;
  const ShapeMeshes meshes = meshFaces(piece, {piece.roughBox().diagonal() / 200, 0.3}, progress);
  const Skeleton& skeleton = skeletonOf(piece);
  for (std::size_t n = 0; n < meshes.faces.size(); ++n) {
    const auto& mesh = meshes.faces[n];
    if (mesh.IsNull()) continue;
    const bool reversed = skeleton.faces[n].Orientation() == TopAbs_REVERSED;
    for (int i = 1; i <= mesh->NbTriangles(); ++i) {
      int a = 0, b = 0, c = 0;
      mesh->Triangle(i).Get(a, b, c);
      const auto at = [&](int node) {
        return fromPnt(mesh->Node(node).Transformed(meshes.places[n].Transformation()));
      };
      const Point p = at(a), q = at(b), r = at(c);
      const Vector across = cross(q - p, r - p) * (reversed ? -0.5 : 0.5);
      const double area = length(across);
      if (area > 0) facets.push_back({(p + q + r) * (1.0 / 3), across * (1 / area), area});
    }
  }
  return facets;
}

}  // namespace

Plane bestFloor(const Shape& piece) {
  const std::vector<Facet> facets = facetsOf(piece);
  const Box box = piece.box();
  Plane best = Plane::through({box.low.x, box.low.y, box.low.z}, {0, 0, -1});
  double most = -Box::infinity;
  for (const Face& face : facesOf(piece)) {
    const auto plane = face.plane();
    if (!plane) continue;
    double flat = 0, hanging = 0, highest = -Box::infinity;
    for (const Facet& facet : facets) {
      const double under = plane->signedDistance(facet.middle);
      highest = std::max(highest, under);
      const double down = dot(facet.normal, plane->normal);
      if (down > steepest) (std::abs(under) < tolerance::samePlace ? flat : hanging) += facet.area * down;
    }
    // Nothing may stick out below it.
    if (highest > tolerance::sewing || flat - hanging <= most) continue;
    most = flat - hanging;
    best = *plane;
  }
  return best;
}

}  // namespace kervo
