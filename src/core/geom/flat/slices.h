// A body cut by many parallel planes at once: outlines and faces, exact for exact bodies.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/body_form.h"

namespace kervo {

/// What one plane makes of a body.
struct Slice {
  std::size_t plane = 0;  ///< its number among the planes
  Shape curve = {};       ///< where the plane meets the body, as a curve body
  Shape faces = {};       ///< what closed outlines enclose, with the plane's normal; empty for surfaces
  int closed = 0;         ///< closed outlines, those of holes too
  int open = 0;           ///< lines that end: of surfaces, and where a mesh has a gap
};

/// In the order of the planes; planes that do not meet the body give nothing. A solid is divided by the checked
/// boolean, all planes in one go; a plane that lies on one of its planar faces gives that face. Faces are named `name`.
/// Throws as divide() does, and Error for a curve body; Stopped on request.
std::vector<Slice> slicesOf(const BodyForm& body, const std::vector<Plane>& planes, const std::string& name,
                            Progress& progress);

}  // namespace kervo
