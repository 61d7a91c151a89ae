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
    const Plane place = placementOf(inputs);
    const double radius = inputs.number("radius"), height = inputs.number("height");
    StepResult result = newBody(inputs, makeCylinder(inputs.id(), place, radius, height));
    result.gauges = {{"radius", place.at(0, 0, height), place.x, radius},
                     {"height", place.at(0, radius, 0), place.normal, height}};
    return result;
  }
};

}  // namespace

const StepKind& cylinderStep() {
  static const Cylinder kind;
  return kind;
}

}  // namespace kervo
