// What can be seen of surfaces beside their shape: how they bend, lean and how thick the body is behind them; and the
// nets of splines.
#pragma once

#include <vector>

#include "geom/display/tessellate.h"
#include "geom/space_curve.h"

namespace kervo {

/// At every vertex of a shape's mesh, in its order, the larger one of the two principal curvatures, 1/mm: above zero
/// where the body bulges outwards, below where it is hollow. NaN at poles. Exact on each face's surface. `mesh`: as
/// tessellate() made it of this shape.
std::vector<float> curvaturesOn(const Shape& shape, const BodyMesh& mesh);

/// … how far the face looks along a direction, in degrees: 90 for faces that look along it, 0 for walls, −90 for faces
/// that look against it.
std::vector<float> draftOn(const BodyMesh& mesh, Vector along);

/// … how thick the body is straight behind, mm, by its triangles; NaN for bodies that are not closed.
std::vector<float> thicknessOn(const BodyMesh& mesh);

/// The nets of control points of free-form faces, and of curves that are splines, as lines.
std::vector<Polyline> controlNetOf(const Shape& shape);

/// Values in bands, for a scale with few borders.
struct ValueScale {
  double low = 0, high = 0;  ///< the least and the largest value there is
  std::vector<double> borders;

  bool empty() const { return borders.empty(); }
  /// Where a value stands: 0 at `low`, 1 at the first border, and so on to the number of borders + 1 at `high`. −1 for
  /// NaN.
  float place(double value) const;
};

/// For sizes: borders at 1, 2, 5, 10 … mm, at most six, the smallest that there are. Empty if there is no value.
ValueScale sizeScale(const std::vector<float>& values);
/// … for curvatures: bands of radii of such sizes, of which the values are the sizes of curvature.
ValueScale radiusScale(const std::vector<float>& curvatures);
/// … for angles: at −5, −3, −1, 1, 3 and 5°.
ValueScale draftScale(const std::vector<float>& angles);

}  // namespace kervo
