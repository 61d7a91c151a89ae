// A ring from two radii.
#include "geom/primitives.h"
#include "steps/registry.h"
#include "steps/shared/placed_solid.h"

namespace kervo {

namespace {

class Torus : public PlacedSolid {
 public:
  Torus() : PlacedSolid("torus", "Torus", "A ring from two radii", Offered::AtFirst) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane place = placement_.of(inputs);
    const double ring = ring_.of(inputs), tube = tube_.of(inputs);
    StepResult result = newBody(inputs, makeTorus(inputs.id(), place, ring, tube));
    result.gauges = {{ring_.key(), place.at(0, 0, 0), place.x, ring},
                     {tube_.key(), place.at(0, ring, 0), place.normal, tube}};
    return result;
  }

 protected:
  const Placement& placement() const override { return placement_; }

 private:
  const SizeField ring_{*this, {.key = "ring", .label = "Ring radius"}, "30 mm"};
  const SizeField tube_{*this, {.key = "tube", .label = "Tube radius"}, "8 mm"};
  const Placement placement_{*this};
};

}  // namespace

const StepKind& torusStep() {
  static const Torus kind;
  return kind;
}

}  // namespace kervo
