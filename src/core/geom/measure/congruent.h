// Whether two bodies are the same part at different places.
#pragma once

#include <optional>

#include "geom/motion.h"

namespace kervo {

/// The motion that takes one shape onto the other, a turn and a shift, if both are the same part: face by face and edge
/// by edge (of meshes, corner by corner) in the same order, as copies and the instances in a file are. Nothing for a
/// mirrored one, and for one that merely looks alike. Compares places on all faces and edges, within
/// tolerance::point and 1e-9 of the size.
std::optional<Motion> motionOnto(const Shape& from, const Shape& to);

}  // namespace kervo
