// Curves at a distance beside chains of others: a clearance, a border, a groove.
#pragma once

#include <string>
#include <vector>

#include "drawing/plane_curve.h"

namespace kervo {

enum class OffsetSide {
  Out,  ///< outside of closed chains, to the left of open ones
  In,   ///< inside of them, to the right
  Both
};
enum class OffsetCorners { Round, Sharp };

/// The curves beside each chain, at `distance` > 0 in mm. Where chains turn away corners are rounded about the chain's
/// own, or go on straight until they meet; where they turn inwards, and where they get too narrow, what is nearer than
/// the distance is left out. Ids are `id`.CURVE, with .corner for what is put in at the end of a curve, and a number
/// behind it where a curve is left in several stretches. An open chain runs as its first curve does; on both sides of
/// it there are two chains. Throws Error where more than two curves meet, nothing is left, or a curve bends too
/// sharply.
std::vector<PlanarCurve> offset(const std::string& id, const std::vector<PlanarCurve>& curves, double distance,
                                OffsetSide side, OffsetCorners corners);

}  // namespace kervo
