// Planes, cylinders, cones, spheres and tori: parameters on them, and what they are called. For src/core/geom only.
#pragma once

#include <Adaptor3d_Surface.hxx>
#include <ElSLib.hxx>
#include <gp_Pnt2d.hxx>
#include <optional>
#include <string>

#include "base/say.h"

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

/// What a surface is called: "plane", "cylinder", …, or "free-form".
inline std::string surfaceNameOf(GeomAbs_SurfaceType type) {
  switch (type) {
    case GeomAbs_Plane:
      return later("plane");
    case GeomAbs_Cylinder:
      return later("cylinder");
    case GeomAbs_Cone:
      return later("cone");
    case GeomAbs_Sphere:
      return later("sphere");
    case GeomAbs_Torus:
      return later("torus");
    default:
      return later("free-form");
  }
}

}  // namespace kervo
