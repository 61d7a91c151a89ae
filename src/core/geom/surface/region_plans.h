// For each region of a mesh: its borders as loops, and how a face within them lies on its surface. For
// src/core/geom/surface only.
#pragma once

#include <optional>
#include <vector>

#include "geom/surface/region_chart.h"

namespace kervo {

struct PlannedRegion {
  std::vector<BorderLoop> loops;   ///< counter-clockwise where the surface's own normal shows to the eye
  bool flips = false;              ///< that normal shows into the body
  std::optional<RegionPlan> plan;  ///< of round surfaces; each crossing of its seam has a corner
};

struct RegionPlans {
  std::vector<PlannedRegion> regions;
  std::vector<std::vector<std::pair<double, std::uint32_t>>> breaks;  ///< new corners on each border, and where
};

/// Throws UnmadeRegions for those whose borders are not those of a face. Regions without a surface stay empty.
RegionPlans plansOf(const Mesh& mesh, const MeshRegions& regions, const RegionBorders& borders);

}  // namespace kervo
