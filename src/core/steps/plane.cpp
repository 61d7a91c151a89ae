#include "steps/plane.h"

#include "steps/simple_step.h"

namespace kervo {

namespace {

class PlaneStep : public SimpleStep {
 public:
  PlaneStep()
      : SimpleStep("plane", "Plane",
                   {{.key = "from", .label = "From", .type = FieldType::Plane, .defaultText = "xy"},
                    {.key = "offset",
                     .label = "Offset",
                     .type = FieldType::Length,
                     .defaultText = "0 mm",
                     .help = "Along the normal; outwards from a face"}}) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    StepResult result;
    const Plane from = inputs.plane("from");
    result.plane = from.moved(inputs.number("offset"));
    result.gauges.push_back({"offset", from.origin, from.normal, inputs.number("offset")});
    return result;
  }
};

}  // namespace

const StepKind& planeStep() {
  static const PlaneStep kind;
  return kind;
}

}  // namespace kervo
