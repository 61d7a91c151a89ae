// Surfaces moved along their normals, and how tightly they are bent: what limits that.
#pragma once

#include <optional>
#include <string>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// The place where a surface is bent most tightly towards one of its sides.
struct Bend {
  Point place;
  double radius = 0;  ///< mm
};

/// Towards the front if `front`, otherwise towards the back: where an offset that way would fold first. Nothing for a
/// surface that is not bent that way. Asked at places all over each face, some hundred a face.
std::optional<Bend> tightestBend(const Shape& surface, bool front);

/// Throws an Error that names the place if an offset by `by` mm (to the front if positive) would fold there.
void requireNoFold(const Shape& surface, double by);

/// The surface `by` mm to its front, or to its back if negative. Faces keep their names and colours; new ones between
/// them are named `name`:between. Throws Error if it would fold, or the result does not keep its distance.
Shape offsetSurface(const Shape& surface, double by, const std::string& name, Progress& progress);

}  // namespace kervo
