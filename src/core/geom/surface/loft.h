// Surfaces and solids through curves: section after section, or one section along a path.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space_curve.h"

namespace kervo {

/// A section: a curve body of one curve, or a point.
struct LoftSection {
  Shape curve = {};  ///< empty: the point
  Point point = {};
};

struct LoftOrder {
  std::vector<LoftSection> sections;
  bool ruled = false;   ///< straight from section to section
  bool closed = false;  ///< and from the last one back to the first
  /// Directions in which it leaves the first section and arrives at the last one; their lengths say how far it follows
  /// them, in mm. Nothing: as it comes.
  std::optional<Vector> atStart = {}, atEnd = {};
  /// Curves that it follows from section to section, each of which meets them all: a curve body of any number of them.
  /// Smooth ones only.
  Shape guides = {};
  bool solid = true;  ///< closed at both ends by planes, if the sections are closed
};

/// Closed sections are begun at the nearest places and run the same way round; places are matched by their share of the
/// length. Corners stay corners. Faces are named `name`:side, `name`:start and `name`:end. Smooth ones follow their
/// sections and guides to 1e-5 mm. Throws Error if sections are neither all closed nor all open, or it crosses itself.
Shape lofted(const LoftOrder& order, const std::string& name, Progress& progress);

}  // namespace kervo
