// Profiles swept straight along their plane's normal: the bodies that a cut takes away.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/sweep/profile.h"
#include "geom/topology.h"

namespace kervo {

/// Where a sweep begins or ends.
struct SweepLimit {
  enum class Kind { Distance, BeyondEverything, AtFace };
  Kind kind = Kind::Distance;
  double distance = 0;       ///< Distance: from the profile's plane for the start, from the start for the end; mm
  std::optional<Face> face;  ///< AtFace

  static SweepLimit at(double distance) { return {Kind::Distance, distance, std::nullopt}; }
  static SweepLimit beyond() { return {Kind::BeyondEverything, 0, std::nullopt}; }
  static SweepLimit atFace(const Face& where) { return {Kind::AtFace, 0, where}; }
  static SweepLimit atPlane(const Plane& where);  ///< all of it
};

/// A region swept from one place to another along its plane's normal.
struct SweptRegion {
  Region region;
  std::string name;         ///< first part of the names of its faces: `name`:side:curve, `name`:start, `name`:end
  bool straight = false;    ///< ends in planes parallel to the region; then the two distances hold
  double from = 0, to = 0;  ///< signed distances along the region's normal, from < to
  bool startsAtTo = false;  ///< swept against the normal: its start face is the one at `to`
  Shape cutter;             ///< the swept solid; empty for a straight one until solidOf() makes it
};

/// The solid of a swept region.
Shape solidOf(const SweptRegion& swept);

/// The same with its sides leaning inwards by an angle, in radians, away from where it starts (outwards if less than
/// zero). Throws Error if the sides meet before its end.
Shape drafted(const SweptRegion& swept, double angleRadians);

/// A box around a straight swept region, known without making its solid.
Box sweptBox(const SweptRegion& swept);

/// Sweeps every region along `alongNormal` ? n : −n from `start` to `end`. `around` is what "beyond everything" is
/// beyond. Limits at faces may be tilted or curved. Throws Error if nothing is left between the limits, a face does not
/// reach across a profile, or crosses the profile where the sweep starts.
std::vector<SweptRegion> sweep(const std::string& name, const std::vector<Region>& regions, bool alongNormal,
                               const SweepLimit& start, const SweepLimit& end, const Box& around, Progress& progress);

}  // namespace kervo
