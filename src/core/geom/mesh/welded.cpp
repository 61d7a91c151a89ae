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

/// Takes out pairs of triangles that have become one seen from both sides: nothing is between them.
void takeOutFlaps(std::vector<Mesh::Triangle>& triangles, std::vector<Paint>& paints) {
  const auto turnedOver = [](Mesh::Triangle triangle) {
    std::rotate(triangle.begin(), std::min_element(triangle.begin(), triangle.end()), triangle.end());
    return triangle[1] > triangle[2];
  };
  std::unordered_map<std::uint64_t, std::vector<std::size_t>> alone;
  std::vector<bool> gone(triangles.size(), false);
  for (std::size_t t = 0; t < triangles.size(); ++t) {
    std::vector<std::size_t>& same = alone[keyOf(triangles[t])];
    const auto other = std::find_if(same.begin(), same.end(), [&](std::size_t each) {
      return turnedOver(triangles[each]) != turnedOver(triangles[t]);
    });
    if (other == same.end()) {
      same.push_back(t);
      continue;
    }
    gone[t] = gone[*other] = true;
    same.erase(other);
  }
  std::size_t kept = 0;
  for (std::size_t t = 0; t < triangles.size(); ++t) {
    if (gone[t]) continue;
    triangles[kept] = triangles[t];
    if (!paints.empty()) paints[kept] = paints[t];
    ++kept;
  }
  triangles.resize(kept);
  if (!paints.empty()) paints.resize(kept);
}

/// Takes triangles without an area, whose corners lie on a line, out of a mesh without opening it: the edge opposite
/// the middle corner is turned into one from there to the far corner of the triangle on its other side.
class Slivers {
 public:
  Slivers(const std::vector<Point>& points, std::vector<Mesh::Triangle>& triangles, std::vector<Paint>& paints)
      : points_(points), triangles_(triangles), paints_(paints) {}

  /// How many there were. Those with nothing on the other side are left out, and those stay that cannot be turned away.
  std::size_t remove() {
    std::vector<std::size_t> open;
    for (std::size_t t = 0; t < triangles_.size(); ++t)
      if (isSliver(triangles_[t])) open.push_back(t);
    const std::size_t count = open.size();
    if (count == 0) return 0;
    for (std::size_t t = 0; t < triangles_.size(); ++t) note(t);
    // Turning one edge may make a sliver of the triangle beside it; where it goes round in circles it ends.
    for (std::size_t tries = 16 * count; tries > 0 && !open.empty(); --tries) {
      const std::size_t sliver = open.back();
      open.pop_back();
      if (gone_.contains(sliver) || !isSliver(triangles_[sliver])) continue;
      for (const std::size_t made : turn(sliver))
        if (isSliver(triangles_[made])) open.push_back(made);
    }
    takeOut();
    return count;
  }

 private:
  using Edge = std::pair<std::uint32_t, std::uint32_t>;
  struct EdgeHash {
    std::size_t operator()(const Edge& edge) const {
      return std::hash<std::uint64_t>()((std::uint64_t{edge.first} << 32U) | edge.second);
    }
  };

  bool isSliver(const Mesh::Triangle& triangle) const {
    const Point a = points_[triangle[0]], b = points_[triangle[1]], c = points_[triangle[2]];
    return length(cross(b - a, c - a)) == 0;
  }

  void note(std::size_t triangle) {
    for (std::size_t k = 0; k < 3; ++k) edges_[{triangles_[triangle][k], triangles_[triangle][(k + 1) % 3]}] = triangle;
  }
  void forget(std::size_t triangle) {
    for (std::size_t k = 0; k < 3; ++k) edges_.erase({triangles_[triangle][k], triangles_[triangle][(k + 1) % 3]});
  }
  void drop(std::size_t triangle) {
    forget(triangle);
    gone_.insert(triangle);
  }

  /// The triangles that are other ones now.
  std::vector<std::size_t> turn(std::size_t sliver) {
    const Mesh::Triangle flat = triangles_[sliver];
    std::size_t longest = 0;
    const auto lengthOf = [&](std::size_t k) { return length(points_[flat[(k + 1) % 3]] - points_[flat[k]]); };
    for (std::size_t k = 1; k < 3; ++k)
      if (lengthOf(k) > lengthOf(longest)) longest = k;
    const std::uint32_t p = flat[longest], q = flat[(longest + 1) % 3], r = flat[(longest + 2) % 3];
    const auto beside = edges_.find({q, p});
    if (beside == edges_.end()) {
      drop(sliver);
      return {};
    }
    const std::size_t other = beside->second;
    const Mesh::Triangle& full = triangles_[other];
    const std::uint32_t s = full[0] + full[1] + full[2] - p - q;
    if (s == r) {
      drop(sliver);
      drop(other);
      return {};
    }
    if (edges_.contains({r, s}) || edges_.contains({s, r})) return {};
    forget(sliver);
    forget(other);
    triangles_[sliver] = {r, p, s};
    triangles_[other] = {s, q, r};
    if (!paints_.empty()) paints_[sliver] = paints_[other];
    note(sliver);
    note(other);
    return {sliver, other};
  }

  void takeOut() {
    if (gone_.empty()) return;
    std::size_t kept = 0;
    for (std::size_t t = 0; t < triangles_.size(); ++t) {
      if (gone_.contains(t)) continue;
      triangles_[kept] = triangles_[t];
      if (!paints_.empty()) paints_[kept] = paints_[t];
      ++kept;
    }
    triangles_.resize(kept);
    if (!paints_.empty()) paints_.resize(kept);
  }

  const std::vector<Point>& points_;
  std::vector<Mesh::Triangle>& triangles_;
  std::vector<Paint>& paints_;
  std::unordered_map<Edge, std::size_t, EdgeHash> edges_;
  std::unordered_set<std::size_t> gone_;
};

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
    if (triangle[0] == triangle[1] || triangle[1] == triangle[2] || triangle[2] == triangle[0]) {
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
  // Joined points fold what was thinner than that.
  if (within > 0 && !removeDoubles) takeOutFlaps(triangles, extra.paints);
  result.degenerate += Slivers(points, triangles, extra.paints).remove();
  result.mesh = Mesh(std::move(points), std::move(triangles), std::move(extra));
  return result;
}

}  // namespace kervo
