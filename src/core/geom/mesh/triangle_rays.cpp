#include "geom/mesh/triangle_rays.h"

#include <CGAL/AABB_traits.h>
#include <CGAL/AABB_tree.h>
#include <CGAL/AABB_triangle_primitive.h>
#include <CGAL/Simple_cartesian.h>

#include <cmath>
#include <limits>

namespace kervo {

namespace {

using Space = CGAL::Simple_cartesian<double>;
using Triangles = std::vector<Space::Triangle_3>;
using Primitive = CGAL::AABB_triangle_primitive<Space, Triangles::const_iterator>;
using Tree = CGAL::AABB_tree<CGAL::AABB_traits<Space, Primitive>>;

}  // namespace

std::vector<float> waysThrough(const std::vector<float>& points, const std::vector<float>& normals,
                               const std::vector<std::uint32_t>& triangles, double inside) {
  const auto at = [](const std::vector<float>& list, std::size_t vertex) {
    const float* first = &list[3 * vertex];
    return Space::Vector_3(double(first[0]), double(first[1]), double(first[2]));
  };
  const auto point = [&](std::size_t vertex) { return CGAL::ORIGIN + at(points, vertex); };
  Triangles all;
  for (std::size_t i = 0; i + 2 < triangles.size(); i += 3) {
    const Space::Triangle_3 triangle(point(triangles[i]), point(triangles[i + 1]), point(triangles[i + 2]));
    if (!triangle.is_degenerate()) all.push_back(triangle);
  }
  // A ray from a corner of a box would run along its walls: it starts a little towards the middle of a triangle.
  constexpr double beside = 0.02;
  std::vector<Space::Point_3> starts;
  for (std::size_t i = 0; i < points.size() / 3; ++i) starts.push_back(point(i));
  for (std::size_t i = 0; i + 2 < triangles.size(); i += 3) {
    const Space::Point_3 middle = CGAL::centroid(point(triangles[i]), point(triangles[i + 1]), point(triangles[i + 2]));
    for (std::size_t k = 0; k < 3; ++k) {
      const Space::Point_3 corner = point(triangles[i + k]);
      starts[triangles[i + k]] = corner + (middle - corner) * beside;
    }
  }
  std::vector<float> result(points.size() / 3, std::numeric_limits<float>::quiet_NaN());
  if (all.empty()) return result;
  Tree tree(all.cbegin(), all.cend());
  tree.build();
  for (std::size_t i = 0; i < result.size(); ++i) {
    const Space::Vector_3 inwards = -at(normals, i);
    const double length = std::sqrt(inwards.squared_length());
    if (!(length > 0)) continue;
    const auto hit = tree.first_intersection(Space::Ray_3(starts[i] + inwards * (inside / length), inwards));
    if (!hit) continue;
    if (const auto* where = boost::get<Space::Point_3>(&hit->first))
      result[i] = float(std::sqrt(CGAL::squared_distance(starts[i], *where)));
  }
  return result;
}

}  // namespace kervo
