// The wall that an opening is in: how things move along it, and how much room there is.
#pragma once

#include <optional>
#include <vector>

#include "geom/motion.h"
#include "geom/openings/openings.h"
#include "geom/space_curve.h"

namespace kervo {

/// What is next to an opening on one side: the edge of the wall, or another opening.
struct Beside {
  double gap = Box::infinity;  ///< mm; infinite if there is nothing, as below a door
  int opening = -1;            ///< number of the opening; −1 for the edge of the wall
};

/// What is next to an opening, along x and y of its frame.
struct Room {
  Beside left, right, below, above;
};

/// The wall of an opening's main mouth. On a round wall, what leads across its axis is measured around it; on one of
/// free form, straight on over the middle of the opening.
class OpeningWall {
 public:
  OpeningWall(const Shape& solid, const Opening& opening);

  /// By how much the wall leads to x and y, in mm: to the right and upwards, as seen from outside.
  Motion along(double x, double y) const;
  /// Whether all walls of the opening stay what they are under that, so that what fills it still fits.
  bool keepsWalls(double x, double y) const;
  /// The distances to what is next to the opening in its main wall, as wide and as high as it is.
  Room room(const std::vector<Opening>& all) const { return beside(all, true); }
  /// … to the edges of the wall, as if there were no other openings.
  Room roomToEdges(const std::vector<Opening>& all) const { return beside(all, false); }
  /// A place in the frame's x and y, on a round wall unrolled.
  PlanePoint flat(Point place) const;
  /// The outline of the main mouth, and a hatch over it where the wall is flat.
  std::vector<Polyline> hatchedMouth() const;

 private:
  /// How far a way in x and y leads along the axis of a round wall, and around it.
  PlanePoint alongAndAround(double x, double y) const;
  Room beside(const std::vector<Opening>& all, bool openingsToo) const;

  Shape solid_;
  Opening opening_;
  bool round_ = false;
  Axis axis_;
  Vector around_;  // of a round wall: at a right angle to the axis, where the opening is
  double radius_ = 0;
};

}  // namespace kervo
