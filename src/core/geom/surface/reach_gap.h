// Where a surface that should divide a body ends inside it, and by how much it is too short.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/display/outline.h"
#include "geom/shape.h"

namespace kervo {

/// The part of a surface's border that lies inside a body.
struct ReachGap {
  std::vector<Polyline> border;  ///< the pieces of the border that lie inside, as lines
  std::vector<Polyline> area;    ///< round what is missing: along each piece, and back where it would come out
  double missing = 0;            ///< by how much the surface must go on there to come out of the body, mm
};

/// Nothing if no border of the surface ends inside the solid.
std::optional<ReachGap> gapOf(const Shape& solid, const Shape& surface, Progress& progress);

/// How a cutter and a stock lie that do not divide each other.
enum class Meeting { Apart, Touching, CutterInside, StockInside };
/// For two shapes that share no volume, or one of which lies entirely inside the other.
Meeting meetingOf(const Shape& stock, const Shape& cutter);

}  // namespace kervo
