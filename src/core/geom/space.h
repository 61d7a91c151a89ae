// Points, vectors, planes and boxes in space; lengths in millimetres.
#pragma once

#include <algorithm>
#include <cmath>
#include <limits>

namespace kervo {

/// A vector or a point: (x, y, z) in mm.
struct Vector {
  double x = 0;
  double y = 0;
  double z = 0;
  bool operator==(const Vector&) const = default;
};
using Point = Vector;

inline Vector operator+(Vector a, Vector b) {
  return {a.x + b.x, a.y + b.y, a.z + b.z};
}
inline Vector operator-(Vector a, Vector b) {
  return {a.x - b.x, a.y - b.y, a.z - b.z};
}
inline Vector operator-(Vector a) {
  return {-a.x, -a.y, -a.z};
}
inline Vector operator*(Vector a, double s) {
  return {a.x * s, a.y * s, a.z * s};
}
inline Vector operator*(double s, Vector a) {
  return a * s;
}
inline double dot(Vector a, Vector b) {
  return a.x * b.x + a.y * b.y + a.z * b.z;
}
inline Vector cross(Vector a, Vector b) {
  return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
inline double length(Vector a) {
  return std::sqrt(dot(a, a));
}
inline double distance(Point a, Point b) {
  return length(a - b);
}
/// a / |a|. `a` must not be zero.
inline Vector normalized(Vector a) {
  return a * (1 / length(a));
}

/// The plane through `origin` with unit axes `x`, `y` and unit `normal` = x × y.
struct Plane {
  Point origin;
  Vector x{1, 0, 0};
  Vector y{0, 1, 0};
  Vector normal{0, 0, 1};

  /// The plane through `origin` with this normal (not zero, any length); x is chosen level (in the xy plane) if the
  /// normal is not vertical, otherwise along the x axis.
  static Plane through(Point origin, Vector normal) {
    const Vector n = normalized(normal);
    const Vector level = cross({0, 0, 1}, n);
    const Vector x = length(level) > 1e-9 ? normalized(level) : Vector{1, 0, 0};
    return {origin, x, cross(n, x), n};
  }

  Point at(double u, double v, double w = 0) const { return origin + x * u + y * v + normal * w; }
  /// (u, v, w) of a point: along x, along y, and its signed distance n·(p − origin).
  Vector coordinates(Point p) const { return {dot(p - origin, x), dot(p - origin, y), dot(p - origin, normal)}; }
  double signedDistance(Point p) const { return dot(p - origin, normal); }
  Plane moved(double distance) const { return {origin + normal * distance, x, y, normal}; }
  bool operator==(const Plane&) const = default;
};

/// A point in a plane's own coordinates, mm.
struct PlanePoint {
  double u = 0;
  double v = 0;
  bool operator==(const PlanePoint&) const = default;
};

/// A line in space, with a direction of unit length.
struct Axis {
  Point point;
  Vector direction;
  bool operator==(const Axis&) const = default;
};

/// An axis-parallel box; empty while low > high.
struct Box {
  static constexpr double infinity = std::numeric_limits<double>::infinity();
  Point low{infinity, infinity, infinity};
  Point high{-infinity, -infinity, -infinity};

  bool empty() const { return low.x > high.x; }
  void add(Point p) {
    low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)};
    high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
  }
  void add(const Box& other) {
    if (other.empty()) return;
    add(other.low);
    add(other.high);
  }
  Box enlarged(double by) const {
    if (empty()) return *this;
    return {low - Vector{by, by, by}, high + Vector{by, by, by}};
  }
  bool contains(Point p) const {
    return p.x >= low.x && p.y >= low.y && p.z >= low.z && p.x <= high.x && p.y <= high.y && p.z <= high.z;
  }
  bool overlaps(const Box& o) const {
    return low.x <= o.high.x && low.y <= o.high.y && low.z <= o.high.z && o.low.x <= high.x && o.low.y <= high.y &&
           o.low.z <= high.z;
  }
  Point centre() const { return (low + high) * 0.5; }
  double diagonal() const { return empty() ? 0 : distance(low, high); }
  /// Its eight corners, for `index` 0…7.
  Point corner(int index) const {
    return {index & 1 ? high.x : low.x, index & 2 ? high.y : low.y, index & 4 ? high.z : low.z};
  }
  bool operator==(const Box&) const = default;
};

}  // namespace kervo
