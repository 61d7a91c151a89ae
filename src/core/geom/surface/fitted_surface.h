// The plane, cylinder, cone, sphere or torus through sampled points. For src/core/geom/surface only.
#pragma once

#include <Geom_ElementarySurface.hxx>
#include <optional>
#include <vector>

#include "geom/space.h"

namespace kervo {

/// A place of a surface, with its normal of unit length.
struct SurfaceSample {
  Point at;
  Vector normal;
};

struct FittedSurface {
  Handle(Geom_ElementarySurface) surface;
  double off = 0;  ///< mm, of the sample that is farthest from it
};

/// The simplest surface that all samples lie on within `tolerance` (mm), with normals within 1°, unless another one
/// fits ten times better. Found from the normals alone, then from the points: planes by their spread; cylinders and
/// cones by the plane of the normals; spheres by least squares; tori by the linear complex of the normals (Pottmann and
/// Wallner, "Computational Line Geometry", 2001). Nothing if none fits.
std::optional<FittedSurface> fittedSurface(const std::vector<SurfaceSample>& samples, double tolerance);

/// The same for facets, whose points lie on the surface and whose normals may be turned from its own by `angle`
/// (radians): each three samples are the corners of a facet, with its normal. Least squares of the distances of the
/// points. All that fit, the simplest first: a ring of facets lies on a cone, a sphere and a torus alike.
std::vector<FittedSurface> fittedToFacets(const std::vector<SurfaceSample>& samples, double tolerance, double angle);

/// The plane of least squares through all samples. Null where there is none.
Handle(Geom_ElementarySurface) fittedPlane(const std::vector<SurfaceSample>& samples);

/// The circle through points that are near to one, as its axes (the first point along x) and its radius. Nothing for
/// fewer than three, or points on a line.
struct FittedCircle {
  Plane axes;
  double radius = 0;
  double off = 0;  ///< mm, of the point that is farthest from it
};
std::optional<FittedCircle> fittedCircle(const std::vector<Point>& points);

}  // namespace kervo
