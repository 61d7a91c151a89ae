// Regions with something taken off all round.
#pragma once

#include <vector>

#include "geom/sweep/profile.h"

namespace kervo {

/// What is left of a region `by` mm inside of its border and around its islands, corners of islands rounded. May be in
/// several parts, or nothing. Bounding curves are all called "inset". Throws Error where the kernel fails.
std::vector<Region> inset(const Region& region, double by);

}  // namespace kervo
