// Which of the places where a line meets a body is meant.
#pragma once

#include <memory>

#include "geom/shape.h"

namespace kervo {

/// Which of the places count where a line along the direction meets a body: all of them, also those behind the curve;
/// or, of those ahead of it, the first or the last one. Where none is ahead, those behind it count, the nearest first.
enum class Hits { All, Near, Far };

/// Asks for single points of a body which of its hits they are.
class HitFinder {
 public:
  /// `from`: the curves that are projected; `direction`: of unit length.
  HitFinder(const Shape& from, const Shape& onto, Vector direction, Hits hits);
  ~HitFinder();
  HitFinder(const HitFinder&) = delete;
  HitFinder& operator=(const HitFinder&) = delete;

  bool counts(Point onBody) const;

 private:
  struct Inside;
  std::unique_ptr<Inside> inside_;
};

}  // namespace kervo
