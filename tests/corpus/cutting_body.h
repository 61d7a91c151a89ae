// Cutters of the corpus: a plane, slab, box, cylinder, ball, cone or ring, both as an exact body and as a formula that
// needs no kernel.
#pragma once

#include <random>
#include <string>
#include <utility>
#include <vector>

#include "geom/shape.h"
#include "geom/space.h"

namespace kervo::corpus {

/// From where to where along a ray, in mm.
using Interval = std::pair<double, double>;

enum class CutterKind { HalfSpace, Slab, Box, Cylinder, Ball, Cone, Ring };
const char* nameOf(CutterKind kind);

class CuttingBody {
 public:
  /// A cutter of a size that fits the box, somewhere in or just beside it; the same for the same state of `random`.
  CuttingBody(CutterKind kind, const kervo::Box& part, std::mt19937& random);

  CutterKind kind() const { return kind_; }
  const Plane& place() const { return place_; }
  /// Half-spaces and slabs are as long and wide as they need be to divide all of `part`.
  Shape body(const kervo::Box& part) const;
  /// The parts of the ray from + t · direction (a unit vector) that lie inside, in order.
  std::vector<Interval> along(Point from, Vector direction) const;
  std::string text() const;

 private:
  CutterKind kind_;
  Plane place_;
  double a_ = 0, b_ = 0, c_ = 0;  // what they are depends on the kind
};

}  // namespace kervo::corpus
