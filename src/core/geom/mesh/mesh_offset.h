// What lies at a distance from a closed mesh, and how far from it things are.
#pragma once

#include <cstdint>
#include <memory>

#include "base/progress.h"
#include "geom/mesh.h"

namespace kervo {

/// How far places are from a closed mesh. Safe to ask from several threads.
class MeshDistance {
 public:
  explicit MeshDistance(const Mesh& mesh);
  ~MeshDistance();
  MeshDistance(const MeshDistance&) = delete;
  MeshDistance& operator=(const MeshDistance&) = delete;

  /// Where the last place asked for was nearest: of one nearby it is found sooner.
  struct Hint {
    Point at;
    std::uint32_t triangle = 0;
    bool known = false;
  };

  /// mm to the nearest triangle, above zero inside of the mesh and below outside.
  double inside(Point place) const {
    Hint hint;
    return inside(place, hint);
  }
  double inside(Point place, Hint& hint) const;

 private:
  struct Inside;
  std::unique_ptr<Inside> inside_;
};

/// The closed mesh round all places that are at least `by` mm inside of another one, or at most −`by` mm outside of it
/// if `by` is below zero; empty if there is none. Its points are that far away, to a thousandth of `by`; between them
/// it is off by what is added to its tolerance. Found on a grid: parts thinner than a third of `by` may be left out.
/// Throws Error if the grid would be too large; Stopped on request.
Mesh offsetMesh(const Mesh& mesh, double by, Progress& progress);

}  // namespace kervo
