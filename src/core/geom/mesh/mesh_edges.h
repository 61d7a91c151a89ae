// The edges of a mesh's triangles, found by where they begin.
#pragma once

#include <cstdint>
#include <vector>

#include "geom/mesh.h"

namespace kervo {

/// Directed edges, in the order of the points they begin at. Of one triangle there are three.
class MeshEdges {
 public:
  struct Edge {
    std::uint32_t to;
    std::uint32_t triangle;
  };

  MeshEdges(std::size_t pointCount, const std::vector<Mesh::Triangle>& triangles);

  const Edge* begin(std::uint32_t from) const { return edges_.data() + first_[from]; }
  const Edge* end(std::uint32_t from) const { return edges_.data() + first_[from + 1]; }
  std::size_t pointCount() const { return first_.size() - 1; }
  /// How many triangles run along it.
  std::size_t times(std::uint32_t from, std::uint32_t to) const;
  /// One triangle on each side, in opposite directions.
  bool joins(std::uint32_t from, std::uint32_t to) const { return times(from, to) == 1 && times(to, from) == 1; }
  /// The first triangle that runs along it; there has to be one.
  std::uint32_t triangleOf(std::uint32_t from, std::uint32_t to) const;

 private:
  std::vector<std::uint32_t> first_;
  std::vector<Edge> edges_;
};

}  // namespace kervo
