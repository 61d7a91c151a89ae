// Pegs and what they go into, as solids.
#pragma once

#include <string>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space.h"

namespace kervo {

enum class KeySection { Round, Square, Hexagonal };

/// Lengths in mm, angles in radians.
struct KeyForm {
  KeySection section = KeySection::Round;
  double width = 0;  ///< diameter, or from flat side to flat side, where it begins
  double taper = 0;  ///< by which each side leans in
  double tip = 0;    ///< chamfer at its end

  double halfAt(double height) const;
};

/// From `low` (straight below 0) to `high` over the plane, `clearance` wider on each side. A hole has no chamfer. Faces
/// are named `name`:…. Throws Error if the sides meet before its end.
Shape keySolid(const KeyForm& form, const Plane& plane, double low, double high, double clearance, bool hole,
               const std::string& name, Progress& progress);

}  // namespace kervo
