#include "steps/sphere.h"

#include "geom/primitives.h"
#include "steps/placed_solid.h"

namespace kervo {

namespace {

class Sphere : public SimpleStep {
 public:
  Sphere() : SimpleStep("sphere", "Sphere", withPlacement({sizeField("radius", "Radius", "20 mm")})) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane place = placementOf(inputs);
    const double radius = inputs.number("radius");
    StepResult result = newBody(inputs, makeSphere(inputs.id(), place, radius));
    result.gauges = {{"radius", place.origin, place.x, radius}};
    return result;
  }
};

}  // namespace

const StepKind& sphereStep() {
  static const Sphere kind;
  return kind;
}

}  // namespace kervo
