// Faces put on planes, cylinders, cones, spheres and tori. For src/core/geom/surface only.
#pragma once

#include <Geom_Surface.hxx>
#include <TopoDS_Face.hxx>
#include <functional>
#include <optional>
#include <vector>

#include "geom/surface/fitted_surface.h"

namespace kervo {

/// Places inside of a face and along its border.
std::vector<SurfaceSample> samplesOf(const TopoDS_Face& face);

/// Gives a face with the edges that it has when it is called; nothing if it cannot be made well enough.
using FaceMaker = std::function<std::optional<TopoDS_Face>()>;
/// For the face on an elementary surface that it lies on. How its edges run in its parameters is remembered, so that
/// they may get other curves in space before the face is made; the new face has its seam where the old one begins.
FaceMaker reseatedOn(const TopoDS_Face& face, const Handle(Geom_Surface) & surface);

}  // namespace kervo
