#include "geom/surface/hit_finder.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "geom/curves/curve_chains.h"
#include "geom/display/tessellate.h"
#include "geom/surface/curve_samples.h"
#include "geom/tolerances.h"

namespace kervo {

/// Looked up on the body's triangles: the kernel takes a fifth of a second for each line through a free-form face.
struct HitFinder::Inside {
  Vector direction;
  Plane across;
  Hits hits = Hits::All;
  std::vector<Point> source;
  using Triangle = std::array<Point, 3>;  ///< in the coordinates of `across`
  std::vector<Triangle> triangles;
  double oneHit = 0;  ///< hits nearer to each other than this are one: what triangles are off the faces, mm
  /// Which triangles may be met over each cell of a grid.
  static constexpr int cells = 64;
  Box ground;
  std::vector<std::vector<std::uint32_t>> grid;

  void take(const Shape& onto) {
    const MeshQuality quality = MeshQuality::forSize(onto.roughBox().diagonal());
    Progress progress;
    const BodyMesh mesh = tessellate(onto, quality, progress);
    constexpr double timesOff = 4;
    oneHit = timesOff * quality.deflection;
    for (std::size_t i = 0; i + 2 < mesh.triangles.size(); i += 3) {
      Triangle triangle;
      for (std::size_t k = 0; k < 3; ++k) {
        const float* point = &mesh.points[std::size_t{3} * mesh.triangles[i + k]];
        triangle[k] = Point{} + across.coordinates({point[0], point[1], point[2]});
        ground.add(triangle[k]);
      }
      triangles.push_back(triangle);
    }
    grid.resize(std::size_t{cells} * cells);
    for (std::size_t i = 0; i < triangles.size(); ++i) {
      Box box;
      for (const Point& corner : triangles[i]) box.add(corner);
      const auto [left, below] = cellOf(box.low);
      const auto [right, above] = cellOf(box.high);
      for (int x = left; x <= right; ++x)
        for (int y = below; y <= above; ++y)
          grid[static_cast<std::size_t>(x) * cells + static_cast<std::size_t>(y)].push_back(
              static_cast<std::uint32_t>(i));
    }
  }

  std::pair<int, int> cellOf(Point at) const {
    const auto cell = [](double low, double high, double x) {
      return std::clamp(static_cast<int>((x - low) / std::max(high - low, tolerance::point) * cells), 0, cells - 1);
    };
    return {cell(ground.low.x, ground.high.x, at.x), cell(ground.low.y, ground.high.y, at.y)};
  }

  /// How far along the direction the body is met over a point, but for the hit that is known to be at `own`.
  std::vector<double> hitsOver(Point at, double own) const {
    std::vector<double> found;
    const auto [x, y] = cellOf(at);
    for (const std::uint32_t number : grid[static_cast<std::size_t>(x) * cells + static_cast<std::size_t>(y)]) {
      const auto& [a, b, c] = triangles[number];
      const double area = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
      if (std::abs(area) < tolerance::rounding) continue;
      const double u = ((at.x - a.x) * (c.y - a.y) - (c.x - a.x) * (at.y - a.y)) / area;
      const double v = ((b.x - a.x) * (at.y - a.y) - (at.x - a.x) * (b.y - a.y)) / area;
      constexpr double slack = 1e-9;
      if (u < -slack || v < -slack || u + v > 1 + slack) continue;
      const double z = a.z + (b.z - a.z) * u + (c.z - a.z) * v;
      // What is seen nearly along itself is farther off along the direction.
      const double steep = std::abs(area) / length(kervo::cross(b - a, c - a));
      if (std::abs(z - own) > oneHit / std::max(steep, tolerance::rounding)) found.push_back(z);
    }
    return found;
  }

  /// How far along the direction the source lies where a line along it passes.
  double sourceAt(Point at) const {
    double least = Box::infinity, along = 0;
    for (const Point& each : source) {
      const double apart = std::hypot(each.x - at.x, each.y - at.y);
      if (apart >= least) continue;
      least = apart;
      along = each.z;
    }
    return along;
  }
};

HitFinder::HitFinder(const Shape& from, const Shape& onto, Vector direction, Hits hits)
    : inside_(std::make_unique<Inside>()) {
  inside_->direction = direction;
  inside_->across = Plane::through({}, direction);
  inside_->hits = hits;
  if (hits == Hits::All) return;
  inside_->source = sampled(from, inside_->across);
  inside_->take(onto);
}

HitFinder::~HitFinder() = default;

bool HitFinder::counts(Point onBody) const {
  if (inside_->hits == Hits::All) return true;
  const Point local = Point{} + inside_->across.coordinates(onBody);
  const double start = inside_->sourceAt(local);
  double first = Box::infinity, last = -Box::infinity, behindNearest = -Box::infinity, behindFarthest = Box::infinity;
  // The hit that is asked for is known exactly.
  std::vector<double> all = inside_->hitsOver(local, local.z);
  all.push_back(local.z);
  for (const double at : all) {
    if (at >= start - tolerance::looseEdge) {
      first = std::min(first, at);
      last = std::max(last, at);
    } else {
      behindNearest = std::max(behindNearest, at);
      behindFarthest = std::min(behindFarthest, at);
    }
  }
  const bool ahead = last >= first;
  const double wanted = inside_->hits == Hits::Near ? (ahead ? first : behindNearest) : (ahead ? last : behindFarthest);
  return wanted == local.z;
}

}  // namespace kervo
