#include "geom/measure/body_triangles.h"

#include <algorithm>
#include <cmath>

#include "geom/display/tessellate.h"
#include "geom/tolerances.h"

namespace kervo {

double distanceToSegment(Point from, Point to, Point point) {
  const Vector along = to - from;
  const double square = dot(along, along);
  const double share = square > 0 ? std::clamp(dot(point - from, along) / square, 0.0, 1.0) : 0;
  return distance(from + along * share, point);
}

double distanceTo(const BodyTriangle& triangle, Point point) {
  const Vector normal = triangle.across();
  const double size = length(normal);
  if (size > 0) {
    // Over its inside the plane counts.
    const auto left = [&](Point p, Point q) { return dot(cross(q - p, point - p), normal) >= 0; };
    if (left(triangle.a, triangle.b) && left(triangle.b, triangle.c) && left(triangle.c, triangle.a))
      return std::abs(dot(point - triangle.a, normal)) / size;
  }
  return std::min({distanceToSegment(triangle.a, triangle.b, point), distanceToSegment(triangle.b, triangle.c, point),
                   distanceToSegment(triangle.c, triangle.a, point)});
}

std::optional<double> meetingOf(const BodyTriangle& triangle, Point point, Vector way) {
  const Vector p = triangle.b - triangle.a, q = triangle.c - triangle.a, across = cross(way, q);
  const double slant = dot(p, across);
  if (std::abs(slant) <= tolerance::relative * length(p) * length(q)) return std::nullopt;
  const Vector from = point - triangle.a, beside = cross(from, p);
  const double u = dot(from, across) / slant, v = dot(way, beside) / slant;
  constexpr double edge = 1e-9;
  if (u < -edge || v < -edge || u + v > 1 + edge) return std::nullopt;
  return dot(q, beside) / slant;
}

BodyTriangles::BodyTriangles(const Shape& body, double deflection, Progress& progress) {
  if (const Mesh* mesh = body.mesh()) {
    for (const Mesh::Triangle& each : mesh->triangles())
      triangles_.push_back({mesh->points()[each[0]], mesh->points()[each[1]], mesh->points()[each[2]], 0});
  } else {
    constexpr double turn = 0.2;
    const BodyMesh meshed = tessellate(body, {deflection, turn}, progress);
    const auto at = [&](std::uint32_t v) {
      const std::size_t i = 3 * static_cast<std::size_t>(v);
      return Point{meshed.points[i], meshed.points[i + 1], meshed.points[i + 2]};
    };
    for (std::size_t face = 0; face < meshed.faceTriangles.size(); ++face) {
      const BodyMesh::Range& range = meshed.faceTriangles[face];
      for (std::size_t t = range.first; t < range.first + range.count; ++t)
        triangles_.push_back({at(meshed.triangles[3 * t]), at(meshed.triangles[3 * t + 1]),
                              at(meshed.triangles[3 * t + 2]), static_cast<int>(face)});
    }
  }
  boxes_.reserve(triangles_.size());
  for (const BodyTriangle& each : triangles_) {
    Box box;
    for (const Point& corner : {each.a, each.b, each.c}) box.add(corner);
    boxes_.push_back(box);
  }
}

bool BodyTriangles::isNear(std::size_t triangle, Point point, double distance) const {
  const Box& box = boxes_[triangle];
  return point.x > box.low.x - distance && point.x < box.high.x + distance && point.y > box.low.y - distance &&
         point.y < box.high.y + distance && point.z > box.low.z - distance && point.z < box.high.z + distance;
}

std::optional<BodyTriangles::Entry> BodyTriangles::firstEntry(Point point, Vector way, double from) const {
  std::optional<Entry> first;
  for (std::size_t i = 0; i < triangles_.size(); ++i) {
    if (dot(triangles_[i].across(), way) >= 0) continue;
    const auto at = meetingOf(triangles_[i], point, way);
    if (at && *at >= from && (!first || *at < first->at)) first = Entry{*at, i};
  }
  return first;
}

}  // namespace kervo
