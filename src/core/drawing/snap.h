// What a place pointed at in a drawing is meant to be: an end, a middle, a crossing, level with where one came from.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "drawing/drawing_result.h"

namespace kervo {

/// Body…: of a body on screen, whose place is taken as it is now; no constraint holds it there.
enum class SnapTo {
  Free,
  Grid,
  Point,
  Middle,
  Quadrant,
  Crossing,
  Tangent,
  Square,
  Curve,
  Level,
  Upright,
  BodyCorner,
  BodyMiddle,
  BodyCentre,
  BodyEdge
};

/// A place in a drawing, and what it was taken for.
struct Snap {
  PlanePoint at;
  SnapTo to = SnapTo::Free;
  /// Ids of what is there: the point; the curve of a middle, tangent, right angle or place on it; the round curve of a
  /// quadrant; both curves of a crossing. Of a body: its name.
  std::vector<std::string> on = {};
  bool level = false;    ///< of a quadrant: it lies level with the centre, otherwise upright above or below it
  bool extends = false;  ///< of a place on a line: beyond its ends
};

/// What one looks for around the pointer.
struct SnapWanted {
  double reach = 0;                       ///< mm; nearer than that is there
  std::optional<PlanePoint> from = {};    ///< where what is being drawn begins
  std::optional<double> grid = {};        ///< mm from line to line
  std::vector<std::string> without = {};  ///< ids that are no goal, e.g. of a point that is dragged
};

/// Finds what is near, in a drawing as it stands.
class Snapper {
 public:
  Snapper(const Drawing& drawing, const DrawingValues& values, const Solution& solution);

  /// The best of what is there: points first, then crossings and middles, tangents and right angles from where one
  /// came, places on curves, level or upright with where one came from, the grid.
  Snap at(PlanePoint place, const SnapWanted& wanted) const;
  /// The curve nearest to a place, within reach; nothing if there is none. Ids as curvesOf() has them.
  std::optional<std::string> curveAt(PlanePoint place, double reach) const;
  const std::vector<PlanarCurve>& curves() const { return curves_; }

 private:
  struct Goal {
    Snap snap;
    int rank;
  };
  void addPoints(std::vector<Goal>& goals, PlanePoint place, const SnapWanted& wanted) const;
  void addOnCurves(std::vector<Goal>& goals, PlanePoint place, const SnapWanted& wanted) const;
  void addFromWhere(std::vector<Goal>& goals, PlanePoint place, PlanePoint from, const SnapWanted& wanted) const;

  std::vector<std::pair<std::string, PlanePoint>> points_;
  std::vector<PlanarCurve> curves_;
  std::vector<bool> held_;  ///< whether constraints can hold the curve by its id
};

}  // namespace kervo
