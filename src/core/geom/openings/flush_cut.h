// Cutting solids out of a body with whose flat walls they lie flush: what filled an opening, cut out in another place.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/divide/boolean.h"

namespace kervo {

/// Divides `body` by solids, as divide() does. `direct`, if given, is how many were cut out the direct way.
///
/// A solid is cut out directly if it can be proven that the result is the same: some of its flat faces (one outline
/// each) lie strictly inside flat faces of the body, with fronts to the same side, the solid lies behind these, and no
/// other face of the body and none of the other solids comes near it. Then these faces of the body get the outlines as
/// holes, and the solid's other faces are added.
Division cutFlush(const Shape& body, const std::vector<Shape>& solids, Progress& progress, int* direct = nullptr);

}  // namespace kervo
