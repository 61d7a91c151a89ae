#include "corpus/ray_oracle.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kervo::corpus {

namespace {

Point pointOf(const BodyMesh& mesh, std::size_t vertex) {
  return {mesh.points[3 * vertex], mesh.points[3 * vertex + 1], mesh.points[3 * vertex + 2]};
}

template <class Visit>
void forEachTriangle(const BodyMesh& mesh, Visit&& visit) {
  for (std::size_t i = 0; i + 2 < mesh.triangles.size(); i += 3)
    visit(std::array<Point, 3>{pointOf(mesh, mesh.triangles[i]), pointOf(mesh, mesh.triangles[i + 1]),
                               pointOf(mesh, mesh.triangles[i + 2])});
}

/// The part of a triangle where the last coordinate is not negative.
std::vector<Vector> clipped(const std::array<Vector, 3>& corners) {
  std::vector<Vector> result;
  for (std::size_t i = 0; i < 3; ++i) {
    const Vector a = corners[i], b = corners[(i + 1) % 3];
    if (a.z >= 0) result.push_back(a);
    if ((a.z >= 0) != (b.z >= 0)) result.push_back(a + (b - a) * (a.z / (a.z - b.z)));
  }
  return result;
}

}  // namespace

double volumeOf(const BodyMesh& mesh) {
  double sum = 0;
  const Point centre = mesh.box.centre();
  forEachTriangle(mesh, [&](const auto& t) { sum += dot(t[0] - centre, cross(t[1] - centre, t[2] - centre)) / 6; });
  return sum;
}

double areaOf(const BodyMesh& mesh) {
  double sum = 0;
  forEachTriangle(mesh, [&](const auto& t) { sum += length(cross(t[1] - t[0], t[2] - t[0])) / 2; });
  return sum;
}

MeshMoments momentsOf(const BodyMesh& mesh) {
  // Of the tetrahedron of the origin and a, b, c: ∫ x = V (a + b + c) / 4, ∫ x² = V (a² + b² + c² + (a + b + c)²) / 20.
  const Point centre = mesh.box.centre();
  MeshMoments result;
  Vector first, squares;
  const auto square = [](Vector v) { return Vector{v.x * v.x, v.y * v.y, v.z * v.z}; };
  forEachTriangle(mesh, [&](const auto& t) {
    const Vector a = t[0] - centre, b = t[1] - centre, c = t[2] - centre, sum = a + b + c;
    const double volume = dot(a, cross(b, c)) / 6;
    result.volume += volume;
    first = first + sum * (volume / 4);
    squares = squares + (square(a) + square(b) + square(c) + square(sum)) * (volume / 20);
  });
  const Vector middle = first * (1 / result.volume);
  const Vector about = squares + square(middle) * -result.volume;
  result.centroid = centre + middle;
  result.moments = {about.y + about.z, about.z + about.x, about.x + about.y};
  return result;
}

double volumeBeyond(const BodyMesh& mesh, const Plane& plane) {
  // Seen from a point in the plane, the cut face adds nothing.
  double sum = 0;
  const Plane near =
      Plane::through(mesh.box.centre() - plane.normal * plane.signedDistance(mesh.box.centre()), plane.normal);
  forEachTriangle(mesh, [&](const auto& t) {
    const std::vector<Vector> part = clipped({near.coordinates(t[0]), near.coordinates(t[1]), near.coordinates(t[2])});
    for (std::size_t i = 2; i < part.size(); ++i) sum += dot(part[0], cross(part[i - 1], part[i])) / 6;
  });
  return sum;
}

Rays::Rays(const kervo::Box& box, Vector direction, int side) : side_(side) {
  plane_ = Plane::through(box.centre(), direction);
  const double half = box.diagonal() / 2;
  step_ = 2 * half / side;
  plane_.origin = plane_.at(-half, -half, -half);
}

Point Rays::start(std::size_t ray) const {
  const auto side = static_cast<std::size_t>(side_);
  return plane_.at((static_cast<double>(ray % side) + 0.5) * step_, (static_cast<double>(ray / side) + 0.5) * step_);
}

Rays::Crossings Rays::through(const BodyMesh& mesh) const {
  std::vector<std::vector<std::pair<double, int>>> hits(count());
  forEachTriangle(mesh, [&](const auto& t) {
    std::array<Vector, 3> c;
    for (std::size_t i = 0; i < 3; ++i) c[i] = plane_.coordinates(t[i]) * (1 / step_) - Vector{0.5, 0.5, 0};
    const double twice = (c[1].x - c[0].x) * (c[2].y - c[0].y) - (c[1].y - c[0].y) * (c[2].x - c[0].x);
    if (twice == 0) return;
    const auto [lowX, highX] = std::minmax({c[0].x, c[1].x, c[2].x});
    const auto [lowY, highY] = std::minmax({c[0].y, c[1].y, c[2].y});
    for (int y = std::max(0, static_cast<int>(std::ceil(lowY))); y <= std::min(side_ - 1.0, std::floor(highY)); ++y)
      for (int x = std::max(0, static_cast<int>(std::ceil(lowX))); x <= std::min(side_ - 1.0, std::floor(highX)); ++x) {
        std::array<double, 3> w;
        bool isInside = true;
        for (std::size_t i = 0; i < 3 && isInside; ++i) {
          // Computed in the same order for both triangles of an edge, so that a ray meets just one of them.
          Vector a = c[(i + 1) % 3], b = c[(i + 2) % 3];
          const bool swap = std::pair(a.x, a.y) > std::pair(b.x, b.y);
          if (swap) std::swap(a, b);
          const double side = (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x);
          isInside = ((side >= 0) != swap) == (twice > 0);
          w[i] = (swap ? -side : side) / twice;
        }
        if (!isInside) continue;
        const double depth = (w[0] * c[0].z + w[1] * c[1].z + w[2] * c[2].z) * step_;
        // A triangle that turns its outer side against the ray is where the ray goes in.
        hits[static_cast<std::size_t>(y) * static_cast<std::size_t>(side_) + static_cast<std::size_t>(x)].emplace_back(
            depth, twice < 0 ? 1 : -1);
      }
  });
  Crossings result{std::vector<std::vector<Interval>>(count()), std::vector<char>(count(), 0)};
  for (std::size_t ray = 0; ray < hits.size(); ++ray) {
    std::sort(hits[ray].begin(), hits[ray].end());
    int depth = 0;
    double from = 0;
    for (const auto& [at, way] : hits[ray]) {
      if (depth == 0 && way > 0) from = at;
      depth += way;
      if (depth == 0 && way < 0) result.inside[ray].emplace_back(from, at);
    }
    result.isVoid[ray] = depth != 0;
  }
  return result;
}

std::vector<Interval> common(const std::vector<Interval>& a, const std::vector<Interval>& b) {
  std::vector<Interval> result;
  for (const Interval& one : a)
    for (const Interval& other : b)
      if (const double first = std::max(one.first, other.first), last = std::min(one.second, other.second);
          first < last)
        result.emplace_back(first, last);
  return result;
}

double lengthOf(const std::vector<Interval>& intervals) {
  double sum = 0;
  for (const Interval& one : intervals) sum += one.second - one.first;
  return sum;
}

}  // namespace kervo::corpus
