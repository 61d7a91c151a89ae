#include "steps/shared/ink.h"

#include <algorithm>

namespace kervo {

namespace {

/// Most of the border of one lies within the outermost border of the other.
bool encloses(const Region& outer, const Region& inner) {
  const std::vector<PlanePoint> border = outer.outlines().front(), line = inner.outlines().front();
  const auto within = std::count_if(line.begin(), line.end(), [&](PlanePoint p) {
    bool inside = false;
    for (std::size_t i = 0; i < border.size(); ++i) {
      const PlanePoint a = border[i], b = border[(i + 1) % border.size()];
      if ((a.v > p.v) != (b.v > p.v) && p.u < a.u + (b.u - a.u) * (p.v - a.v) / (b.v - a.v)) inside = !inside;
    }
    return inside;
  });
  return outer.area() > 0 && 2 * static_cast<std::size_t>(within) > line.size();
}

}  // namespace

std::vector<Region> inked(const std::vector<Region>& regions) {
  std::vector<Region> result;
  for (const Region& region : regions) {
    int around = 0;
    for (const Region& other : regions) around += &other != &region && encloses(other, region) ? 1 : 0;
    if (around % 2 == 0) result.push_back(region);
  }
  return result;
}

}  // namespace kervo
