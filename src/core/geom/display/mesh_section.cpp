#include "geom/display/mesh_section.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <optional>
#include <unordered_map>

#include "geom/mesh/planar_triangles.h"
#include "geom/planes.h"

namespace kervo {

namespace {

struct PointHash {
  std::size_t operator()(const Point& p) const {
    std::uint64_t hash = 0;
    for (const double part : {p.x, p.y, p.z})
      hash = (hash ^ std::bit_cast<std::uint64_t>(part)) * 0x9e3779b97f4a7c15ULL + (hash >> 31);
    return static_cast<std::size_t>(hash);
  }
};

bool before(const Point& a, const Point& b) {
  if (a.x != b.x) return a.x < b.x;
  return a.y != b.y ? a.y < b.y : a.z < b.z;
}

/// The same for both triangles at an edge, bit for bit, so that their segments join.
Point crossing(Point a, double heightA, Point b, double heightB) {
  if (before(b, a)) {
    std::swap(a, b);
    std::swap(heightA, heightB);
  }
  return a + (b - a) * (heightA / (heightA - heightB));
}

class Cutting {
 public:
  Cutting(const BodyMesh& mesh, const Plane& plane) : mesh_(mesh), plane_(plane) {}

  MeshSection run() {
    if (mesh_.box.empty()) return {};
    const Span span = spanAbove(plane_, mesh_.box);
    if (span.low > 0 || span.high < 0) return {};
    cutTriangles();
    joinSegments();
    return std::move(result_);
  }

 private:
  void cutTriangles() {
    const std::size_t count = mesh_.points.size() / 3;
    std::vector<double> heights(count);
    for (std::size_t i = 0; i < count; ++i) heights[i] = plane_.signedDistance(vertex(i));
    for (std::size_t t = 0; t + 2 < mesh_.triangles.size(); t += 3) {
      const std::array<std::size_t, 3> corner{mesh_.triangles[t], mesh_.triangles[t + 1], mesh_.triangles[t + 2]};
      const std::array<bool, 3> above{heights[corner[0]] >= 0, heights[corner[1]] >= 0, heights[corner[2]] >= 0};
      if (above[0] == above[1] && above[1] == above[2]) continue;
      // The corner that is alone on its side, and the two others in their order.
      const std::size_t alone = above[1] == above[2] ? 0 : above[0] == above[2] ? 1 : 2;
      const auto crossed = [&](std::size_t other) {
        const std::size_t a = corner[alone], b = corner[(alone + other) % 3];
        return crossing(vertex(a), heights[a], vertex(b), heights[b]);
      };
      Point from = crossed(1), to = crossed(2);
      // Material to the left, seen against the normal.
      if (!above[alone]) std::swap(from, to);
      if (!(from == to)) segments_.push_back({numberOf(from), numberOf(to)});
    }
  }

  Point vertex(std::size_t i) const { return {mesh_.points[3 * i], mesh_.points[3 * i + 1], mesh_.points[3 * i + 2]}; }

  std::uint32_t numberOf(const Point& point) {
    const auto [found, isNew] = numbers_.try_emplace(point, static_cast<std::uint32_t>(points_.size()));
    if (isNew) {
      const Vector local = plane_.coordinates(point);
      points_.push_back({local.x, local.y});
    }
    return found->second;
  }

  void joinSegments() {
    // Of several segments that begin at a point any may come next: what they bound is the same by odd and even.
    std::vector<std::uint32_t> first(points_.size(), none), next(segments_.size(), none);
    std::vector<int> starts(points_.size(), 0);  // more segments that begin than end there
    for (std::uint32_t i = 0; i < segments_.size(); ++i) {
      next[i] = first[segments_[i].from];
      first[segments_[i].from] = i;
      ++starts[segments_[i].from];
      --starts[segments_[i].to];
    }
    const auto follow = [&](std::uint32_t start) {
      std::vector<PlanePoint> line{points_[start]};
      for (std::uint32_t at = start; first[at] != none;) {
        const std::uint32_t segment = first[at];
        first[at] = next[segment];
        at = segments_[segment].to;
        if (at == start) {
          result_.loops.push_back(std::move(line));
          return;
        }
        line.push_back(points_[at]);
      }
      if (line.size() > 1) result_.open.push_back(std::move(line));
    };
    for (std::uint32_t point = 0; point < points_.size(); ++point)
      for (int line = 0; line < starts[point] && first[point] != none; ++line) follow(point);
    for (std::uint32_t point = 0; point < points_.size(); ++point)
      while (first[point] != none) follow(point);
  }

  static constexpr std::uint32_t none = ~0U;
  struct Segment {
    std::uint32_t from, to;
  };
  const BodyMesh& mesh_;
  const Plane& plane_;
  std::vector<Segment> segments_;
  std::vector<PlanePoint> points_;
  std::unordered_map<Point, std::uint32_t, PointHash> numbers_;
  MeshSection result_;
};

using Loops = std::vector<std::vector<PlanePoint>>;

template <class Call>
void forEachSide(const Loops& loops, Call&& call) {
  for (const auto& loop : loops)
    for (std::size_t i = 0; i < loop.size(); ++i) call(loop[i], loop[(i + 1) % loop.size()]);
}

/// Between heights of points: a side of a loop, and which of the loops' owners it is of.
struct Side {
  PlanePoint low, high;
  int owner;
  double at(double v) const { return low.u + (high.u - low.u) * (v - low.v) / (high.v - low.v); }
};

/// Goes through loops in strips from one height of a point to the next. Triangles of the stretches, wider than `least`
/// somewhere, that are inside of every owner's loops by odd and even.
std::vector<PlanePoint> inStrips(std::vector<Side> sides, int owners, double least) {
  std::vector<double> heights;
  for (const Side& side : sides) heights.insert(heights.end(), {side.low.v, side.high.v});
  std::sort(heights.begin(), heights.end());
  heights.erase(std::unique(heights.begin(), heights.end()), heights.end());
  std::sort(sides.begin(), sides.end(), [](const Side& a, const Side& b) { return a.low.v < b.low.v; });
  std::vector<PlanePoint> triangles;
  std::vector<const Side*> active;
  std::size_t next = 0;
  for (std::size_t i = 0; i + 1 < heights.size(); ++i) {
    const double low = heights[i], high = heights[i + 1], middle = (low + high) / 2;
    while (next < sides.size() && sides[next].low.v <= low) active.push_back(&sides[next++]);
    std::erase_if(active, [&](const Side* side) { return side->high.v <= low; });
    std::sort(active.begin(), active.end(),
              [&](const Side* a, const Side* b) { return a->at(middle) < b->at(middle); });
    int inside = 0;  // of which owners, as bits
    for (std::size_t k = 0; k + 1 < active.size(); ++k) {
      inside ^= 1 << active[k]->owner;
      if (inside != (1 << owners) - 1 || high - low < least) continue;
      const PlanePoint a{active[k]->at(low), low}, b{active[k + 1]->at(low), low}, c{active[k + 1]->at(high), high},
          d{active[k]->at(high), high};
      if (b.u - a.u < least && c.u - d.u < least) continue;
      for (const PlanePoint& corner : {a, b, c, a, c, d}) triangles.push_back(corner);
    }
  }
  return triangles;
}

void addSides(std::vector<Side>& sides, const Loops& loops, int owner) {
  forEachSide(loops, [&](PlanePoint a, PlanePoint b) {
    if (a.v != b.v) sides.push_back(a.v < b.v ? Side{a, b, owner} : Side{b, a, owner});
  });
}

/// Narrower than this, what two outlines share is where they touch, mm.
constexpr double sliver = 1e-3;

}  // namespace

double MeshSection::area() const {
  double twice = 0;
  forEachSide(loops, [&](PlanePoint a, PlanePoint b) { twice += cross(a, b); });
  return twice / 2;
}

bool MeshSection::holds(PlanePoint point) const {
  bool inside = false;
  forEachSide(loops, [&](PlanePoint a, PlanePoint b) {
    if ((a.v > point.v) != (b.v > point.v) && point.u < a.u + (b.u - a.u) * (point.v - a.v) / (b.v - a.v))
      inside = !inside;
  });
  return inside;
}

std::vector<std::pair<double, double>> MeshSection::stretches(PlanePoint on, PlanePoint along) const {
  std::vector<double> meets;
  forEachSide(loops, [&](PlanePoint a, PlanePoint b) {
    const double left = cross(along, a - on), right = cross(along, b - on);
    if ((left >= 0) != (right >= 0)) meets.push_back(dot(along, a + (b - a) * (left / (left - right)) - on));
  });
  std::sort(meets.begin(), meets.end());
  std::vector<std::pair<double, double>> result;
  for (std::size_t i = 0; i + 1 < meets.size(); i += 2) result.emplace_back(meets[i], meets[i + 1]);
  return result;
}

MeshSection sectionOf(const BodyMesh& mesh, const Plane& plane) {
  return Cutting(mesh, plane).run();
}

std::vector<PlanePoint> filled(const Loops& loops) {
  // Points that several loops share are one.
  std::unordered_map<Point, int, PointHash> numbers;
  std::vector<PlanePoint> points;
  std::vector<std::vector<int>> lines;
  for (const auto& loop : loops) {
    if (loop.size() < 3) continue;
    std::vector<int>& line = lines.emplace_back();
    for (const PlanePoint& point : loop) {
      const auto [found, isNew] = numbers.try_emplace(Point{point.u, point.v, 0}, static_cast<int>(points.size()));
      if (isNew) points.push_back(point);
      if (line.empty() || line.back() != found->second) line.push_back(found->second);
    }
    if (line.front() != line.back()) line.push_back(line.front());
    if (line.size() < 4) lines.pop_back();
  }
  if (lines.empty()) return {};
  const std::optional<std::vector<Triangle>> triangles = planarTriangles(points, lines);
  if (!triangles) {
    // Loops that cross, as of meshes that cross themselves.
    std::vector<Side> sides;
    addSides(sides, loops, 0);
    return inStrips(std::move(sides), 1, 0);
  }
  std::vector<PlanePoint> result;
  result.reserve(3 * triangles->size());
  for (const Triangle& triangle : *triangles)
    for (const int corner : triangle) result.push_back(points[static_cast<std::size_t>(corner)]);
  return result;
}

std::vector<PlanePoint> overlapOf(const MeshSection& one, const MeshSection& other) {
  std::vector<Side> sides;
  addSides(sides, one.loops, 0);
  addSides(sides, other.loops, 1);
  return inStrips(std::move(sides), 2, sliver);
}

}  // namespace kervo
