// Ends of curves at which nothing goes on, and gaps between two of them.
#pragma once

#include <string>
#include <vector>

#include "drawing/solve.h"

namespace kervo {

struct LooseEnd {
  std::string point;  ///< the id of the point of the drawing
  /// Another end that is nearer than `gapLimit`: its point; empty if there is none. Both ends of a gap are named once.
  std::string other = {};
  double gap = 0;  ///< mm
};

/// Gaps up to this are named as such, mm.
inline constexpr double gapLimit = 1;

/// The ends of curves that bound something at which no other curve goes on: points of only one curve, that lie on no
/// other. Gaps first, by size.
std::vector<LooseEnd> looseEnds(const Drawing& drawing, const DrawingValues& values, const Solution& solution);

/// Curves that bound something and cross themselves.
std::vector<std::string> selfCrossing(const Drawing& drawing, const DrawingValues& values, const Solution& solution);

}  // namespace kervo
