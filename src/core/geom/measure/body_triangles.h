// The triangles of a body, asked for distances and for what a line meets first: fast, and as exact as they are.
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space.h"

namespace kervo {

/// A corner-wise triangle, counter-clockwise from outside, with the number of its face in facesOf(); 0 of a mesh.
struct BodyTriangle {
  Point a, b, c;
  int face = 0;

  Vector across() const { return cross(b - a, c - a); }  ///< twice its area long
  Point middle() const { return (a + b + c) * (1.0 / 3); }
};

double distanceTo(const BodyTriangle& triangle, Point point);
double distanceToSegment(Point from, Point to, Point point);

class BodyTriangles {
 public:
  /// Of an exact shape within `deflection` mm; of a mesh as they are.
  BodyTriangles(const Shape& body, double deflection, Progress& progress);

  const std::vector<BodyTriangle>& all() const { return triangles_; }
  /// Whether none of those that count comes nearer to a point than that.
  template <class Counts>
  bool keepClear(Point point, double distance, Counts&& counts) const {
    for (std::size_t i = 0; i < triangles_.size(); ++i)
      if (isNear(i, point, distance) && counts(triangles_[i]) && distanceTo(triangles_[i], point) < distance)
        return false;
    return true;
  }

  /// Where a line enters the body, at least `from` mm along `way` (of unit length).
  struct Entry {
    double at = 0;
    std::size_t triangle = 0;
  };
  std::optional<Entry> firstEntry(Point point, Vector way, double from) const;

 private:
  bool isNear(std::size_t triangle, Point point, double distance) const;

  std::vector<BodyTriangle> triangles_;
  std::vector<Box> boxes_;
};

/// Where a line meets a triangle, mm along `way`.
std::optional<double> meetingOf(const BodyTriangle& triangle, Point point, Vector way);

}  // namespace kervo
