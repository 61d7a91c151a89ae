// Faces taken off a solid, their neighbours growing until they meet.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// The solid without faces, given by their numbers in facesOf(solid). Names and colours of the others stay. Throws
/// Error if their neighbours do not meet over the gap, or what results is not sound; Stopped on request.
Shape withoutFaces(const Shape& solid, const std::vector<int>& faces, Progress& progress);

}  // namespace kervo
