#include "geom/display/clip.h"

#include <algorithm>

namespace kervo {

bool Clip::hides(Point point) const {
  return std::any_of(regions.begin(), regions.end(), [&](const Region& region) {
    return std::all_of(region.begin(), region.end(),
                       [&](const Plane& wall) { return wall.signedDistance(point) >= 0; });
  });
}

std::vector<CutWall> wallsOf(const Clip& clip) {
  std::vector<CutWall> walls;
  for (const Clip::Region& region : clip.regions)
    for (std::size_t i = 0; i < region.size(); ++i) {
      CutWall wall{region[i], {}};
      for (std::size_t k = 0; k < region.size(); ++k)
        if (k != i) wall.borders.push_back(region[k]);
      walls.push_back(std::move(wall));
    }
  return walls;
}

}  // namespace kervo
