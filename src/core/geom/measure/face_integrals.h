// Area, volume flux and vector area of one face, by exact boundary integrals.
//
// Closed forms on planes, cylinders, cones, spheres and tori, Gauss on free-form faces, divided where borders cross
// knots: ten to twenty times faster than dividing the body by angle and measuring the copy, and as exact
// (tests/core/geom/measure_test.cpp). A loosely toleranced body has one volume wherever it stands, and its parts add
// up to it. How far edges lie beside their surfaces, times the area, is the volume's error bound
// (Shape::volumeError()).
#pragma once

#include "geom/space.h"

class TopoDS_Face;
class TopoDS_Shape;
class gp_Pln;

namespace kervo {

/// Integrals over one face taken forward (its own orientation flag left out), with n the surface's natural normal. The
/// face counts as reaching to its edges in space and its corners: where its surface ends a little beside them, the
/// strip between belongs to it. So the faces of a closed body leave no gap, however loose they are, and its volume does
/// not depend on where the body stands.
struct FaceIntegrals {
  double area = 0;    ///< mm²
  double flux = 0;    ///< ∫ (x − reference)·n/3 dA in mm³
  Vector vectorArea;  ///< ∫ n dA in mm²; the signed sum over the faces of a closed body is zero
  Point reference;    ///< a point on or near the face that moves with it
  /// By how much the vector areas over the edges in space and over the edges in the surface's parameters differ, in
  /// mm²: no more than looseness times length, unless the two run round different patches. Found on elementary surfaces
  /// only.
  double disagreement = 0;
  double looseness = 0;  ///< how far edges and corners lie from the surface at most, in mm, where it was asked

  /// The flux seen from another point; by the divergence theorem the signed sum over a solid's faces is its volume, for
  /// any one point.
  double fluxFrom(Point origin) const { return flux + dot(reference - origin, vectorArea) / 3; }
};

/// Integrates by Green's theorem: a plane's face over its edges in space; any other face over its edges in the
/// surface's parameters, with the inner integral split at 15° and at knots, 8 Gauss points a part. Relative error 1e-9
/// or better on analytic surfaces. Throws Error if an edge has no curve on the surface.
FaceIntegrals integrate(const TopoDS_Face& face);

/// The same with the area's sign in the surface's parameters: less than zero where the border runs clockwise there.
FaceIntegrals signedIntegrals(const TopoDS_Face& face);

/// ½ n·∮ (x − o) × dx over the oriented edges of a loop in a plane with axis n: its area in mm², positive if it runs
/// round n by the right-hand rule.
double loopArea(const TopoDS_Shape& loop, const gp_Pln& plane);

}  // namespace kervo
