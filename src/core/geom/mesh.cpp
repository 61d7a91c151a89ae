#include "geom/mesh.h"

#include <map>

namespace kervo {

namespace {

bool closes(const std::vector<Mesh::Triangle>& triangles) {
  // How often each edge is run along, less how often against.
  std::map<std::pair<std::uint32_t, std::uint32_t>, int> runs;
  for (const Mesh::Triangle& triangle : triangles)
    for (std::size_t i = 0; i < 3; ++i)
      if (++runs[{triangle[i], triangle[(i + 1) % 3]}] > 1) return false;
  for (const auto& [edge, count] : runs)
    if (!runs.contains({edge.second, edge.first})) return false;
  return !triangles.empty();
}

}  // namespace

Mesh::Mesh(std::vector<Point> points, std::vector<Triangle> triangles) {
  auto content = std::make_shared<Content>();
  for (const Point& point : points) content->box.add(point);
  double volume = 0;
  for (const Triangle& triangle : triangles) {
    const Point a = points.at(triangle[0]), b = points.at(triangle[1]), c = points.at(triangle[2]);
    const Vector twice = cross(b - a, c - a);
    content->area += length(twice) / 2;
    // From the middle of the box, so that a far-away mesh loses no digits.
    volume += dot(a - content->box.centre(), twice) / 6;
  }
  content->watertight = closes(triangles);
  if (content->watertight) content->volume = volume;
  content->points = std::move(points);
  content->triangles = std::move(triangles);
  content_ = std::move(content);
}

}  // namespace kervo
