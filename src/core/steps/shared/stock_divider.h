// Stock divided by any number of cutters at once, with a kerf along them, and on which side of each cutter its parts
// lie.
#pragma once

#include "geom/divide/plane_split.h"
#include "steps/shared/cutters.h"

namespace kervo {

/// On which side of one cutter a part lies; "front" is where a plane's or surface's normal points to, and outside of a
/// body.
enum class Side { Unknown, Front, Back };

struct SidedPart {
  Shape shape;
  std::vector<Side> sides;  ///< one a cutter
};

/// A stock body divided by everything that meets it.
struct Divided {
  std::vector<SidedPart> parts;
  std::vector<Shape> waste;
  std::string remedy;
  double meshed = 0;  ///< as in Division

  bool changed() const { return parts.size() > 1 || !waste.empty(); }
};

/// Safe to use from several threads at once where all cutters are planes.
class StockDivider {
 public:
  /// `step` goes into the names of new faces. Throws an Error at the kerf's field if there is none along a cutter.
  StockDivider(const std::vector<ResolvedCutter>& cutters, const Kerf& kerf, const StepId& step,
               const LengthField& field, Progress& progress);

  /// A solid or a surface. Throws Error; Stopped on request.
  Divided divide(const Shape& stock) const;

 private:
  bool hasKerf() const;
  std::string kerfName(std::size_t cutter) const;
  Divided divideSolid(const Shape& stock) const;
  Divided divideSurface(const Shape& stock) const;

  const std::vector<ResolvedCutter>& cutters_;
  Kerf kerf_;
  StepId step_;
  Progress& progress_;
  std::vector<Shape> taken_, inner_;  ///< one a cutter: what its kerf reaches to, and from
};

}  // namespace kervo
