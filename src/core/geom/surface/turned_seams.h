// Faces whose border meets the seam or a pole of their surface, put where it does not. For src/core/geom and exchange
// only.
//
// A surface of revolution has a seam, where u passes from 2π to 0, and spheres and cones have poles, where all u are
// one point. STEP files hold borders as curves in space alone; the kernel's reader gives those that meet a seam or
// pole curves in the parameter plane that belong to no patch. So a face is better off on the same surface with other
// axes: the seam of a sphere is a half circle that may lie anywhere beside the patch, that of other surfaces can be
// turned about their axis.
#pragma once

#include <TopoDS_Face.hxx>
#include <optional>

namespace kervo {

/// True if a loop of the face runs along the seam or through a pole of its surface, or comes near to them without.
bool bordersMeetSeam(const TopoDS_Face& face);

/// True for a face whose border in the surface's parameters does not close, encloses nothing, or encloses more than
/// there is of the surface: what a reader makes of a border that meets a seam.
bool borderIsTorn(const TopoDS_Face& face);

/// Where the seam may lie that a face is put clear of.
enum class SeamPlace {
  Beside,  ///< outside the patch only
  Across   ///< also within it, clear of its border: the patch is the whole surface with holes then
};

/// Which side of its border a new face lies on.
enum class Patch { Same, Complement };

/// The face, with its orientation, on its surface with turned axes, so that its border stays clear of seam and poles.
/// Its edges stay the same and get curves on the new surface. Nothing if there is no such place for the seam. The
/// complement is there on spheres only.
std::optional<TopoDS_Face> turnedClear(const TopoDS_Face& face, SeamPlace place, Patch patch = Patch::Same);

}  // namespace kervo
