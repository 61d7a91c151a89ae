#include "geom/mesh/welded.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>
#include <unordered_set>

#include "base/hash.h"

namespace kervo {

namespace {

/// Gives points that are near to each other one number.
class Places {
 public:
  explicit Places(double within) : within_(within) {}

  std::uint32_t numberOf(const Point& point) {
    if (within_ <= 0) return exact_.numberOf(point);
    // Of the cells, twice the distance wide, all that the point is near to: two along each axis at most.
    for (std::size_t i = 0; i < 8; ++i) {
      const auto offset = [&](std::size_t axis) { return (i >> axis & 1U) != 0 ? within_ : -within_; };
      const auto [first, last] =
          known_.equal_range(cellOf({point.x + offset(0), point.y + offset(1), point.z + offset(2)}));
      for (auto it = first; it != last; ++it)
        if (distance(points_[it->second], point) <= within_) return it->second;
    }
    const auto number = static_cast<std::uint32_t>(points_.size());
    known_.emplace(cellOf(point), number);
    points_.push_back(point);
    return number;
  }

  std::vector<Point> take() { return within_ <= 0 ? exact_.take() : std::move(points_); }

 private:
  std::uint64_t cellOf(const Point& at) const {
    Hasher hasher;
    for (const double value : {at.x, at.y, at.z})
      hasher.add(static_cast<std::uint64_t>(static_cast<std::int64_t>(std::floor(value / (2 * within_)))));
    return hasher.key().low;
  }

  double within_;
  Welder exact_;
  std::vector<Point> points_;
  std::unordered_multimap<std::uint64_t, std::uint32_t> known_;
};

std::uint64_t keyOf(Mesh::Triangle triangle) {
  std::sort(triangle.begin(), triangle.end());
  return Hasher()
      .add(std::uint64_t{triangle[0]})
      .add(std::uint64_t{triangle[1]})
      .add(std::uint64_t{triangle[2]})
      .key()
      .low;
}

}  // namespace

Welded welded(const Mesh& mesh, double within, bool removeDoubles) {
  Welded result;
  if (mesh.empty()) return result;
  Places places(within);
  std::vector<std::uint32_t> number;
  number.reserve(mesh.points().size());
  for (const Point& point : mesh.points()) number.push_back(places.numberOf(point));
  std::vector<Point> points = places.take();
  result.points = mesh.points().size() - points.size();
  std::vector<Mesh::Triangle> triangles;
  Mesh::Extra extra{{}, mesh.tolerance()};
  std::unordered_set<std::uint64_t> known;
  for (std::size_t t = 0; t < mesh.triangles().size(); ++t) {
    Mesh::Triangle triangle = mesh.triangles()[t];
    for (std::uint32_t& corner : triangle) corner = number[corner];
    const Point a = points[triangle[0]], b = points[triangle[1]], c = points[triangle[2]];
    if (triangle[0] == triangle[1] || triangle[1] == triangle[2] || triangle[2] == triangle[0] ||
        length(cross(b - a, c - a)) == 0) {
      ++result.degenerate;
      continue;
    }
    if (removeDoubles && !known.insert(keyOf(triangle)).second) {
      ++result.doubles;
      continue;
    }
    triangles.push_back(triangle);
    if (!mesh.paints().empty()) extra.paints.push_back(mesh.paints()[t]);
  }
  result.mesh = Mesh(std::move(points), std::move(triangles), std::move(extra));
  return result;
}

}  // namespace kervo
