// Mesh: a body of triangles instead of exact faces, as an immutable value.
#pragma once

#include <array>
#include <atomic>
#include <cstdint>
#include <memory>
#include <vector>

#include "geom/color.h"
#include "geom/space.h"

namespace kervo {

/// Triangles that share points, in mm. Cheap to copy: copies share the same content. Safe to read from any thread.
class Mesh {
 public:
  using Triangle = std::array<std::uint32_t, 3>;

  /// What it may know besides its triangles.
  struct Extra {
    std::vector<Paint> paints = {};  ///< a colour for each triangle; empty: none has one
    double tolerance = 0;            ///< mm by which it may be off what it was made from; 0: it was made from nothing
  };

  Mesh() = default;
  /// Three points a triangle, counter-clockwise from outside. @throws std::out_of_range for a point that is not there,
  /// std::invalid_argument for another number of paints than triangles.
  Mesh(std::vector<Point> points, std::vector<Triangle> triangles)
      : Mesh(std::move(points), std::move(triangles), {}) {}
  Mesh(std::vector<Point> points, std::vector<Triangle> triangles, Extra extra);

  /// No triangles.
  bool empty() const { return !content_; }
  const std::vector<Point>& points() const;
  const std::vector<Triangle>& triangles() const;
  const std::vector<Paint>& paints() const;
  double tolerance() const { return content_ ? content_->extra.tolerance : 0; }
  Extra extra() const { return content_ ? content_->extra : Extra(); }
  /// What it encloses, in mm³; 0 unless every edge joins exactly two triangles, in opposite directions.
  double volume() const { return content_ ? content_->volume : 0; }
  double area() const { return content_ ? content_->area : 0; }  ///< mm²
  Box box() const { return content_ ? content_->box : Box(); }
  bool watertight() const { return content_ && content_->openEdges == 0; }
  /// Edges that do not join exactly two triangles in opposite directions.
  std::size_t openEdges() const { return content_ ? content_->openEdges : 0; }

  /// The middle of one of those edges; there has to be one.
  Point openPlace() const;

  /// The same triangles with something else known about them.
  Mesh with(Extra extra) const;

  /// Whether it was found before that no two of its triangles run through each other, and to note that it was.
  bool knownSound() const { return content_ && content_->sound; }
  void noteSound() const {
    if (content_) content_->sound = true;
  }

  /// The same for copies of one mesh, different for others.
  const void* identity() const { return content_.get(); }

 private:
  struct Content {
    std::vector<Point> points;
    std::vector<Triangle> triangles;
    Extra extra;
    double volume = 0, area = 0;
    Box box;
    std::size_t openEdges = 0;
    mutable std::atomic<bool> sound = false;

    Content() = default;
    Content(const Content& other)
        : points(other.points),
          triangles(other.triangles),
          extra(other.extra),
          volume(other.volume),
          area(other.area),
          box(other.box),
          openEdges(other.openEdges),
          sound(other.sound.load()) {}
  };
  std::shared_ptr<const Content> content_;
};

/// Sorts points that are the same into one, as they are read from files that write each triangle's corners out.
class Welder {
 public:
  /// The number of a point; that of an earlier one in the very same place.
  std::uint32_t numberOf(const Point& point);
  std::vector<Point> take() { return std::move(points_); }
  void expect(std::size_t points);

 private:
  std::vector<Point> points_;
  std::vector<std::uint32_t> slots_;  ///< open addressing: number + 1; 0 for none
  void grow();
};

}  // namespace kervo
