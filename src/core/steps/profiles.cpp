#include "steps/profiles.h"

#include <algorithm>

namespace kervo {

std::vector<Region> pickedRegions(const RegionPick& pick, const DrawingResult& drawing) {
  if (drawing.regions.empty())
    throw Error("the drawing encloses no region", "field Profiles", "Close its curves, or draw a circle or rectangle");
  if (pick.all) return drawing.regions;
  std::vector<Region> chosen;
  for (const std::string& name : pick.regions) {
    const auto found = std::find_if(drawing.regions.begin(), drawing.regions.end(),
                                    [&](const Region& region) { return region.name() == name; });
    if (found == drawing.regions.end()) {
      std::string present;
      for (std::size_t i = 0; i < drawing.regions.size() && i < 8; ++i)
        present += (i ? ", " : "") + drawing.regions[i].name();
      throw Error("the drawing has no region \"" + name + "\" any more", "field Profiles",
                  "Pick the regions again; there are: " + present);
    }
    chosen.push_back(*found);
  }
  if (chosen.empty()) throw Error("no region is chosen", "field Profiles", "Pick at least one");
  return chosen;
}

std::vector<Region> chosenRegions(const RegionPick& pick, const DrawingResult& drawing) {
  return joined(pickedRegions(pick, drawing));
}

}  // namespace kervo
