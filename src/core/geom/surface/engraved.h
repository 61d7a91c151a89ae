// Solids that stand on a face, taken out of a body or added to it without an intersection where that can be proven to
// be the same.
#pragma once

#include <functional>
#include <vector>

#include "base/progress.h"
#include "geom/divide/boolean.h"
#include "geom/topology.h"

namespace kervo {

/// What becomes of a body whose face is engraved or raised.
enum class Relief { Taken, Added };

/// `solids`: as inlaid() makes them, ending exactly at the face, behind it to be taken or before it to be added.
/// `reaching`: the same solid, by its number, with an end that reaches clearly beyond the face, for those that have to
/// be intersected or united. They must be where a solid crosses a seam or border of the face, or comes near to another
/// face of the body or another solid. `inside` of the result is what was taken. `direct`, if given, is how many went
/// without an intersection. Checked as divide() and unite() are; throws as they do.
Division engraved(const Shape& stock, const Face& face, Relief relief, const std::vector<Shape>& solids,
                  const std::function<Shape(std::size_t)>& reaching, Progress& progress, int* direct = nullptr);

}  // namespace kervo
