// Surfaces that connect the borders of two others, smoothly if wanted.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space_curve.h"
#include "geom/topology.h"

namespace kervo {

/// How a blend meets a surface.
enum class Joint { Touch, Tangent, Curvature };

struct BlendSide {
  std::vector<Edge> edges;  ///< of the open border of one surface, one after another
  bool wholeLoop = true;    ///< and all that go on from them
  Joint joint = Joint::Tangent;
  double fullness = 1;  ///< how far it follows the surface before it turns: 1 is about a third of the way
};

struct BlendOrder {
  BlendSide from, to;
  double slide = 0;      ///< by what share of its length the other border is turned
  bool against = false;  ///< the other way round than is nearer
};

struct Blend {
  Shape surface;
  Polyline seam;  ///< where both borders begin
  /// From both ends of the seam: how far it follows the surfaces there.
  Vector fromArm, toArm;
  /// How far from what is asked, measured on the finished surface: mm, radians, and the largest difference of curvature
  /// as a share of the largest curvature there.
  struct Measured {
    double gap = 0, angle = 0, curvature = 0;
  };
  Measured atFrom, atTo;
  bool folds = false;  ///< its front turns over somewhere
};

/// Between a border of `from` and one of `to`, which may be one and the same body. Closed borders are begun at the
/// nearest places. A face for each stretch between corners of either; all named `name`:blend, fronts to the side of
/// `from`'s front. Throws Error if edges are no open border, one border is closed and the other is not, or it fails.
Blend blended(const Shape& from, const Shape& to, const BlendOrder& order, const std::string& name, Progress& progress);

}  // namespace kervo
