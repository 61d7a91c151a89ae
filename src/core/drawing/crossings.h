// Where two curves of a drawing meet: crossing, touching, or lying on one another.
#pragma once

#include <vector>

#include "drawing/plane_curve.h"

namespace kervo {

/// A place that two curves share.
struct Crossing {
  PlanePoint at;
  double onA = 0, onB = 0;  ///< its parameters, 0 to 1
};

/// All places that two different curves share, to 1e-9 mm: crossings and touches; of stretches that they share, the
/// ends. In the order in which they lie on `a`.
std::vector<Crossing> crossings(const PlaneCurve& a, const PlaneCurve& b);

/// Where a curve crosses or touches itself, with its smaller and its larger parameter there. Only splines can.
std::vector<Crossing> selfCrossings(const PlaneCurve& curve);

/// True if two curves meet anywhere but in ends of both.
bool mayCross(const PlaneCurve& a, const PlaneCurve& b);

/// The parameter of the point of a curve that is nearest to a point.
double nearestOn(const PlaneCurve& curve, PlanePoint point);

/// The length of the piece of a curve between two parameters, mm. To 1e-9 of it.
double lengthBetween(const PlaneCurve& curve, double from, double to);

}  // namespace kervo
