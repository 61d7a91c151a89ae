// Where surfaces meet: points of several, curves of two. For src/core/geom/faces only.
#pragma once

#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>
#include <gp_Pnt.hxx>
#include <optional>
#include <vector>

namespace kervo {

/// How far a point is from a surface, and the direction in which that grows: unit length.
struct FromSurface {
  double distance = 0;
  gp_Vec way;
};
/// Signed, along the surface's own normal; for elementary surfaces exact and everywhere, for others near to it. Nothing
/// if it cannot be told.
std::optional<FromSurface> fromSurface(const Handle(Geom_Surface) & surface, const gp_Pnt& point);

/// A line that a point may be bound to.
struct Bound {
  Handle(Geom_Curve) curve;
};

/// The point that lies on all the surfaces and curves, the nearest to `start` in the sense of Newton's way; nothing if
/// there is none.
std::optional<gp_Pnt> pointOnAll(const std::vector<Handle(Geom_Surface)>& surfaces, const std::vector<Bound>& bounds,
                                 const gp_Pnt& start);

/// The curve in which two surfaces meet that comes nearest to a point; null if there is none.
Handle(Geom_Curve) curveOfBoth(const Handle(Geom_Surface) & a, const Handle(Geom_Surface) & b, const gp_Pnt& near);

}  // namespace kervo
