// What the surface of a face becomes. For src/core/geom/faces only.
#pragma once

#include <Geom_Surface.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Trsf.hxx>

#include "geom/faces/changed_faces.h"

namespace kervo {

gp_Trsf toTrsf(const Motion& motion);
/// A place in the middle of a face's corners; not always on the face.
gp_Pnt amidCorners(const TopoDS_Face& face);
/// Moved, made larger or smaller, or that of another face with its seam on the far side. Throws Error for surfaces that
/// have no size.
Handle(Geom_Surface) newSurface(const TopoDS_Face& face, const FaceChange& change);

}  // namespace kervo
