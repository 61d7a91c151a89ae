#include "steps/torus.h"

#include "geom/primitives.h"
#include "steps/placed_solid.h"

namespace kervo {

namespace {

class Torus : public SimpleStep {
 public:
  Torus()
      : SimpleStep(
            "torus", "Torus",
            withPlacement({sizeField("ring", "Ring radius", "30 mm"), sizeField("tube", "Tube radius", "8 mm")})) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane place = placementOf(inputs);
    const double ring = inputs.number("ring"), tube = inputs.number("tube");
    StepResult result = newBody(inputs, makeTorus(inputs.id(), place, ring, tube));
    result.gauges = {{"ring", place.at(0, 0, 0), place.x, ring}, {"tube", place.at(0, ring, 0), place.normal, tube}};
    return result;
  }
};

}  // namespace

const StepKind& torusStep() {
  static const Torus kind;
  return kind;
}

}  // namespace kervo
