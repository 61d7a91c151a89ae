#include "geom/surface/curve_samples.h"

#include <cmath>

#include "geom/tolerances.h"

namespace kervo {

std::vector<Point> sampled(const Shape& curves, const Plane& across) {
  constexpr int samplesPerCurve = 200;
  std::vector<Point> points;
  for (const CurveChain& chain : chainsOf(curves))
    for (const CurveStretch& stretch : chain.stretches)
      for (int i = 0; i <= samplesPerCurve; ++i) {
        const Point at = stretch.at(stretch.from + (stretch.to - stretch.from) * i / samplesPerCurve);
        points.push_back(Point{} + across.coordinates(at));
      }
  return points;
}

namespace {

/// One stretch where several go on along one and the same curve: what a seam divided.
CurveChain unified(const CurveChain& chain) {
  CurveChain result;
  for (const CurveStretch& stretch : chain.stretches) {
    if (!result.stretches.empty()) {
      CurveStretch& before = result.stretches.back();
      if (before.curve == stretch.curve && std::abs(before.to - stretch.from) < tolerance::rounding) {
        before.to = stretch.to;
        continue;
      }
    }
    result.stretches.push_back(stretch);
  }
  return result;
}

}  // namespace

Shape chained(const std::vector<CurveChain>& stretches) {
  if (stretches.empty()) return {};
  // Those that meet become one curve.
  std::vector<CurveChain> chains = chainsOf(bodyOf(stretches));
  for (CurveChain& chain : chains) chain = unified(chain);
  return bodyOf(chains);
}

}  // namespace kervo
