// Bodies without their openings: what closing one leaves, and what fills it.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/openings/openings.h"
#include "geom/shape.h"

namespace kervo {

struct Filled {
  Shape body;                   ///< without the openings
  std::vector<Shape> fillings;  ///< a solid for each, in the given order; faces as of the opening and of its walls
};

/// The solid without openings, each given by the numbers of its faces in facesOf(solid). Its walls are made whole on
/// their own surfaces; faces keep their names, and edges that were there stay. The volumes of the fillings and of the
/// body as it was add up to that of the body. Throws Error if one cannot be closed; Stopped on request.
Filled filled(const Shape& solid, const std::vector<std::vector<int>>& openings, Progress& progress);

/// … without openings given by their numbers in `all`. Of round holes that run through each other, all are closed;
/// those that are not among the given ones are in `again`: they are to be cut out once more in the end.
struct FilledOpenings : Filled {
  std::vector<Shape> again;
};
FilledOpenings filled(const Shape& solid, const std::vector<Opening>& all, const std::vector<int>& numbers,
                      Progress& progress);

}  // namespace kervo
