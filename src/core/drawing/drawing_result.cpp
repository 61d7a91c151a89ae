#include "drawing/drawing_result.h"

#include "drawing/constraint_kind.h"
#include "drawing/curve_kind.h"

namespace kervo {

std::vector<PlanarCurve> curvesOf(const Drawing& drawing, const DrawingValues& values, const Solution& solution,
                                  bool construction) {
  const DrawingIds ids(drawing);
  std::vector<PlanarCurve> result;
  for (std::size_t i = 0; i < drawing.curves.size(); ++i) {
    const DrawnCurve& curve = drawing.curves[i];
    if (curve.construction && !construction) continue;
    const CurveKind& kind = *findCurveKind(curve.kind);
    if (curve.points.empty()) {
      for (PlanarCurve& planar : kind.curves(curve.id, values.numbers.at(i))) result.push_back(std::move(planar));
      continue;
    }
    std::vector<PlanePoint> at;
    for (const std::string& id : curve.points) at.push_back(solution.points.at(ids.pointAt(id)));
    result.push_back(kind.through(curve, at, solution.sizes.at(i)));
  }
  return result;
}

DrawingResult DrawingResult::of(const Plane& plane, const Drawing& drawing, const DrawingValues& values,
                                const Solution& solution, Progress& progress) {
  const std::vector<PlanarCurve> curves = curvesOf(drawing, values, solution, false);
  DrawingResult result{plane, findRegions(plane, curves, progress), {}, {}, {}, values, solution};
  result.paths = findPaths(plane, curves, result.regions);
  const DrawingIds ids(drawing);
  for (const PlanarCurve& curve : curvesOf(drawing, values, solution, true)) {
    const SpaceCurve inSpace = curve.geometry->on(plane);
    result.lines.push_back(inSpace.outline());
    const auto index = ids.curve(curve.id.substr(0, curve.id.find('.')));
    if (std::holds_alternative<Segment>(inSpace.form()))
      result.axes.push_back(
          {curve.id, {inSpace.at(0), inSpace.tangentAt(0)}, index && drawing.curves[*index].construction});
  }
  return result;
}

}  // namespace kervo
