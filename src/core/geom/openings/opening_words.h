// Openings in words.
#pragma once

#include <string>

#include "geom/openings/openings.h"

namespace kervo {

/// What it is called: "window", "door", "hole", "pocket", …
std::string wordFor(const Opening& opening);
/// "through, 4 sides", "blind, round, with a step".
std::string toldOf(const Opening& opening);

}  // namespace kervo
