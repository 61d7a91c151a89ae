// Surfaces as cutters: faces lifted off bodies, surfaces extended over their borders, and thickened to what a saw
// takes.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/topology.h"

namespace kervo {

/// The faces as a surface of their own, joined where they share edges, with their names and colours.
Shape lifted(const std::vector<Face>& faces);

/// As much of a plane as covers a box, as a surface with its normal; its face is named `name`.
Shape planarSheet(const Plane& plane, const Box& box, const std::string& name);

/// The solid between two distances over a surface, along its normal, from < to, in mm. Faces are named `name`:front (at
/// the greater distance), `name`:back and `name`:border. Throws Error if the surface is bent more tightly than that.
Shape thickened(const Shape& surface, double from, double to, const std::string& name, Progress& progress);

/// The solid grown by `by` mm on every side (shrunk if negative), edges kept sharp where they can be. Faces keep their
/// names. Throws Error if the result is not what is asked for everywhere.
Shape grown(const Shape& solid, double by, Progress& progress);

}  // namespace kervo
