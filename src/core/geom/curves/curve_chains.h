// The curves of a curve body as chains of stretches that all run forward. For src/core/geom/curves only.
#pragma once

#include <Geom_BSplineCurve.hxx>
#include <Geom_Curve.hxx>
#include <TopoDS_Shape.hxx>
#include <vector>

#include "geom/curves/curve_body.h"

namespace kervo {

/// A stretch of a curve of the kernel, which is not a trimmed one, from one parameter to a larger one.
struct CurveStretch {
  Handle(Geom_Curve) curve;
  double from = 0, to = 0;

  Point at(double parameter) const;
  Point start() const { return at(from); }
  Point end() const { return at(to); }
  /// Of unit length.
  Vector tangentAt(double parameter) const;
  double length() const;
  CurveStretch reversed() const;
};

struct CurveChain {
  std::vector<CurveStretch> stretches;
  bool closed() const;
  CurveChain reversed() const;
};

/// Edges joined where two of them meet; where more do, chains end.
std::vector<CurveChain> chainsOf(const TopoDS_Shape& edges);
std::vector<CurveChain> chainsOf(const Shape& curve);
/// A curve body of these; neighbours share their vertices.
Shape bodyOf(const std::vector<CurveChain>& chains);

/// A straight stretch.
CurveStretch lineFrom(Point from, Point to);
/// As a spline of just that stretch.
Handle(Geom_BSplineCurve) splineOf(const CurveStretch& stretch);

/// Parameters at which the cutter meets a stretch, growing, both ends among them if it meets those.
std::vector<double> crossingsOf(const CurveStretch& stretch, const CurveCutter& cutter);

/// Places on curves nearer than this are one, mm.
inline constexpr double sameEnd = 1e-6;
/// Ends of edges nearer than this touch: where the kernel finds curves it leaves up to some 1e-5 between them.
inline constexpr double touching = 1e-4;

}  // namespace kervo
