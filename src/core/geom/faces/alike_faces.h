// Which face of one shape is which face of another version of it.
#pragma once

#include <vector>

#include "geom/shape.h"

namespace kervo {

/// For each face of `now`, in stored order, the number (from 1) of the face of `before` that it is; 0 for one that is
/// none of them, or of which that is not certain. Faces are matched by what is the same: surface, place and area first;
/// then parts of one surface that lie on each other; then what is left between the same neighbours; and if nothing is
/// where it was, by the order in which both have faces of the same kind and area. Several faces may be one of before,
/// which was divided; a face is never two of before. Meshes have no faces: an empty list.
std::vector<int> facesAlike(const Shape& before, const Shape& now);

}  // namespace kervo
