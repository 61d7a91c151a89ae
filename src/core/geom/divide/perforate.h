// Cutting swept profiles out of a body: directly where that is proven to be right, by the general boolean otherwise.
//
// The direct way inserts through profiles into the faces they cross. Its precondition is proven for each profile; what
// fails the proof goes through the boolean.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/divide/boolean.h"
#include "geom/sweep/sweep.h"

namespace kervo {

/// How many profiles were inserted directly, and how many went through the general boolean.
struct CutPath {
  int direct = 0;
  int general = 0;
};

/// Divides `stock` by swept regions, as divide() does.
///
/// A region is inserted directly if it can be proven that the result is the same: it has no islands, is swept straight
/// right through (it may begin on the face that it was drawn on), every face it meets on its way is planar,
/// perpendicular to the sweep, and has the whole profile strictly inside it, the profile keeps clear of all others, and
/// these faces pair up as entry and exit of one shell. Then only the faces met are rebuilt, with the profile as a hole,
/// and the swept sides are added. All other regions go through divide() afterwards.
Division cutSwept(const Shape& stock, const std::vector<SweptRegion>& regions, Progress& progress,
                  CutPath* path = nullptr);

}  // namespace kervo
