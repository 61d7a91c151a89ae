// Mesh: a body of triangles instead of exact faces, as an immutable value.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <vector>

#include "geom/space.h"

namespace kervo {

/// Triangles that share points, in mm. Cheap to copy: copies share the same content. Safe to read from any thread.
class Mesh {
 public:
  using Triangle = std::array<std::uint32_t, 3>;

  Mesh() = default;
  /// Three points a triangle, counter-clockwise from outside. @throws std::out_of_range for a point that is not there.
  Mesh(std::vector<Point> points, std::vector<Triangle> triangles);

  bool empty() const { return !content_; }
  const std::vector<Point>& points() const { return content_->points; }
  const std::vector<Triangle>& triangles() const { return content_->triangles; }
  /// What it encloses, in mm³; 0 unless every edge joins exactly two triangles, in opposite directions.
  double volume() const { return content_ ? content_->volume : 0; }
  double area() const { return content_ ? content_->area : 0; }  ///< mm²
  Box box() const { return content_ ? content_->box : Box(); }
  bool watertight() const { return content_ && content_->watertight; }

  /// The same for copies of one mesh, different for others.
  const void* identity() const { return content_.get(); }

 private:
  struct Content {
    std::vector<Point> points;
    std::vector<Triangle> triangles;
    double volume = 0, area = 0;
    Box box;
    bool watertight = false;
  };
  std::shared_ptr<const Content> content_;
};

}  // namespace kervo
