// How what is drawn on a plane comes onto a face. For src/core/geom/surface only.
#pragma once

#include <Geom_Surface.hxx>
#include <array>
#include <gp_Pnt2d.hxx>
#include <memory>
#include <optional>

#include "geom/surface/inlaid.h"

namespace kervo {

/// From a plane's coordinates to the parameters of a face's surface. Keeps where it found the last place to begin from
/// there: for one thread.
class FaceChart {
 public:
  virtual ~FaceChart() = default;
  FaceChart() = default;
  FaceChart(const FaceChart&) = delete;
  FaceChart& operator=(const FaceChart&) = delete;

  /// Throws Error where there is no such place.
  virtual gp_Pnt2d at(PlanePoint point) const = 0;
};

/// Wrapped: round a cylinder or cone by unrolling it, over other faces along geodesics from the place nearest to the
/// plane's origin. Projected: along the plane's normal, where it meets the face nearest to the plane, of both
/// sides of the plane on that to which the normal looks. Throws Error for a plane that stands upright on the face.
/// `around`: least and greatest u, then v, of all places that will be asked for; geodesics there are then looked up in
/// a table that is within 1e-4 mm of them, 1e-3 mm where the face's curvature jumps.
std::unique_ptr<FaceChart> chartOf(const TopoDS_Face& face, const Plane& plane, Laying laying,
                                   const std::optional<std::array<double, 4>>& around = std::nullopt);

}  // namespace kervo
