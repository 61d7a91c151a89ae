// All that can be wrong with a body, place by place, and what it consists of.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

struct CheckLimits {
  double edge = 0.01;       ///< edges shorter than this are told, mm
  double face = 1e-3;       ///< faces smaller than this, mm²
  double tolerance = 1e-3;  ///< edges and corners that are less exact than this, mm
};

struct BodyFinding {
  enum class Kind { FaceNotValid, OpenEdge, WrongSide, SelfCrossing, SmallEdge, SmallFace, Loose };
  Kind kind = Kind::FaceNotValid;
  std::string text;  ///< for people
  Point place;
  /// mm, mm² for faces: the length of what is small, the tolerance of what is loose, the gap from an open edge to the
  /// next one.
  double size = 0;
};

struct BodyCheck {
  int solids = 0, shells = 0, faces = 0, loops = 0, edges = 0, points = 0;
  double largestTolerance = 0;  ///< mm
  bool valid = true;            ///< no face is invalid, nothing crosses, no side is wrong
  bool closed = true;           ///< no edge is open
  std::vector<BodyFinding> findings;
};

/// Counts edges and points once, wherever they are used; without poles. Throws Stopped on request.
BodyCheck checkBody(const Shape& shape, const CheckLimits& limits, Progress& progress);

}  // namespace kervo
