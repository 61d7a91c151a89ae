// Round holes that run through each other, as each of them is known.
#pragma once

#include <vector>

#include "geom/openings/openings.h"

namespace kervo {

class FaceNet;
struct Mouth;
struct FoundOpening;

/// Of openings that are several round holes about different axes, each becomes one of its own; so do the two halves of
/// a hole on both sides of a wider one. All of them know what they cross.
void splitCrossings(const FaceNet& net, const std::vector<Mouth>& mouths, std::vector<FoundOpening>& openings);

/// The round hole of an opening as if nothing crossed it, from end to end; its faces are named as those of the opening.
Shape roundHole(const Shape& solid, const Opening& opening);

}  // namespace kervo
