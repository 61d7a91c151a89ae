// Quadrature along the borders of faces: where to divide curves, and what an edge sweeps in space. For src/core/geom
// only.
#pragma once

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TopoDS_Edge.hxx>
#include <array>
#include <vector>

namespace kervo {

// Gauss-Legendre nodes and weights on [-1, 1], 8 points (Abramowitz and Stegun, table 25.4).
inline constexpr std::array<double, 8> gaussNodes{-0.9602898564975363, -0.7966664774136267, -0.5255324099163290,
                                                  -0.1834346424956498, 0.1834346424956498,  0.5255324099163290,
                                                  0.7966664774136267,  0.9602898564975363};
inline constexpr std::array<double, 8> gaussWeights{0.1012285362903763, 0.2223810344533745, 0.3137066458778873,
                                                    0.3626837833783620, 0.3626837833783620, 0.3137066458778873,
                                                    0.2223810344533745, 0.1012285362903763};
/// Calls visit(parameter, weight) at the Gauss points of [from, to]; the weights carry the interval's sign.
template <class Visit>
void gauss(double from, double to, Visit&& visit) {
  const double half = (to - from) / 2;
  const double middle = (to + from) / 2;
  for (std::size_t i = 0; i < gaussNodes.size(); ++i) visit(middle + half * gaussNodes[i], half * gaussWeights[i]);
}
/// … of each interval between neighbouring `parts`.
template <class Visit>
void gauss(const std::vector<double>& parts, Visit&& visit) {
  for (std::size_t i = 0; i + 1 < parts.size(); ++i) gauss(parts[i], parts[i + 1], visit);
}

/// The breaks of an interval: its ends, knots inside, and equal parts so that no part turns more than 15°.
std::vector<double> breaks(double from, double to, const std::vector<double>& knots, bool isAngle);
/// Every span of a free-form surface is halved: its rational pieces turn up to 90°.
std::vector<double> withMiddles(const std::vector<double>& knots);

/// Those of `count` knots that lie between two parameters, and these.
template <class KnotAt>
std::vector<double> knotsBetween(double from, double to, int count, KnotAt&& knotAt) {
  std::vector<double> result{from};
  for (int i = 1; i <= count; ++i)
    if (const double knot = knotAt(i); knot > from && knot < to) result.push_back(knot);
  result.push_back(to);
  return result;
}

/// Where a curve is not smooth. The kernel calls every spline smooth that has four derivatives everywhere, so that its
/// intervals would leave out all knots of one of degree 5.
template <class Adaptor>
std::vector<double> curveKnots(const Adaptor& curve) {
  if (curve.GetType() == GeomAbs_BSplineCurve) {
    const auto spline = curve.BSpline();
    if (!spline->IsPeriodic())
      return knotsBetween(curve.FirstParameter(), curve.LastParameter(), spline->NbKnots(),
                          [&](int i) { return spline->Knot(i); });
  }
  const int count = curve.NbIntervals(GeomAbs_CN);
  TColStd_Array1OfReal values(1, count + 1);
  curve.Intervals(values, GeomAbs_CN);
  return {values.begin(), values.end()};
}

/// True for curves whose parameter is an angle.
bool turns(GeomAbs_CurveType type);
/// True for surfaces whose u is an angle.
bool uIsAngle(GeomAbs_SurfaceType type);
/// Where a surface is not smooth along u or v, as of curveKnots().
std::vector<double> surfaceKnots(const BRepAdaptor_Surface& surface, bool alongU);
/// Halved knots along u or v; none for surfaces whose u is an angle.
std::vector<double> innerKnots(const BRepAdaptor_Surface& surface, bool alongU);

/// The parameters that divide a curve in the parameter plane so that on each part the inner integral is smooth: at its
/// own knots, where it crosses knots of the surface, and where it has spanned 15°.
class OuterParts {
 public:
  /// The inner integral runs along u or v.
  OuterParts(const BRepAdaptor_Surface& surface, bool alongU);
  std::vector<double> of(const Geom2dAdaptor_Curve& curve, double first, double last) const;

 private:
  /// Where a curve crosses knots of the surface.
  std::vector<double> crossings(const Geom2dAdaptor_Curve& curve, double from, double to) const;

  bool uIsAngle_;
  bool vIsAngle_;
  std::vector<double> uKnots_;
  std::vector<double> vKnots_;
};

/// An edge of a face's border in space, from corner to corner.
struct SpaceEdge {
  explicit SpaceEdge(const TopoDS_Edge& edge);
  /// ∮ (x − o) × dx with the straight lines that join the curve's ends to the corners, signed by the orientation:
  /// twice the vector area that the line from o sweeps. In closed form for lines and circles.
  gp_XYZ swept(const gp_Pnt& origin) const;

  BRepAdaptor_Curve curve;
  double sign;  ///< 1 for an edge that runs along its curve, −1 against it
  gp_Pnt from, to;
  double cornerGap = 0;  ///< mm between the curve's ends and the corners, at most
};

/// Of all points of the parameter plane that are one on the surface with this, the one nearest to another.
gp_Pnt2d nearestCopy(const gp_Pnt2d& point, const gp_Pnt2d& to, const BRepAdaptor_Surface& surface);

/// True for edges that bound a face rather than lie inside it.
bool boundsFace(const TopoDS_Shape& edge);

}  // namespace kervo
