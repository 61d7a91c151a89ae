#include "view/seen_parts.h"

#include <QLineF>
#include <QPolygonF>
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace kervo {

namespace {

Point cornerOf(const BodyMesh& mesh, std::size_t triangle, std::size_t corner) {
  const float* p = &mesh.points[std::size_t{3} * mesh.triangles[3 * triangle + corner]];
  return {p[0], p[1], p[2]};
}

Point pointOf(const std::vector<float>& points, std::size_t number) {
  return {points[3 * number], points[3 * number + 1], points[3 * number + 2]};
}

/// Where a line meets a triangle, as a distance along it.
std::optional<double> meets(Point from, Vector direction, const std::array<Point, 3>& corner) {
  const Vector a = corner[1] - corner[0], b = corner[2] - corner[0], across = cross(direction, b);
  const double volume = dot(a, across);
  if (volume == 0) return std::nullopt;
  const Vector off = from - corner[0];
  const double u = dot(off, across) / volume;
  const Vector other = cross(off, a);
  const double v = dot(direction, other) / volume;
  if (u < 0 || v < 0 || u + v > 1) return std::nullopt;
  return dot(b, other) / volume;
}

/// A convex polygon without what lies on the normal's side of a plane.
std::vector<Point> withoutFront(const std::vector<Point>& polygon, const Plane& plane) {
  std::vector<Point> kept;
  for (std::size_t i = 0; i < polygon.size(); ++i) {
    const Point &a = polygon[i], &b = polygon[(i + 1) % polygon.size()];
    const double heightA = plane.signedDistance(a), heightB = plane.signedDistance(b);
    if (heightA <= 0) kept.push_back(a);
    if ((heightA < 0 && heightB > 0) || (heightA > 0 && heightB < 0))
      kept.push_back(a + (b - a) * (heightA / (heightA - heightB)));
  }
  return kept;
}

/// The nearest place on a line of points, in pixels, that is not hidden.
std::optional<Point> nearOnLine(const std::vector<Point>& line, const Hidden& hidden, QPointF pixel, double tolerance,
                                const Camera& camera) {
  // An edge that leaves the section within reach is still met.
  constexpr int samples = 8;
  std::optional<Point> nearest;
  double least = tolerance;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) {
    const QPointF a = camera.project(line[i]), b = camera.project(line[i + 1]), along = b - a, to = pixel - a;
    const double square = QPointF::dotProduct(along, along);
    const double at = square > 0 ? std::clamp(QPointF::dotProduct(to, along) / square, 0.0, 1.0) : 0;
    const double reach = square > 0 ? std::min(1.0, tolerance / std::sqrt(square)) : 1;
    for (int k = -samples; k <= samples; ++k) {
      const double t = std::clamp(at + reach * k / samples, 0.0, 1.0);
      const Point place = line[i] + (line[i + 1] - line[i]) * t;
      const double apart = QLineF(camera.project(place), pixel).length();
      if (apart > least || hidden.at(place)) continue;
      least = apart;
      nearest = place;
    }
  }
  return nearest;
}

std::vector<Point> lineOf(const BodyMesh& mesh, std::size_t edge) {
  std::vector<Point> line;
  const BodyMesh::Range range = mesh.edges[edge];
  for (std::size_t i = 0; i < range.count; ++i) line.push_back(pointOf(mesh.edgePoints, range.first + i));
  return line;
}

}  // namespace

std::optional<Point> seenPlace(const Pick& pick, const BodyMesh& mesh, const Hidden& hidden, QPointF pixel,
                               double tolerance, const Camera& camera) {
  const auto number = static_cast<std::size_t>(pick.index);
  if (pick.kind == Pick::Kind::Corner) {
    const Point place = pointOf(mesh.corners, number);
    return hidden.at(place) ? std::nullopt : std::optional(place);
  }
  if (pick.kind == Pick::Kind::Edge) return nearOnLine(lineOf(mesh, number), hidden, pixel, tolerance, camera);
  if (pick.kind != Pick::Kind::Face) return std::nullopt;
  const auto [from, direction] = camera.sight(pixel);
  std::optional<Point> nearest;
  double least = Box::infinity;
  const BodyMesh::Range range = mesh.faceTriangles[number];
  for (std::size_t t = range.first; t < range.first + range.count; ++t) {
    const auto far = meets(from, direction, {cornerOf(mesh, t, 0), cornerOf(mesh, t, 1), cornerOf(mesh, t, 2)});
    if (!far || *far >= least) continue;
    const Point place = from + direction * *far;
    if (hidden.at(place)) continue;
    least = *far;
    nearest = place;
  }
  return nearest;
}

FaceSeen seenIn(const BodyMesh& mesh, std::size_t face, const Hidden& hidden, QRectF pixels, const Camera& camera) {
  FaceSeen seen{false, true, false};
  const BodyMesh::Range range = mesh.faceTriangles[face];
  for (std::size_t t = range.first; t < range.first + range.count; ++t) {
    std::vector<Point> polygon{cornerOf(mesh, t, 0), cornerOf(mesh, t, 1), cornerOf(mesh, t, 2)};
    for (const Plane& plane : hidden.halfSpaces) polygon = withoutFront(polygon, plane);
    Hidden rest;
    rest.regions = hidden.regions;
    if (std::all_of(polygon.begin(), polygon.end(), [&](const Point& corner) { return rest.at(corner); })) continue;
    QPolygonF shape;
    for (const Point& corner : polygon) shape << camera.project(corner);
    seen.any = true;
    for (const QPointF& corner : shape) seen.inside = seen.inside && pixels.contains(corner);
    seen.touches = seen.touches || shape.intersects(QPolygonF(pixels));
  }
  seen.inside = seen.inside && seen.any;
  return seen;
}

bool edgeSeenIn(const BodyMesh& mesh, std::size_t edge, const Hidden& hidden, QRectF pixels, bool touching,
                const Camera& camera) {
  bool any = false, all = true;
  const std::vector<Point> line = lineOf(mesh, edge);
  constexpr int samples = 16;
  for (std::size_t i = 0; i + 1 < line.size(); ++i)
    for (int k = 0; k <= samples; ++k) {
      const Point place = line[i] + (line[i + 1] - line[i]) * (static_cast<double>(k) / samples);
      if (hidden.at(place)) continue;
      const bool inside = pixels.contains(camera.project(place));
      any = any || inside;
      all = all && inside;
    }
  return any && (touching || all);
}

}  // namespace kervo
