#include "drawing/loose_ends.h"

#include <algorithm>
#include <map>

#include "base/error.h"
#include "drawing/constraint_kind.h"
#include "drawing/crossings.h"
#include "drawing/curve_kind.h"
#include "drawing/drawing_result.h"

namespace kervo {

namespace {

/// The ids of the points at which a curve ends; none for a closed one.
std::vector<std::string> endsOf(const DrawnCurve& curve) {
  if (curve.closed || curve.points.size() < 2) return {};
  if (curve.kind == "line" || curve.kind == "spline" || curve.kind == "control_spline")
    return {curve.points.front(), curve.points.back()};
  if (curve.kind == "arc" || curve.kind == "elliptical_arc")
    return {curve.points[curve.points.size() - 2], curve.points.back()};
  return {};
}

bool near(const PlaneBox& box, PlanePoint at) {
  constexpr double slack = 1e-6;
  return at.u > box.low.u - slack && at.u < box.high.u + slack && at.v > box.low.v - slack && at.v < box.high.v + slack;
}

}  // namespace

std::vector<LooseEnd> looseEnds(const Drawing& drawing, const DrawingValues& values, const Solution& solution) {
  std::vector<PlanarCurve> curves;
  try {
    curves = curvesOf(drawing, values, solution, false);
  } catch (const Error&) {
    return {};  // a curve is none at present, which the step says
  }
  struct End {
    std::string point, curve;
    PlanePoint at;
  };
  const DrawingIds ids(drawing);
  std::vector<End> ends;
  for (const DrawnCurve& curve : drawing.curves)
    if (!curve.construction)
      for (const std::string& id : endsOf(curve)) ends.push_back({id, curve.id, solution.points.at(ids.pointAt(id))});
  // By place: neighbours stand near one another.
  std::sort(ends.begin(), ends.end(), [](const End& a, const End& b) { return a.at.u < b.at.u; });
  const auto meets = [&](std::size_t i) {
    for (std::size_t j = i + 1; j < ends.size() && ends[j].at.u - ends[i].at.u < 2e-7; ++j)
      if (distance(ends[j].at, ends[i].at) < 2e-7) return true;
    for (std::size_t j = i; j > 0 && ends[i].at.u - ends[j - 1].at.u < 2e-7; --j)
      if (distance(ends[j - 1].at, ends[i].at) < 2e-7) return true;
    return std::any_of(curves.begin(), curves.end(), [&](const PlanarCurve& curve) {
      if (curve.id == ends[i].curve || !near(curve.geometry->box(), ends[i].at)) return false;
      return distance(curve.geometry->at(nearestOn(*curve.geometry, ends[i].at)), ends[i].at) < 2e-7;
    });
  };
  std::vector<End> loose;
  for (std::size_t i = 0; i < ends.size(); ++i)
    if (!meets(i)) loose.push_back(ends[i]);
  std::vector<LooseEnd> result;
  std::vector<bool> named(loose.size(), false);
  for (std::size_t i = 0; i < loose.size(); ++i) {
    if (named[i]) continue;
    LooseEnd end{loose[i].point};
    std::size_t partner = i;
    for (std::size_t j = i + 1; j < loose.size() && loose[j].at.u - loose[i].at.u <= gapLimit; ++j) {
      const double apart = distance(loose[i].at, loose[j].at);
      if (named[j] || apart > gapLimit || (!end.other.empty() && apart >= end.gap)) continue;
      end.other = loose[j].point;
      end.gap = apart;
      partner = j;
    }
    named[partner] = true;
    result.push_back(end);
  }
  std::stable_sort(result.begin(), result.end(), [](const LooseEnd& a, const LooseEnd& b) {
    if (a.other.empty() != b.other.empty()) return !a.other.empty();
    return a.gap < b.gap;
  });
  return result;
}

std::vector<std::string> selfCrossing(const Drawing& drawing, const DrawingValues& values, const Solution& solution) {
  std::vector<std::string> found;
  try {
    for (const PlanarCurve& curve : curvesOf(drawing, values, solution, false))
      if (drawing.curve(curve.id) && !selfCrossings(*curve.geometry).empty()) found.push_back(curve.id);
  } catch (const Error&) {
    return {};  // a curve is none at present, which the step says
  }
  return found;
}

}  // namespace kervo
