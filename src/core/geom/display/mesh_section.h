// Where a plane cuts a mesh: outlines and the faces that they bound, for the screen.
#pragma once

#include <vector>

#include "geom/display/clip.h"
#include "geom/display/tessellate.h"

namespace kervo {

/// In the plane's own coordinates, mm.
struct MeshSection {
  std::vector<std::vector<PlanePoint>> loops;  ///< closed, without the first point again; material to their left
  std::vector<std::vector<PlanePoint>> open;   ///< of surfaces, and where a mesh has a gap

  bool empty() const { return loops.empty() && open.empty(); }
  /// Of what the loops bound, those of holes taken off; mm².
  double area() const;
  /// Whether a point is inside of what the loops bound.
  bool holds(PlanePoint point) const;
  /// The stretches of the line through `on` along `along` (unit length) inside of what the loops bound, as distances
  /// from `on`.
  std::vector<std::pair<double, double>> stretches(PlanePoint on, PlanePoint along) const;
};

/// Vertices on the plane count as lying on its normal's side. A mesh that the plane does not reach gives nothing.
MeshSection sectionOf(const BodyMesh& mesh, const Plane& plane);

/// Triangles, three points each, that fill what the loops bound, by odd and even.
std::vector<PlanePoint> filled(const std::vector<std::vector<PlanePoint>>& loops);

/// Triangles of what lies inside of both, but for slivers where they only touch: two bodies in one place.
std::vector<PlanePoint> overlapOf(const MeshSection& one, const MeshSection& other);

}  // namespace kervo
