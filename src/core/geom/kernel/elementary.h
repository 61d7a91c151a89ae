// Parameters on planes, cylinders, cones, spheres and tori. For src/core/geom only.
#pragma once

#include <Adaptor3d_Surface.hxx>
#include <ElSLib.hxx>
#include <gp_Pnt2d.hxx>
#include <optional>

namespace kervo {

/// Of the place on an elementary surface that is nearest to a point; nothing for other surfaces.
inline std::optional<gp_Pnt2d> parametersOn(const Adaptor3d_Surface& surface, const gp_Pnt& point) {
  double u = 0, v = 0;
  switch (surface.GetType()) {
    case GeomAbs_Plane:
      ElSLib::Parameters(surface.Plane(), point, u, v);
      break;
    case GeomAbs_Cylinder:
      ElSLib::Parameters(surface.Cylinder(), point, u, v);
      break;
    case GeomAbs_Cone:
      ElSLib::Parameters(surface.Cone(), point, u, v);
      break;
    case GeomAbs_Sphere:
      ElSLib::Parameters(surface.Sphere(), point, u, v);
      break;
    case GeomAbs_Torus:
      ElSLib::Parameters(surface.Torus(), point, u, v);
      break;
    default:
      return std::nullopt;
  }
  return gp_Pnt2d(u, v);
}

}  // namespace kervo
