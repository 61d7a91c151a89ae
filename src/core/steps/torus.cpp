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
    return newBody(inputs, makeTorus(inputs.id(), placementOf(inputs), inputs.number("ring"), inputs.number("tube")));
  }
};

}  // namespace

const StepKind& torusStep() {
  static const Torus kind;
  return kind;
}

}  // namespace kervo
