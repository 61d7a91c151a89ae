#include "steps/sphere.h"

#include "geom/primitives.h"
#include "steps/placed_solid.h"

namespace kervo {

namespace {

class Sphere : public SimpleStep {
 public:
  Sphere() : SimpleStep("sphere", "Sphere", withPlacement({sizeField("radius", "Radius", "20 mm")})) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    return newBody(inputs, makeSphere(inputs.id(), placementOf(inputs), inputs.number("radius")));
  }
};

}  // namespace

const StepKind& sphereStep() {
  static const Sphere kind;
  return kind;
}

}  // namespace kervo
