// Meshes with fewer or more triangles.
#pragma once

#include "base/progress.h"
#include "geom/mesh.h"

namespace kervo {

/// Fewer triangles, at no place farther than `tolerance` mm from what the mesh was: measured at its points, not only
/// estimated. Borders between paints stay. The tolerance of the result is the sum. Throws Stopped on request.
Mesh reduced(const Mesh& mesh, double tolerance, Progress& progress);

/// Triangles divided until no edge is longer than `longest` mm; the surface stays what it is. Throws Error if that
/// would make more than ten million of them; Stopped on request.
Mesh refined(const Mesh& mesh, double longest, Progress& progress);

/// How far the points of one mesh are from the triangles of another, at most, in mm.
double farthestFrom(const Mesh& points, const Mesh& triangles);

}  // namespace kervo
