#include "geom/divide/clipped.h"

#include "geom/divide/boolean.h"
#include "geom/divide/plane_split.h"
#include "geom/primitives.h"
#include "geom/topology.h"

namespace kervo {

namespace {

/// All of a region within a box, as a solid; empty if the region lies elsewhere.
Shape solidOf(const Clip::Region& region, const std::string& name, const Box& box, Progress& progress) {
  if (region.empty()) return {};
  Shape solid = makeSlab(name, region.front(), 0, Box::infinity, box);
  for (std::size_t i = 1; i < region.size(); ++i) {
    const PlaneSplit parts = splitByPlane(name, solid, region[i], {}, progress);
    if (parts.front.empty()) return {};
    solid = parts.front.front();
  }
  return solid;
}

/// Every corner of the box lies behind one of the walls.
bool isClear(const Clip::Region& region, const Box& box) {
  for (const Plane& wall : region) {
    bool behind = true;
    for (int i = 0; i < 8; ++i) behind = behind && wall.signedDistance(box.corner(i)) < 0;
    if (behind) return true;
  }
  return false;
}

}  // namespace

Shape clipped(const Shape& shape, const std::vector<NamedClip>& clips, Progress& progress) {
  Shape rest = shape;
  for (const NamedClip& each : clips) {
    for (const Clip::Region& region : each.clip.regions) {
      if (rest.empty()) return rest;
      const Box box = rest.roughBox();
      if (region.empty() || isClear(region, box)) continue;
      const Shape hidden = solidOf(region, each.name, box, progress);
      if (!hidden.empty()) rest = divide(rest, {hidden}, progress).outside;
    }
    if (!each.clip.body || rest.empty()) continue;
    const Shape by = renamed(*each.clip.body, each.name + ":cut");
    const Division division = divide(rest, {by}, progress);
    rest = each.clip.outside ? division.inside : division.outside;
  }
  return rest;
}

}  // namespace kervo
