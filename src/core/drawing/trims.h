// Cutting curves of a drawing by its other curves: what is split shares the new point, and what held goes on to hold
// where it still says something.
#pragma once

#include <string>
#include <vector>

#include "drawing/solve.h"

namespace kervo {

/// A drawing after a cut, and what could not be kept.
struct Trimmed {
  Drawing drawing;
  std::vector<std::string> lost = {};  ///< ids of constraints that say nothing any more
};

/// A stretch of a curve between two neighbouring places where others meet it.
struct CurvePiece {
  std::string curve;
  double from = 0, to = 1;  ///< parameters; beyond 1 on a closed curve: round past its start

  bool operator==(const CurvePiece&) const = default;
};

/// The stretches into which the other curves divide one, in its order. A closed one that is met once or never is one
/// stretch. Throws Error for a curve that is given by numbers.
std::vector<CurvePiece> piecesOf(const Drawing& drawing, const DrawingValues& values, const Solution& solution,
                                 const std::string& curve);

/// The curve in as many curves as it has stretches. A closed one that is met once opens there. Throws Error where it is
/// not met at all.
Trimmed split(const Drawing& drawing, const DrawingValues& values, const Solution& solution, const std::string& curve);

/// Without the stretch of the curve that is nearest to a place; of a curve that none meets, without all of it.
Trimmed trimmed(const Drawing& drawing, const DrawingValues& values, const Solution& solution, const std::string& curve,
                PlanePoint place);

/// The end of the curve that is nearer to a place goes on to the next curve that it meets. Throws Error if it meets
/// none, or has no ends.
Trimmed lengthened(const Drawing& drawing, const DrawingValues& values, const Solution& solution,
                   const std::string& curve, PlanePoint place);

/// Loose ends within `gap` (mm) of each other become one point. Throws Error if no ends are that close.
Trimmed joined(const Drawing& drawing, const DrawingValues& values, const Solution& solution, double gap);

}  // namespace kervo
