// Parts laid beside each other on sheets, also inside of each other's holes.
#pragma once

#include <vector>

#include "base/progress.h"
#include "exchange/flat_picture.h"

namespace kervo {

struct NestedPart {
  FlatChain outline;
  std::vector<FlatChain> holes = {};
};

struct NestRoom {
  double width = 0, height = 0;  ///< of a sheet, mm
  double edge = 0;               ///< that parts keep from the sheet's edge, mm
  double gap = 0;                ///< … and from each other
};

struct Placement {
  std::size_t part = 0, sheet = 0;
  PlaneMotion motion;
};

struct Nesting {
  std::vector<Placement> placed;
  std::vector<std::size_t> tooLarge;  ///< for any sheet
  std::size_t sheets = 0;
};

/// Largest first, in four turns, as far left and low as they go: no-fit polygons by Minkowski sums. No two parts are
/// nearer than the gap; holes take what fits. Throws Error for a sheet without room; Stopped on request.
Nesting nest(const std::vector<NestedPart>& parts, const NestRoom& room, Progress& progress);

}  // namespace kervo
