// What is left of a body where something is taken out of sight, exactly.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/display/clip.h"

namespace kervo {

/// A clip and what its faces are called.
struct NamedClip {
  std::string name;
  Clip clip;
};

/// The part of a solid or surface that none of the clips hides, by the checked division. Faces where it was cut are
/// named `name`:cut. The same Shape where nothing is hidden; empty where nothing is left. Throws as divide() does.
Shape clipped(const Shape& shape, const std::vector<NamedClip>& clips, Progress& progress);

}  // namespace kervo
