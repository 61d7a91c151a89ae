// Pegs and what they go into, as solids.
#pragma once

#include <optional>
#include <string>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space.h"
#include "geom/sweep/profile.h"

namespace kervo {

/// Dovetails are rails, which railSolid() makes.
enum class KeySection { Round, Square, Hexagonal, Drawn, Dovetail };

/// Lengths in mm, angles in radians.
struct KeyForm {
  KeySection section = KeySection::Round;
  double width = 0;  ///< diameter, or from flat side to flat side, where it begins; of a dovetail its narrowest
  double taper = 0;  ///< by which each side leans in; of a dovetail, out
  double tip = 0;    ///< chamfer at its end

  /// Drawn: what it is like, straight from end to end. It stands with the middle of its box where the peg is, and as
  /// it was drawn where its plane lies along the face.
  std::optional<Region> drawn = {};

  double halfAt(double height) const;
  /// From its axis to its farthest corner, with room round it.
  double reachWith(double clearance) const;
};

/// From `low` (straight below 0) to `high` over the plane, `clearance` wider on each side. A hole has no chamfer. Faces
/// are named `name`:…. Throws Error if the sides meet before its end.
Shape keySolid(const KeyForm& form, const Plane& plane, double low, double high, double clearance, bool hole,
               const std::string& name, Progress& progress);

/// A dovetail along the plane's x from `from` to `to`, its neck in the plane, `deep` mm over it and a little below,
/// `clearance` wider on each side.
Shape railSolid(const KeyForm& form, const Plane& plane, double from, double to, double deep, double clearance,
                const std::string& name, Progress& progress);

}  // namespace kervo
