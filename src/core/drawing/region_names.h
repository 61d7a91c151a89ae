// Names that go on meaning the same regions when rows and rings get more or fewer copies.
#pragma once

#include <string>
#include <vector>

#include "drawing/drawing_result.h"

namespace kervo {

/// What bounds a region, whichever copy of a row or ring it is: "ring1:*:c1+" of "ring1:3:c1+", and
/// "plate+.ring1:*:c1-" of "plate+.ring1:2:c1-.ring1:3:c1-".
std::string patternOf(const std::string& region);

/// The regions, as indices, that a pick means: the one of that name, or all of a pattern. Of a pattern a stretch with
/// copies may be missing, since a count can be 1.
std::vector<std::size_t> regionsMeant(const std::string& pick, const std::vector<Region>& regions);

/// Whether a pick may mean no region at all: it is a pattern of copies that the drawing has, of which there is none
/// now.
bool mayBeNone(const std::string& pick, const DrawingResult& drawing);

/// Picks that mean these regions, by name: patterns where all of one are chosen, so that further copies are meant too.
std::vector<std::string> picksOf(const std::vector<std::string>& chosen, const std::vector<Region>& regions);

}  // namespace kervo
