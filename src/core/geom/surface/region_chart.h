// The borders of a region in the parameters of its surface: which go round it, and where its seam can lie. For
// src/core/geom/surface only.
#pragma once

#include <GeomAdaptor_Surface.hxx>
#include <functional>
#include <gp_Pnt2d.hxx>
#include <optional>
#include <vector>

#include "geom/surface/region_borders.h"

namespace kervo {

/// A border as a loop runs along it.
struct BorderUse {
  std::size_t border = 0;
  bool forward = true;
};
using BorderLoop = std::vector<BorderUse>;

/// A place on a border, and the corner that is there, if one is.
struct BorderPlace {
  std::size_t border = 0;
  double at = 0;
  std::optional<std::uint32_t> corner;
};

/// Parameters on an elementary surface, as far as loops turn in them.
class RegionChart {
 public:
  RegionChart(const Handle(Geom_ElementarySurface) & surface, const RegionBorders& borders);

  enum class Way { U, V };

  const Handle(Geom_ElementarySurface) & surface() const { return surface_; }
  bool turnsIn(Way way) const;
  gp_Pnt2d at(const gp_Pnt& point) const;
  /// The copy of parameters that is nearest to others.
  gp_Pnt2d near(gp_Pnt2d at, const gp_Pnt2d& other) const;
  /// Along a border from `first` to `last`, which may be the larger one, without jumps, at so many places.
  std::vector<gp_Pnt2d> along(std::size_t border, double first, double last, int spans) const;
  /// Along a loop; the first point again at its end.
  std::vector<gp_Pnt2d> along(const BorderLoop& loop) const;
  /// How often it goes round.
  int windings(const BorderLoop& loop, Way way) const;
  /// Where a loop crosses the line of that parameter, each place once.
  std::vector<BorderPlace> crossings(const BorderLoop& loop, Way way, double value) const;
  /// Whether it is no corner, but nearly.
  bool isBesideCorner(const BorderPlace& place) const;
  /// Parameters of the corners on a loop.
  std::vector<double> cornersOf(const BorderLoop& loop, Way way) const;

 private:
  double part(const gp_Pnt2d& at, Way way) const { return way == Way::U ? at.X() : at.Y(); }

  Handle(Geom_ElementarySurface) surface_;
  GeomAdaptor_Surface adaptor_;
  const RegionBorders& borders_;
};

/// What a region is in those parameters.
struct RegionPlan {
  enum class Shape {
    Whole,  ///< all of the surface
    Patch,  ///< nothing goes round
    Band,   ///< between two loops that go round
    Cap     ///< between one such loop and a pole or tip
  };
  Shape shape = Shape::Patch;
  RegionChart::Way way = RegionChart::Way::U;
  Handle(Geom_ElementarySurface) surface;
  std::size_t rising = 0, falling = 0;  ///< loops of a band that go round forwards and back, or the one of a cap
  bool capAbove = true;
  double seam = 0;
  std::vector<BorderPlace> crossings;    ///< of the seam with the rising and the falling loop, or with the one of a cap
  std::vector<std::uint32_t> corners{};  ///< at these, once they are made
};

/// `loops` with the region on their left where the surface's own normal shows to the eye. `covers`: whether a pole or
/// tip belongs to the region. Nothing if these loops do not bound a face on this surface, with these axes.
std::optional<RegionPlan> planOf(const Handle(Geom_ElementarySurface) & surface, const std::vector<BorderLoop>& loops,
                                 const RegionBorders& borders, const std::function<bool(const gp_Pnt&)>& covers);

}  // namespace kervo
