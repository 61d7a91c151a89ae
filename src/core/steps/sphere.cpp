// A ball from its radius.
#include "geom/primitives.h"
#include "steps/registry.h"
#include "steps/shared/placed_solid.h"

namespace kervo {

namespace {

class Sphere : public PlacedSolid {
 public:
  Sphere() : PlacedSolid("sphere", "Sphere", "A ball from its radius", Offered::AtFirst) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane place = placement_.of(inputs);
    const double radius = radius_.of(inputs);
    StepResult result = newBody(inputs, makeSphere(inputs.id(), place, radius));
    result.gauges = {{radius_.key(), place.origin, place.x, radius}};
    return result;
  }

 protected:
  const Placement& placement() const override { return placement_; }

 private:
  const SizeField radius_{*this, {.key = "radius", .label = "Radius"}, "20 mm"};
  const Placement placement_{*this};
};

}  // namespace

const StepKind& sphereStep() {
  static const Sphere kind;
  return kind;
}

}  // namespace kervo
