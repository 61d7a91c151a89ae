#include "geom/mesh/mesh_size.h"

#include <CGAL/AABB_traits.h>
#include <CGAL/AABB_tree.h>
#include <CGAL/AABB_triangle_primitive.h>
#include <CGAL/Simple_cartesian.h>
#include <meshoptimizer.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>

#include "base/error.h"
#include "base/say.h"
#include "geom/mesh/mesh_pieces.h"

namespace kervo {

namespace {

using Space = CGAL::Simple_cartesian<double>;
using Triangles = std::vector<Space::Triangle_3>;
using Primitive = CGAL::AABB_triangle_primitive<Space, Triangles::const_iterator>;
using Tree = CGAL::AABB_tree<CGAL::AABB_traits<Space, Primitive>>;

/// By an estimate of the error. The triangles of each paint for themselves, so that the borders between them stay.
Mesh simplified(const Mesh& mesh, double error) {
  const Point middle = mesh.box().centre();
  std::vector<float> places;
  places.reserve(3 * mesh.points().size());
  for (const Point& point : mesh.points())
    for (const double value : {point.x - middle.x, point.y - middle.y, point.z - middle.z})
      places.push_back(static_cast<float>(value));
  const float scale = meshopt_simplifyScale(places.data(), mesh.points().size(), 3 * sizeof(float));
  std::map<Paint, std::vector<std::uint32_t>> byPaint;
  for (std::size_t t = 0; t < mesh.triangles().size(); ++t) {
    std::vector<std::uint32_t>& own = byPaint[mesh.paints().empty() ? 0 : mesh.paints()[t]];
    own.insert(own.end(), mesh.triangles()[t].begin(), mesh.triangles()[t].end());
  }
  std::vector<Mesh::Triangle> triangles;
  std::vector<Paint> paints;
  for (const auto& [paint, corners] : byPaint) {
    std::vector<std::uint32_t> kept(corners.size());
    const unsigned options = byPaint.size() > 1 ? unsigned{meshopt_SimplifyLockBorder} : 0U;
    kept.resize(meshopt_simplify(kept.data(), corners.data(), corners.size(), places.data(), mesh.points().size(),
                                 3 * sizeof(float), 3, static_cast<float>(error) / scale, options, nullptr));
    for (std::size_t i = 0; i + 2 < kept.size(); i += 3) {
      triangles.push_back({kept[i], kept[i + 1], kept[i + 2]});
      paints.push_back(paint);
    }
  }
  if (mesh.paints().empty()) paints.clear();
  const std::size_t count = triangles.size();
  return someOf(Mesh(mesh.points(), std::move(triangles), {std::move(paints), mesh.tolerance()}),
                std::vector<bool>(count, true));
}

}  // namespace

double farthestFrom(const Mesh& points, const Mesh& triangles) {
  if (points.empty() || triangles.empty()) return 0;
  Triangles all;
  all.reserve(triangles.triangles().size());
  const auto at = [](const Point& point) { return Space::Point_3(point.x, point.y, point.z); };
  for (const Mesh::Triangle& triangle : triangles.triangles()) {
    const Space::Triangle_3 each(at(triangles.points()[triangle[0]]), at(triangles.points()[triangle[1]]),
                                 at(triangles.points()[triangle[2]]));
    if (!each.is_degenerate()) all.push_back(each);
  }
  Tree tree(all.cbegin(), all.cend());
  tree.accelerate_distance_queries();
  double farthest = 0;
  for (const Point& point : points.points()) farthest = std::max(farthest, tree.squared_distance(at(point)));
  return std::sqrt(farthest);
}

Mesh reduced(const Mesh& mesh, double tolerance, Progress& progress) {
  if (mesh.empty()) return mesh;
  double error = tolerance;
  constexpr int mostTries = 8;
  for (int i = 0; i < mostTries; ++i, error /= 2) {
    progress.throwIfStopped();
    progress.report(static_cast<double>(i) / mostTries);
    const Mesh fewer = simplified(mesh, error);
    if (fewer.empty() || fewer.watertight() != mesh.watertight()) continue;
    const double off = std::max(farthestFrom(mesh, fewer), farthestFrom(fewer, mesh));
    if (off > tolerance) continue;
    Mesh::Extra extra = fewer.extra();
    extra.tolerance += tolerance;
    return fewer.with(std::move(extra));
  }
  return mesh;
}

Mesh refined(const Mesh& mesh, double longest, Progress& progress) {
  if (mesh.empty()) return mesh;
  constexpr std::size_t mostTriangles = 10'000'000;
  constexpr std::uint32_t none = ~0U;
  std::vector<Point> points = mesh.points();
  std::vector<Mesh::Triangle> triangles = mesh.triangles();
  std::vector<Paint> paints = mesh.paints();
  while (true) {
    progress.throwIfStopped();
    std::unordered_map<std::uint64_t, std::uint32_t> middles;
    const auto middleOf = [&](std::uint32_t a, std::uint32_t b) {
      if (a > b) std::swap(a, b);
      if (distance(points[a], points[b]) <= longest) return none;
      const auto [found, isNew] =
          middles.try_emplace(std::uint64_t{a} << 32U | b, static_cast<std::uint32_t>(points.size()));
      if (isNew) points.push_back((points[a] + points[b]) * 0.5);
      return found->second;
    };
    std::vector<Mesh::Triangle> next;
    std::vector<Paint> nextPaints;
    for (std::size_t t = 0; t < triangles.size(); ++t) {
      Mesh::Triangle corner = triangles[t];
      Mesh::Triangle middle{middleOf(corner[0], corner[1]), middleOf(corner[1], corner[2]),
                            middleOf(corner[2], corner[0])};
      const auto add = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        next.push_back({a, b, c});
        if (!paints.empty()) nextPaints.push_back(paints[t]);
      };
      const auto count = std::count_if(middle.begin(), middle.end(), [](std::uint32_t each) { return each != none; });
      if (count == 0) {
        add(corner[0], corner[1], corner[2]);
        continue;
      }
      // Turned so that the only divided side comes first, or the only whole one last.
      while (middle[0] == none || (count == 2 && middle[1] == none)) {
        std::rotate(corner.begin(), corner.begin() + 1, corner.end());
        std::rotate(middle.begin(), middle.begin() + 1, middle.end());
      }
      const auto& [first, second, third] = middle;
      if (count == 1) {
        add(corner[0], first, corner[2]);
        add(first, corner[1], corner[2]);
      } else if (count == 2) {
        add(first, corner[1], second);
        add(corner[0], first, corner[2]);
        add(first, second, corner[2]);
      } else {
        add(corner[0], first, third);
        add(first, corner[1], second);
        add(third, second, corner[2]);
        add(first, second, third);
      }
    }
    if (middles.empty()) return {std::move(points), std::move(triangles), {std::move(paints), mesh.tolerance()}};
    if (next.size() > mostTriangles)
      throw Error(say("that would make more than ten million triangles"), "", say("Choose a greater length"));
    triangles = std::move(next);
    paints = std::move(nextPaints);
  }
}

}  // namespace kervo
