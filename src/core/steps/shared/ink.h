// Which regions of outlines are letters, and which are what they go round.
#pragma once

#include <vector>

#include "geom/sweep/profile.h"

namespace kervo {

/// Of all regions of a drawing those that its outlines enclose once, or three times: a letter without its eyes.
std::vector<Region> inked(const std::vector<Region>& regions);

}  // namespace kervo
