// Curves in the parameter plane of a surface, through points of it. For src/core/geom/surface only.
#pragma once

#include <Geom2d_Curve.hxx>
#include <functional>
#include <gp_Pnt2d.hxx>
#include <vector>

namespace kervo {

/// Through points at rising parameters, exact where it is straight. Null where the kernel fails.
Handle(Geom2d_Curve) curveThrough(const std::vector<double>& at, const std::vector<gp_Pnt2d>& points);

/// A curve that follows points: those at 17 places, or at more until it is nowhere farther off than `enough`.
/// `pointsAt` gives the points at rising parameters, without jumps from one to the next; `off` how far another point is
/// from where it should be at a parameter, mm. `breaks`: where it begins, may have corners or changes of curvature, and
/// ends. Null if 1025 places between two of these are too few.
Handle(Geom2d_Curve) curveFollowing(const std::function<std::vector<gp_Pnt2d>(const std::vector<double>&)>& pointsAt,
                                    const std::function<double(double, const gp_Pnt2d&)>& off,
                                    const std::vector<double>& breaks, double enough);

}  // namespace kervo
