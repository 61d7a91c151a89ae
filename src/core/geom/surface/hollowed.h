// Solids hollowed out: walls of a thickness round a space, with faces left open.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/divide/boolean.h"
#include "geom/shape.h"

namespace kervo {

/// Faces are given by their numbers in facesOf(solid).
struct HollowWishes {
  double wall = 0;     ///< mm
  double outside = 0;  ///< the share of the wall that is added outside, 0 to 1
  std::map<int, double> otherWalls = {};
  std::vector<int> open = {};  ///< where there is no wall

  double wallOf(int face) const {
    const auto other = otherWalls.find(face);
    return other == otherWalls.end() ? wall : other->second;
  }
};

struct Hollowed {
  Shape outer;                        ///< the solid, grown by what the walls add outside
  Division division;                  ///< of that by the space: the walls, and what goes
  int measured = 0;                   ///< places where the walls were measured
  double thinnest = 0, thickest = 0;  ///< there, of walls of the common thickness, mm
  bool withoutRounds = false;         ///< rounds that are smaller than the wall have none inside
};

/// The solid, or closed mesh, hollowed out. Faces inside are called `name`:face. Where the kernel cannot move all faces
/// at once, rounds that vanish are taken off first, or open faces are cut open afterwards; the walls are measured at
/// some 200 places and are within 1e-3 mm. Throws Error with the place where it cannot be done, and the largest wall
/// that works; Stopped on request.
Hollowed hollowed(const Shape& solid, const HollowWishes& wishes, const std::string& name, Progress& progress);

}  // namespace kervo
