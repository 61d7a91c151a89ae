// Meshes with known sizes for tests.
#pragma once

#include <cmath>
#include <numbers>
#include <random>
#include <vector>

#include "geom/mesh.h"
#include "geom/mesh/mesh_pieces.h"

namespace kervo::test {

/// A ball of rings and twice as many meridians; its triangles lie inside of the true one.
inline Mesh ballMesh(Point centre, double radius, int rings = 24) {
  constexpr double pi = std::numbers::pi;
  const int around = 2 * rings;
  std::vector<Point> points{centre + Vector{0, 0, radius}};
  for (int i = 1; i < rings; ++i)
    for (int j = 0; j < around; ++j) {
      const double down = pi * i / rings, turn = 2 * pi * j / around;
      points.push_back(
          centre + Vector{std::sin(down) * std::cos(turn), std::sin(down) * std::sin(turn), std::cos(down)} * radius);
    }
  points.push_back(centre - Vector{0, 0, radius});
  const auto number = [&](int i, int j) {
    return static_cast<std::uint32_t>(i == 0       ? 0
                                      : i == rings ? static_cast<int>(points.size()) - 1
                                                   : 1 + (i - 1) * around + j % around);
  };
  std::vector<Mesh::Triangle> triangles;
  for (int i = 0; i < rings; ++i)
    for (int j = 0; j < around; ++j) {
      if (i > 0) triangles.push_back({number(i, j), number(i + 1, j), number(i, j + 1)});
      if (i + 1 < rings) triangles.push_back({number(i, j + 1), number(i + 1, j), number(i + 1, j + 1)});
    }
  return {std::move(points), std::move(triangles)};
}

inline Mesh boxMesh(Point low, Point high) {
  std::vector<Point> points;
  for (unsigned i = 0; i < 8; ++i)
    points.push_back({(i & 1U) != 0 ? high.x : low.x, (i & 2U) != 0 ? high.y : low.y, (i & 4U) != 0 ? high.z : low.z});
  return {std::move(points),
          {{0, 2, 1},
           {1, 2, 3},
           {4, 5, 6},
           {5, 7, 6},
           {0, 1, 4},
           {1, 5, 4},
           {2, 6, 3},
           {3, 6, 7},
           {0, 4, 2},
           {2, 4, 6},
           {1, 3, 5},
           {3, 7, 5}}};
}

/// The same with its outside in.
inline Mesh turnedOver(const Mesh& mesh) {
  std::vector<Mesh::Triangle> triangles = mesh.triangles();
  for (Mesh::Triangle& triangle : triangles) std::swap(triangle[1], triangle[2]);
  return {mesh.points(), std::move(triangles), mesh.extra()};
}

/// Without every `nth` triangle, from the `first` one on.
inline Mesh withHoles(const Mesh& mesh, std::size_t first, std::size_t nth) {
  std::vector<bool> wanted(mesh.triangles().size(), true);
  for (std::size_t t = first; t < wanted.size(); t += nth) wanted[t] = false;
  return someOf(mesh, wanted);
}

/// Every triangle with corners of its own, every third turned over: as bad files write them.
inline Mesh soupOf(const Mesh& mesh) {
  std::vector<Point> points;
  std::vector<Mesh::Triangle> triangles;
  for (std::size_t t = 0; t < mesh.triangles().size(); ++t) {
    const auto first = static_cast<std::uint32_t>(points.size());
    for (const std::uint32_t corner : mesh.triangles()[t]) points.push_back(mesh.points()[corner]);
    triangles.push_back(t % 3 == 0 ? Mesh::Triangle{first, first + 2, first + 1}
                                   : Mesh::Triangle{first, first + 1, first + 2});
  }
  return {std::move(points), std::move(triangles)};
}

inline Mesh painted(const Mesh& mesh, Paint first, Paint second) {
  std::vector<Paint> paints(mesh.triangles().size(), second);
  for (std::size_t t = 0; t < paints.size() / 2; ++t) paints[t] = first;
  return mesh.with({std::move(paints), mesh.tolerance()});
}

}  // namespace kervo::test
