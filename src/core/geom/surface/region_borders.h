// The lines along which regions of a mesh meet, as exact curves between exact corners. For src/core/geom/surface only.
#pragma once

#include <Geom_Curve.hxx>
#include <gp_Pnt.hxx>
#include <map>
#include <optional>
#include <vector>

#include "geom/surface/mesh_regions.h"

namespace kervo {

/// Along a row of the mesh's edges, with one region on its left and another on its right as seen from outside.
struct RegionBorder {
  std::uint32_t left = 0, right = 0;
  std::uint32_t from = 0, to = 0;  ///< points of the mesh where it begins and ends; the same if it closes
  bool ring = false;               ///< it closes, and no other border meets it
  Handle(Geom_Curve) curve;
  double first = 0, last = 0;  ///< along the row, the first is less
  double off = 0;              ///< mm, from the two surfaces at most
};

/// Thrown where no face can be made of a region.
struct UnmadeRegion {
  std::uint32_t region;
};

/// All of those that a pass over regions came upon.
struct UnmadeRegions {
  std::vector<std::uint32_t> regions;
  /// Does something for each in turn, and throws this at the end if any was not made.
  template <class Work>
  static void forEach(std::size_t count, Work&& work) {
    UnmadeRegions unmade;
    for (std::size_t i = 0; i < count; ++i) {
      try {
        work(i);
      } catch (const UnmadeRegion& one) {
        unmade.regions.push_back(one.region);
      }
    }
    if (!unmade.regions.empty()) throw unmade;
  }
};

struct RegionBorders {
  std::vector<RegionBorder> borders;
  std::map<std::uint32_t, gp_Pnt> corners;  ///< where borders begin and end
};

/// Lines, circles and ellipses where they are ones within `tolerance` (mm), otherwise curves through points of both
/// surfaces. Beside a region without a surface only those of the other one count; between two such there is none. A
/// circle that is a ring begins where its centre lies opposite to a fixed direction, so that rings about one axis begin
/// beside each other. Throws UnmadeRegions where a curve cannot be found.
RegionBorders bordersOf(const Mesh& mesh, const MeshRegions& regions, double tolerance);

}  // namespace kervo
