#include "geom/measure/undercuts.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>

#include "geom/display/tessellate.h"
#include "geom/measure/crossings.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// A corner of a triangle, in the plane's coordinates.
struct Corner3 {
  Point at;
  double leans = 0;  ///< how far the body looks along the plane's normal there
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

/// A body's mesh in the coordinates of a plane, with how far each corner looks along its normal.
class Leaning {
 public:
  Leaning(const Shape& body, const Plane& plane, Progress& progress) {
    constexpr double fine = 1e-4, turn = 0.05;
    mesh_ = body.mesh() ? meshForDisplay(*body.mesh())
                        : tessellate(body, {fine * body.roughBox().diagonal(), turn}, progress);
    for (std::size_t i = 0; i + 2 < mesh_.points.size(); i += 3) {
      const Point at{mesh_.points[i], mesh_.points[i + 1], mesh_.points[i + 2]};
      const Vector normal{mesh_.normals[i], mesh_.normals[i + 1], mesh_.normals[i + 2]};
      corners_.push_back({plane.coordinates(at), dot(normal, plane.normal)});
    }
  }

  std::size_t count() const { return mesh_.triangleCount(); }
  Polygon triangle(std::size_t i) const {
    return {corners_[mesh_.triangles[3 * i]], corners_[mesh_.triangles[3 * i + 1]],
            corners_[mesh_.triangles[3 * i + 2]]};
  }

 private:
  BodyMesh mesh_;
  std::vector<Corner3> corners_;
};

/// What rounding of normals turns over is no undercut.
const double noise = std::sin(5e-4);

class Search {
 public:
  Search(const Plane& plane, const HalvesMeet& meet, double draft) : plane_(plane), meet_(meet), draft_(draft) {
    if (!meet.level) back_ = std::make_unique<const Crossings>(meet.back);
  }

  UndercutsOfHalves found;

  void add(const Shape& body, Progress& progress) {
    const Leaning leaning(body, plane_, progress);
    constexpr double hatches = 60;
    apart_ = body.roughBox().diagonal() / hatches;
    for (std::size_t i = 0; i < leaning.count(); ++i) {
      progress.throwIfStopped();
      const Polygon triangle = leaning.triangle(i);
      if (meet_.level) {
        const double level = *meet_.level;
        note(above(
                 triangle, [](const Corner3& c) { return c.at.z; }, level),
             true);
        note(above(
                 triangle, [](const Corner3& c) { return -c.at.z; }, -level),
             false);
      } else {
        sort(triangle, deepest);
      }
    }
  }

 private:
  static constexpr int deepest = 4;

  /// By where its corners lie: as long as they do not agree by its quarters.
  void sort(const Polygon& triangle, int divide) {
    const Vector across = cross(triangle[1].at - triangle[0].at, triangle[2].at - triangle[0].at);
    if (length(across) == 0) return;
    const auto inBack = [&](const Polygon& part) {
      Corner3 middle;
      for (const Corner3& corner : part) middle = {middle.at + (corner.at - Point()) * (1.0 / 3), 0};
      return isInBack(middle.at + normalized(across) * off);
    };
    const Corner3 ab = between(triangle[0], triangle[1], 0.5), bc = between(triangle[1], triangle[2], 0.5),
                  ca = between(triangle[2], triangle[0], 0.5);
    const std::array<Polygon, 4> quarters{Polygon{triangle[0], ab, ca}, Polygon{ab, triangle[1], bc},
                                          Polygon{ca, bc, triangle[2]}, Polygon{ab, bc, ca}};
    std::array<bool, 4> sides{};
    std::transform(quarters.begin(), quarters.end(), sides.begin(), inBack);
    const bool agree = std::equal(sides.begin() + 1, sides.end(), sides.begin());
    if (agree || divide == 0) {
      for (std::size_t i = 0; i < quarters.size(); ++i) note(quarters[i], !sides[i]);
    } else {
      for (const Polygon& quarter : quarters) sort(quarter, divide - 1);
    }
  }

  bool isInBack(Point at) const {
    const Point point = plane_.at(at.x, at.y, at.z);
    for (const LineCrossing& each : back_->along(point, plane_.normal))
      if (each.at > 0) return each.out;
    return false;
  }

  void note(const Polygon& part, bool front) {
    if (part.size() < 3) return;
    Undercuts& half = front ? found.front : found.back;
    const double way = front ? 1 : -1;
    const Polygon holding = above(
        part, [&](const Corner3& c) { return -way * c.leans; }, noise);
    const double held = areaOf(holding);
    half.area += held;
    if (held > 0) hatch(holding, apart_, plane_, half.lines);
    if (draft_ <= 0) return;
    const Polygon little = above(
        part, [&](const Corner3& c) { return -way * c.leans; }, -std::sin(draft_) + noise);
    half.steep += std::max(0.0, areaOf(little) - held);
  }

  static constexpr double off = 0.005;  ///< mm off the body, where the halves are
  Plane plane_;
  HalvesMeet meet_;
  double draft_;
  std::unique_ptr<const Crossings> back_;  ///< unless they meet at a level
  double apart_ = 1;
};

}  // namespace

UndercutsOfHalves undercutsOf(const std::vector<Shape>& bodies, const Plane& plane, const HalvesMeet& meet,
                              double draft, Progress& progress) {
  Search search(plane, meet, draft);
  for (const Shape& body : bodies) search.add(body, progress);
  return std::move(search.found);
}

Facing facingOf(const std::vector<Shape>& surfaces, const Plane& plane, const Box& within, Progress& progress) {
  Facing facing;
  for (const Shape& surface : surfaces) {
    const Leaning leaning(surface, plane, progress);
    for (std::size_t i = 0; i < leaning.count(); ++i) {
      const Polygon triangle = leaning.triangle(i);
      Point middle;
      for (const Corner3& corner : triangle) middle = middle + (corner.at - Point()) * (1.0 / 3);
      if (!within.contains(middle)) continue;
      facing.along += areaOf(above(
          triangle, [](const Corner3& c) { return c.leans; }, noise));
      facing.against += areaOf(above(
          triangle, [](const Corner3& c) { return -c.leans; }, noise));
    }
  }
  return facing;
}

}  // namespace kervo
