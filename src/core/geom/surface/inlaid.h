// Drawn regions laid onto a face, as deep or as high as wanted: engraving, lettering, and what fills it.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/sweep/profile.h"
#include "geom/topology.h"

namespace kervo {

/// How a drawing comes onto a face.
enum class Laying {
  Wrapped,   ///< with true lengths: round a cylinder or cone exactly, over others along lines from its origin
  Projected  ///< along the drawing's normal
};

/// Where on the drawing's own plane its curves are before they are laid onto the face: scaled and turned about the
/// origin, then shifted.
struct DrawingPlace {
  double x = 0, y = 0;  ///< mm
  double turn = 0;      ///< radians
  double scale = 1;     ///< greater than zero
  bool plain() const { return x == 0 && y == 0 && turn == 0 && scale == 1; }
  PlanePoint operator()(PlanePoint point) const;
};

struct InlayWishes {
  Laying laying = Laying::Wrapped;
  DrawingPlace place;
  double from = 0, to = 0;  ///< above the face, along its normal, mm; from < to
  double draft = 0;         ///< radians by which walls lean inwards away from the face; flat faces only
};

/// The solids over the parts of the face that the regions cover, between two distances from it. Walls stand along the
/// face's normals; floor and top are at the same distance everywhere. Faces are named `name`:floor, `name`:top and
/// `name`:side:CURVE. Edges follow the drawing to 1e-6 mm; wrapped over other faces than cylinders and cones to 1e-4
/// mm, 1e-3 mm where the curvature of the face jumps. Throws Error for a region that reaches beyond the face, and where
/// the face is bent too tightly for that distance; Stopped on request.
std::vector<Shape> inlaid(const std::vector<Region>& regions, const Face& face, const InlayWishes& wishes,
                          const std::string& name, Progress& progress);

/// The place of the face where the drawing's origin comes to, and the directions there.
Plane inlayAnchor(const Plane& plane, const Face& face, const InlayWishes& wishes);

}  // namespace kervo
