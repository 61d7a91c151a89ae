#include "drawing/drawing_result.h"

namespace kervo {

DrawingResult DrawingResult::of(const Plane& plane, const std::vector<PlanarCurve>& curves, Progress& progress) {
  DrawingResult result{plane, findRegions(plane, curves, progress), {}, {}};
  result.paths = findPaths(plane, curves, result.regions);
  for (const PlanarCurve& curve : curves) result.lines.push_back(curve.geometry->on(plane).outline());
  return result;
}

}  // namespace kervo
