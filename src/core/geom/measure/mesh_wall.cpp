#include "geom/measure/mesh_wall.h"

#include <algorithm>
#include <cmath>

#include "geom/measure/crossings.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// So many places on all triangles together, besides one on each.
constexpr double placesInAll = 20'000;
/// A wall's other side looks the other way, within 45°.
constexpr double opposite = 0.7;

class WallFinder {
 public:
  WallFinder(const Mesh& mesh, double limit) : mesh_(mesh), lines_(Shape(mesh)), limit_(limit) {}

  std::optional<Wall> find(Progress& progress) {
    const double spacing = std::sqrt(mesh_.area() / placesInAll);
    for (std::size_t t = 0; t < mesh_.triangles().size(); ++t) {
      if (t % 1024 == 0) progress.throwIfStopped();
      tryOn(t, spacing);
    }
    // Around the thinnest place, more and more closely.
    constexpr int rounds = 4;
    constexpr double closer = 8;
    double finer = spacing;
    for (int round = 0; round < rounds && thinnest_; ++round) {
      progress.throwIfStopped();
      const Point around = thinnest_->from;
      const double reach = 2 * finer;
      finer /= closer;
      for (std::size_t t = 0; t < mesh_.triangles().size(); ++t) {
        Box box;
        for (std::size_t k = 0; k < 3; ++k) box.add(corner(t, k));
        if (box.enlarged(reach).contains(around)) tryOn(t, finer, around, reach);
      }
    }
    return thinnest_;
  }

 private:
  Point corner(std::size_t triangle, std::size_t which) const {
    return mesh_.points()[mesh_.triangles()[triangle][which]];
  }

  Vector normalOf(std::size_t triangle) const {
    const Vector across = cross(corner(triangle, 1) - corner(triangle, 0), corner(triangle, 2) - corner(triangle, 0));
    return length(across) > 0 ? normalized(across) : Vector();
  }

  bool meet(std::size_t a, std::size_t b) const {
    for (const std::uint32_t each : mesh_.triangles()[a])
      for (const std::uint32_t other : mesh_.triangles()[b])
        if (each == other) return true;
    return false;
  }

  /// Places on a triangle, no farther apart than that; only those near a point where one is given.
  void tryOn(std::size_t triangle, double spacing, std::optional<Point> around = {}, double reach = 0) {
    const Point a = corner(triangle, 0), b = corner(triangle, 1), c = corner(triangle, 2);
    const Vector normal = normalOf(triangle);
    if (normal == Vector()) return;
    const double longest = std::max({distance(a, b), distance(b, c), distance(c, a)});
    constexpr int most = 400;
    const int parts = std::clamp(static_cast<int>(std::ceil(longest / spacing)), 1, most);
    // The middles of the triangles of a net.
    for (int i = 0; i < parts; ++i)
      for (int k = 0; k < parts - i; ++k)
        for (const double shift : {1.0 / 3, 2.0 / 3}) {
          const double u = (i + shift) / parts, v = (k + shift) / parts;
          if (u + v >= 1) continue;
          const Point place = a + (b - a) * u + (c - a) * v;
          if (!around || distance(place, *around) <= reach) tryAt(triangle, place, normal);
        }
  }

  void tryAt(std::size_t triangle, Point place, Vector normal) {
    const double least = tolerance::samplePoint, most = thinnest_ ? thinnest_->thickness : limit_;
    for (const LineCrossing& met : lines_.along(place, -normal)) {
      if (met.at < least) continue;
      const auto other = static_cast<std::size_t>(met.triangle);
      if (met.out && met.at < most && !meet(triangle, other) && dot(normalOf(other), normal) < -opposite)
        thinnest_ = Wall{met.at, place, place - normal * met.at};
      return;
    }
  }

  const Mesh& mesh_;
  Crossings lines_;
  double limit_;
  std::optional<Wall> thinnest_;
};

}  // namespace

std::optional<Wall> thinnestWallOf(const Mesh& mesh, double limit, Progress& progress) {
  if (!mesh.watertight()) return std::nullopt;
  return WallFinder(mesh, limit).find(progress);
}

}  // namespace kervo
