// Area and volume flux of one face, by exact boundary integrals.
#pragma once

class TopoDS_Face;
class TopoDS_Shape;
class gp_Pln;

namespace kervo {

/// Integrals over one face taken forward (its own orientation flag left out).
struct FaceIntegrals {
  double area = 0;  ///< mm²
  /// ∫ x·n/3 dA in mm³ with n the surface's natural normal; by the divergence theorem the signed sum over the faces of
  /// a solid is its volume.
  double flux = 0;
};

/// Integrates by Green's theorem: a plane's face over its edges in space; any other face over its edges in the
/// surface's parameters, with the inner integral split at 15° and at knots, 8 Gauss points a part. Relative error 1e-9
/// or better on analytic surfaces.
FaceIntegrals integrate(const TopoDS_Face& face);

/// ½ n·∮ (x − o) × dx over the oriented edges of a loop in a plane with axis n: its area in mm², positive if it runs
/// round n by the right-hand rule.
double loopArea(const TopoDS_Shape& loop, const gp_Pln& plane);

}  // namespace kervo
