#include "geom/mesh/mesh_edges.h"

#include <algorithm>

namespace kervo {

MeshEdges::MeshEdges(std::size_t pointCount, const std::vector<Mesh::Triangle>& triangles)
    : first_(pointCount + 1, 0), edges_(3 * triangles.size()) {
  for (const Mesh::Triangle& triangle : triangles)
    for (const std::uint32_t corner : triangle) ++first_[corner + 1];
  for (std::size_t i = 0; i < pointCount; ++i) first_[i + 1] += first_[i];
  std::vector<std::uint32_t> next(first_.begin(), first_.end() - 1);
  for (std::uint32_t t = 0; t < triangles.size(); ++t)
    for (std::size_t i = 0; i < 3; ++i) edges_[next[triangles[t][i]]++] = {triangles[t][(i + 1) % 3], t};
}

std::size_t MeshEdges::times(std::uint32_t from, std::uint32_t to) const {
  return static_cast<std::size_t>(
      std::count_if(begin(from), end(from), [&](const Edge& edge) { return edge.to == to; }));
}

std::uint32_t MeshEdges::triangleOf(std::uint32_t from, std::uint32_t to) const {
  return std::find_if(begin(from), end(from), [&](const Edge& edge) { return edge.to == to; })->triangle;
}

}  // namespace kervo
