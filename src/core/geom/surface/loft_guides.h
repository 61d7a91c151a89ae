// Curves that a loft follows from section to section. For src/core/geom/surface only.
#pragma once

#include <optional>
#include <vector>

#include "geom/shape.h"
#include "geom/surface/edge_walk.h"

namespace kervo {

/// A rising function through points, with a continuous slope.
class RisingCurve {
 public:
  /// By cubics with the slopes of Fritsch and Carlson, "Monotone piecewise cubic interpolation" (1980).
  RisingCurve(std::vector<double> at, std::vector<double> values);
  double operator()(double x) const;

 private:
  std::vector<double> at_, values_, slopes_;
};

/// The guides of a loft. A place is a share of its first section, from 0 to 1; along it a value from 0 to 1 rises from
/// section to section.
class LoftGuides {
 public:
  /// `sections`: the number of each among the walks; nothing for one that is a point, which is then in `points`.
  /// `parameters`: where each of them stands along the loft. Throws Error if a guide does not meet each section, or two
  /// meet in another order there.
  LoftGuides(const Shape& guides, const MatchedWalks& walks, const std::vector<std::optional<std::size_t>>& sections,
             const std::vector<Point>& points, const std::vector<double>& parameters);

  bool empty() const { return guides_.empty(); }
  std::size_t count() const { return guides_.size(); }
  /// The place of the walks at which a section is at a place of the loft, so that guides run along these.
  double placeIn(std::size_t section, double place) const { return places_[section](place); }
  double placeOf(std::size_t guide) const { return guides_[guide].place; }
  Point at(std::size_t guide, double along) const;
  /// How much each of them says at a place: 1 at its own, 0 at the others' and beyond, smooth in between.
  std::vector<double> weightsAt(double place) const;

 private:
  struct Guide {
    EdgeWalk walk;
    double place;        ///< on the first section
    RisingCurve shares;  ///< of the guide, along the loft
  };
  std::vector<Guide> guides_;        ///< by their places
  std::vector<RisingCurve> places_;  ///< of each section
  bool closed_ = false;              ///< the sections are
};

}  // namespace kervo
