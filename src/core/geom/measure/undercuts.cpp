#include "geom/measure/undercuts.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "geom/display/tessellate.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// A corner of a triangle, in the plane's coordinates.
struct Corner3 {
  Point at;
  double leans = 0;  ///< how far the half looks along its way there; above 0 it would meet the body
};
using Polygon = std::vector<Corner3>;

Corner3 between(const Corner3& a, const Corner3& b, double share) {
  return {a.at + (b.at - a.at) * share, a.leans + (b.leans - a.leans) * share};
}

/// What of a polygon has a value above something.
template <class Value>
Polygon above(const Polygon& polygon, Value&& value, double border) {
  Polygon result;
  for (std::size_t i = 0; i < polygon.size(); ++i) {
    const Corner3 &a = polygon[i], &b = polygon[(i + 1) % polygon.size()];
    const double from = value(a) - border, to = value(b) - border;
    if (from > 0) result.push_back(a);
    if ((from > 0) != (to > 0)) result.push_back(between(a, b, from / (from - to)));
  }
  return result;
}

double areaOf(const Polygon& polygon) {
  Vector sum;
  for (std::size_t i = 1; i + 1 < polygon.size(); ++i)
    sum = sum + cross(polygon[i].at - polygon[0].at, polygon[i + 1].at - polygon[0].at);
  return length(sum) / 2;
}

/// Where lines at equal distances, aslant over all three axes, cross a polygon.
void hatch(const Polygon& polygon, double apart, const Plane& plane, std::vector<Polyline>& lines) {
  const auto over = [&](const Corner3& corner) { return (corner.at.x + corner.at.y + corner.at.z) / apart; };
  double low = Box::infinity, high = -Box::infinity;
  for (const Corner3& corner : polygon) {
    low = std::min(low, over(corner));
    high = std::max(high, over(corner));
  }
  for (auto line = std::lround(std::ceil(low)); static_cast<double>(line) <= high; ++line) {
    Polyline crossing;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
      const Corner3 &a = polygon[i], &b = polygon[(i + 1) % polygon.size()];
      const double from = over(a) - static_cast<double>(line), to = over(b) - static_cast<double>(line);
      if ((from > 0) == (to > 0)) continue;
      const Point at = between(a, b, from / (from - to)).at;
      crossing.push_back(plane.at(at.x, at.y) + plane.normal * at.z);
    }
    if (crossing.size() == 2) lines.push_back(std::move(crossing));
  }
}

/// All corners on one side of the block.
bool isOutside(const Polygon& triangle, const Box& block) {
  constexpr double near = 1e-3;
  const auto on = [&](double Vector::* axis) {
    const auto at = [&](double border) {
      return std::all_of(triangle.begin(), triangle.end(), [&](const Corner3& corner) {
        return std::abs(corner.at.*axis - border) < near;
      });
    };
    return at(block.low.*axis) || at(block.high.*axis);
  };
  return on(&Vector::x) || on(&Vector::y) || on(&Vector::z);
}

}  // namespace

Undercuts undercutsOf(const Shape& half, const Plane& plane, const Box& block, bool up, double draft,
                      Progress& progress) {
  constexpr double fine = 1e-4, turn = 0.05;
  const double size = length(block.high - block.low);
  const BodyMesh mesh = half.mesh() ? meshForDisplay(*half.mesh()) : tessellate(half, {fine * size, turn}, progress);
  const Vector way = up ? plane.normal : -plane.normal;
  // What rounding of normals turns over is no undercut.
  const double noise = std::sin(5e-4), least = std::sin(draft);
  constexpr double hatches = 60;
  Undercuts found;
  const auto corner = [&](std::uint32_t v) {
    const std::size_t i = 3 * static_cast<std::size_t>(v);
    const Point at{mesh.points[i], mesh.points[i + 1], mesh.points[i + 2]};
    return Corner3{plane.coordinates(at), dot({mesh.normals[i], mesh.normals[i + 1], mesh.normals[i + 2]}, way)};
  };
  const auto leans = [](const Corner3& c) { return c.leans; };
  for (std::size_t t = 0; t + 2 < mesh.triangles.size(); t += 3) {
    const Polygon triangle{corner(mesh.triangles[t]), corner(mesh.triangles[t + 1]), corner(mesh.triangles[t + 2])};
    if (isOutside(triangle, block)) continue;
    const Polygon holding = above(triangle, leans, noise);
    const double held = areaOf(holding);
    found.area += held;
    if (held > 0) hatch(holding, size / hatches, plane, found.lines);
    if (least > 0) found.steep += std::max(0.0, areaOf(above(triangle, leans, -least + noise)) - held);
  }
  return found;
}

}  // namespace kervo
