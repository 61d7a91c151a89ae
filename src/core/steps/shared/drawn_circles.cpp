#include "steps/shared/drawn_circles.h"

#include <algorithm>

#include "base/say.h"
#include "geom/tolerances.h"

namespace kervo {

std::vector<DrawnCircle> drawnCircles(const RegionsField& field, Inputs& inputs) {
  const DrawingResult drawing = field.drawing(inputs);
  std::vector<DrawnCircle> circles;
  for (const Region& region : field.of(inputs)) {
    const CircularArc* widest = nullptr;
    std::string curve;
    const std::set<std::string> bounding = region.curves();
    for (const NamedCurve& each : drawing.curves) {
      const auto* arc = std::get_if<CircularArc>(&each.curve.form());
      if (!arc || !each.curve.closed() || !bounding.contains(each.name) || (widest && widest->radius >= arc->radius))
        continue;
      widest = arc;
      curve = each.name;
    }
    if (!widest)
      field.fail(say("the region \"%1\" is not bounded by a circle: it has no middle for a hole", region.name()),
                 say("Choose circles only, or draw one where the hole belongs"));
    const Point middle = widest->axes.origin;
    const bool known = std::any_of(circles.begin(), circles.end(), [&](const DrawnCircle& each) {
      return distance(each.middle, middle) < tolerance::samePlace;
    });
    if (!known) circles.push_back({curve, middle, widest->radius});
  }
  return circles;
}

}  // namespace kervo
