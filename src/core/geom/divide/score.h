// Marking faces without cutting volume, and faces that touching bodies share.
#pragma once

#include <string>
#include <vector>

#include "base/error.h"
#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// The body with its faces divided where surfaces and the boundaries of solids meet it; the same shape if they do not.
/// Volume and area stay as they were. Throws Error if no attempt passes these checks; Stopped on request.
Shape scored(const Shape& body, const std::vector<Shape>& cutters, Progress& progress);

/// The curves in which a body's faces and the cutters meet; empty if they do not.
Shape intersectionCurves(const Shape& body, const std::vector<Shape>& cutters, Progress& progress);

/// Touching solids whose common faces are one and the same.
struct SharedFaces {
  std::vector<Shape> solids;       ///< in the order given
  int count = 0;                   ///< faces that bound two of them
  std::vector<std::size_t> alone;  ///< solids that share none
  std::string remedy;              ///< as in Division
};

/// Two of several solids overlap, so they cannot share faces.
class SolidsOverlap : public Error {
 public:
  SolidsOverlap(std::size_t first, std::size_t second, double volume);
  /// With the two called by name instead of by number.
  SolidsOverlap(const SolidsOverlap& other, const std::string& nameOfFirst, const std::string& nameOfSecond);

  std::size_t first, second;  ///< in the order given, from 0
  double volume;              ///< that is common to them, mm³
};

/// Throws SolidsOverlap if two of the solids do.
SharedFaces withSharedFaces(const std::vector<Shape>& solids, Progress& progress);

}  // namespace kervo
