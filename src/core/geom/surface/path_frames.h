// How a profile stands along a path. For src/core/geom/surface only.
#pragma once

#include <map>
#include <vector>

#include "geom/surface/edge_walk.h"
#include "geom/surface/path_sweep.h"

namespace kervo {

/// Where a profile is, and its three directions, of unit length and at right angles.
struct PathFrame {
  Point at;
  Vector along;  ///< the profile that is carried without leaning looks this way
  Vector across, up;
  Vector tangent;  ///< of the path

  /// A point that stood at `own` = (along, across, up) of the frame, mm.
  Point place(Vector own) const { return at + along * own.x + across * own.y + up * own.z; }
  /// And back.
  Vector own(Point place) const;
  Plane plane() const { return {at, across, up, along}; }
};

/// The frames along a path, which begins at its end that is nearer to the profile. Places are shares of its length.
class PathFrames {
 public:
  /// Throws Error if the path, or its guide, is no single curve, or runs where no frame can stand.
  PathFrames(const PathSweep& order, Point profile);

  bool closed() const { return walk().closed(); }
  double length() const { return walk().length(); }
  /// The shares where edges meet, both ends included.
  const std::vector<double>& breaks() const { return walks_.breaks(); }
  /// The edge of the path between two of these.
  Handle(Geom_Curve) curveOf(std::size_t link) const;
  PathFrame at(std::size_t link, double share) const;
  /// Whether profiles turn about the path by themselves: by a twist, or to meet themselves where it closes.
  bool turns() const { return std::abs(order_.twist) > 0 || std::abs(closing_) > 0; }
  /// By how much they turn, in radians, to meet themselves where the path closes.
  double closing() const { return closing_; }

 private:
  const EdgeWalk& walk() const { return walks_.walk(0); }
  static MatchedWalks walksOf(const PathSweep& order, Point profile);
  /// Place and tangent only.
  PathFrame bareAt(std::size_t link, double share) const;
  /// The directions that a fixed or guided profile has.
  void stand(PathFrame& frame, double share) const;
  /// The directions of a frame carried from another one without turning about the path.
  static void carry(const PathFrame& from, PathFrame& to);
  void sample();

  const PathSweep& order_;
  MatchedWalks walks_;
  std::vector<std::vector<PathFrame>> samples_;  ///< of each link, evenly; only of profiles that are carried
  double closing_ = 0;
};

}  // namespace kervo
