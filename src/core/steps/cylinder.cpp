#include "steps/cylinder.h"

#include "geom/primitives.h"
#include "steps/placed_solid.h"

namespace kervo {

namespace {

class Cylinder : public SimpleStep {
 public:
  Cylinder()
      : SimpleStep("cylinder", "Cylinder",
                   withPlacement({sizeField("radius", "Radius", "20 mm"), sizeField("height", "Height", "40 mm")})) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    return newBody(inputs,
                   makeCylinder(inputs.id(), placementOf(inputs), inputs.number("radius"), inputs.number("height")));
  }
};

}  // namespace

const StepKind& cylinderStep() {
  static const Cylinder kind;
  return kind;
}

}  // namespace kervo
