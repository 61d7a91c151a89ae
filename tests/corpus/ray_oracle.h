// Volumes from meshes and parallel rays: a second opinion on a cut that knows nothing of the kernel's intersection.
#pragma once

#include <vector>

#include "corpus/cutting_body.h"
#include "geom/display/tessellate.h"

namespace kervo::corpus {

/// Six times the signed volume that the mesh encloses, by the divergence theorem, over six: mm³.
double volumeOf(const BodyMesh& mesh);
double areaOf(const BodyMesh& mesh);
/// The centre of the volume, and its moments of inertia about it along the world's axes, in mm⁵: sums over tetrahedra.
struct MeshMoments {
  double volume = 0;
  Point centroid;
  Vector moments;
};
MeshMoments momentsOf(const BodyMesh& mesh);
/// Of what of the mesh lies where the plane's normal points: its triangles clipped by the plane exactly. mm³.
double volumeBeyond(const BodyMesh& mesh, const Plane& plane);

/// A square grid of parallel rays over a box.
class Rays {
 public:
  Rays(const kervo::Box& box, Vector direction, int side);

  /// For each ray the parts of it inside the mesh. Rays that leave the mesh more often than they enter it, which
  /// happens at a hair's breadth, are marked as void.
  struct Crossings {
    std::vector<std::vector<Interval>> inside;
    std::vector<char> isVoid;
  };
  Crossings through(const BodyMesh& mesh) const;

  std::size_t count() const { return static_cast<std::size_t>(side_) * static_cast<std::size_t>(side_); }
  Point start(std::size_t ray) const;
  Vector direction() const { return plane_.normal; }
  /// The volume that a mm of ray stands for, in mm³.
  double perLength() const { return step_ * step_; }

 private:
  Plane plane_;
  double step_ = 1;
  int side_;
};

/// The common parts of two lists in order, and the length of a list.
std::vector<Interval> common(const std::vector<Interval>& a, const std::vector<Interval>& b);
double lengthOf(const std::vector<Interval>& intervals);

}  // namespace kervo::corpus
