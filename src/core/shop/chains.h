// Curves put in the order in which they follow each other.
#pragma once

#include <vector>

#include "exchange/flat_picture.h"

namespace kervo {

/// Curves whose ends are no further apart than `gap` (mm) as chains. Where more than two ends meet, chains go on with
/// the curve that comes first.
std::vector<FlatChain> chained(const std::vector<FlatCurve>& curves, double gap);

/// In mm.
double lengthOf(const FlatChain& chain);
FlatChain moved(const FlatChain& chain, const PlaneMotion& motion);

}  // namespace kervo
