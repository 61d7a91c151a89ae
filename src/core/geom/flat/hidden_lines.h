// Bodies as they are drawn on paper: the edges and outlines that one sees, and those that lie behind something.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space_curve.h"

namespace kervo {

/// In the plane's coordinates, so on the world's xy plane.
struct SeenLines {
  std::vector<SpaceCurve> visible, hidden;
};

/// How lines are found: from the exact faces, or from triangles, off by 0.05 mm or so and in short lines.
enum class SeenBy { Faces, Triangles };

struct AllSeen {
  std::vector<SeenLines> lines;  ///< of each shape, in their order
  SeenBy by = SeenBy::Faces;
};

/// Of solids and surfaces that hide each other, as they are seen against the plane's normal, in parallel projection.
/// Without edges between faces that go on smoothly. Many faces, and what the kernel fails at, are done by triangles.
/// The kernel cannot be stopped while it works. Throws Error if neither way is possible.
AllSeen linesSeen(const std::vector<Shape>& shapes, const Plane& plane, Progress& progress);
/// … in that way.
AllSeen linesSeen(const std::vector<Shape>& shapes, const Plane& plane, SeenBy by, Progress& progress);

/// Whether nothing of the shapes lies between a point and the eye, which is far away in that direction.
bool isSeen(Point point, Vector towardsEye, const std::vector<Shape>& shapes);

}  // namespace kervo
