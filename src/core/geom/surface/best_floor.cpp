#include "geom/surface/best_floor.h"

#include <Poly_Triangulation.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <map>
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
  if (const Mesh* mesh = piece.mesh()) {
    for (const Mesh::Triangle& each : mesh->triangles()) {
      const Point p = mesh->points()[each[0]], q = mesh->points()[each[1]], r = mesh->points()[each[2]];
      const Vector across = cross(q - p, r - p) * 0.5;
      const double area = length(across);
      if (area > 0) facets.push_back({(p + q + r) * (1.0 / 3), across * (1 / area), area});
    }
    return facets;
  }
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

/// Planes that it could stand on: of its flat faces, or of a mesh those in which most of its triangles lie.
std::vector<Plane> floorsOf(const Shape& piece, const std::vector<Facet>& facets) {
  std::vector<Plane> planes;
  if (!piece.mesh()) {
    for (const Face& face : facesOf(piece))
      if (const auto plane = face.plane()) planes.push_back(*plane);
    return planes;
  }
  struct Flat {
    double area = 0;
    Plane plane;
  };
  std::map<std::array<long, 4>, Flat> flats;
  const auto rounded = [](double value) {
    constexpr double parts = 1e4;
    return std::lround(value * parts);
  };
  for (const Facet& facet : facets) {
    const Vector& n = facet.normal;
    Flat& flat = flats[{rounded(n.x), rounded(n.y), rounded(n.z), rounded(dot(facet.middle - Point(), n) / 10)}];
    if (flat.area == 0) flat.plane = Plane::through(facet.middle, n);
    flat.area += facet.area;
  }
  std::vector<Flat> largest;
  for (const auto& [key, flat] : flats) largest.push_back(flat);
  std::sort(largest.begin(), largest.end(), [](const Flat& a, const Flat& b) { return a.area > b.area; });
  constexpr std::size_t tried = 16;
  for (std::size_t i = 0; i < std::min(tried, largest.size()); ++i) planes.push_back(largest[i].plane);
  return planes;
}

}  // namespace

Plane bestFloor(const Shape& piece) {
  const std::vector<Facet> facets = facetsOf(piece);
  const Box box = piece.box();
  Plane best = Plane::through({box.low.x, box.low.y, box.low.z}, {0, 0, -1});
  double most = -Box::infinity;
  for (const Plane& plane : floorsOf(piece, facets)) {
    double flat = 0, hanging = 0, highest = -Box::infinity;
    for (const Facet& facet : facets) {
      const double under = plane.signedDistance(facet.middle);
      highest = std::max(highest, under);
      const double down = dot(facet.normal, plane.normal);
      if (down > steepest) (std::abs(under) < tolerance::samePlace ? flat : hanging) += facet.area * down;
    }
    // Nothing may stick out below it.
    if (highest > tolerance::sewing || flat - hanging <= most) continue;
    most = flat - hanging;
    best = plane;
  }
  return best;
}

}  // namespace kervo
