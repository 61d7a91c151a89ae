// A cone or its frustum from two radii, one of which may be 0, and a height.
#include <algorithm>

#include "geom/primitives.h"
#include "steps/registry.h"
#include "steps/shared/placed_solid.h"

namespace kervo {

namespace {

class Cone : public PlacedSolid {
 public:
  Cone() : PlacedSolid("cone", "Cone", "A cone or its frustum from two radii and a height", Offered::AtFirst) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane place = placement_.of(inputs);
    const double bottom = bottom_.of(inputs), top = top_.of(inputs), height = height_.of(inputs);
    StepResult result = newBody(inputs, makeCone(inputs.id(), place, bottom, top, height));
    // The height stands beside the body: on its axis its bead would lie on that of a top that is a point.
    result.gauges = {{bottom_.key(), place.at(0, 0, 0), place.x, bottom},
                     {top_.key(), place.at(0, 0, height), place.x, top},
                     {height_.key(), place.at(0, std::max(bottom, top), 0), place.normal, height}};
    return result;
  }

 protected:
  const Placement& placement() const override { return placement_; }

 private:
  const LengthField bottom_{*this, {.key = "bottom", .label = "Bottom radius"}, "20 mm", NumberRule::NotNegative};
  const LengthField top_{*this, {.key = "top", .label = "Top radius"}, "0 mm", NumberRule::NotNegative};
  const SizeField height_{*this, {.key = "height", .label = "Height"}, "40 mm"};
  const Placement placement_{*this};
};

}  // namespace

const StepKind& coneStep() {
  static const Cone kind;
  return kind;
}

}  // namespace kervo
