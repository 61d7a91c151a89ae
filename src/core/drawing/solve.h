// Solving a drawing: where its points are when the constraints hold, what can still move, and which do not fit
// together.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "drawing/drawing.h"
#include "drawing/plane_curve.h"

namespace kervo {

/// A curve that bodies give a drawing: constraints can hold on to it, and nothing moves it.
struct TakenCurve {
  PlanarCurve curve;          ///< its id is that of what was taken along, a dot and more if there are several
  bool construction = false;  ///< it bounds nothing
};

/// What a drawing stands on: what its expressions come to, and what bodies give it.
struct DrawingValues {
  std::vector<std::vector<double>> numbers;      ///< of each curve that is given by numbers, mm and rad
  std::vector<double> constraints;               ///< of each constraint; anything for one without a value
  std::vector<std::vector<double>> copies = {};  ///< of each of its copies, mm, rad and plain
  std::vector<TakenCurve> taken = {};
};

/// A constraint that cannot hold.
struct Conflict {
  std::string constraint;
  /// The smallest set of other constraints that it contradicts, in the order of the drawing. Empty: it cannot hold by
  /// itself, for `reason`.
  std::vector<std::string> with;
  std::string reason;
};

struct Solution {
  std::vector<PlanePoint> points;          ///< of the drawing, in its order
  std::vector<std::vector<double>> sizes;  ///< of each curve that has points, mm
  int freedoms = 0;                        ///< ways left to move
  /// How each point may still move: nothing for a settled one, one direction of unit length, or two.
  std::vector<std::vector<PlanePoint>> directions;
  std::vector<bool> settled;             ///< of each curve: nothing of it can move
  std::vector<double> measured;          ///< what each dimension measures, mm or rad; 0 for other constraints
  std::vector<std::string> alreadyTrue;  ///< constraints that say nothing new
  std::vector<Conflict> conflicts;
  double residual = 0;  ///< by how much the constraints that hold are off, mm

  bool holds() const { return conflicts.empty(); }
};

/// A point that is dragged to a place.
struct Drag {
  std::vector<std::size_t> points;  ///< of the drawing, as they move together
  PlanePoint by;
};

/// The positions nearest to where the drawing was last at which its constraints hold. Points that are connected with a
/// contradiction stay where they were. Pure: the same drawing and values give the same bits. The drawing is sound
/// (requireSound()).
Solution solve(const Drawing& drawing, const DrawingValues& values);

/// The same while points are dragged: positions only. Where they cannot go, they go as near as they can.
Solution dragged(const Drawing& drawing, const DrawingValues& values, const Drag& drag);

/// What a dimension would measure where the drawing was last, mm or rad. Throws Error if it cannot be on that.
double measuredNow(const Drawing& drawing, const DrawingValues& values, const DrawnConstraint& dimension);

/// The drawing with the positions of a solution as its last ones.
Drawing moved(Drawing drawing, const Solution& solution);

}  // namespace kervo
