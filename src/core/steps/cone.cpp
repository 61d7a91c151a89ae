#include "steps/cone.h"

#include "geom/primitives.h"
#include "steps/placed_solid.h"

namespace kervo {

namespace {

/// One of the two radii may be 0.
FieldSpec radiusField(std::string key, std::string label, std::string defaultText) {
  FieldSpec field = sizeField(std::move(key), std::move(label), std::move(defaultText));
  field.rule = NumberRule::NotNegative;
  return field;
}

class Cone : public SimpleStep {
 public:
  Cone()
      : SimpleStep("cone", "Cone",
                   withPlacement({radiusField("bottom", "Bottom radius", "20 mm"),
                                  radiusField("top", "Top radius", "0 mm"), sizeField("height", "Height", "40 mm")})) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    return newBody(inputs, makeCone(inputs.id(), placementOf(inputs), inputs.number("bottom"), inputs.number("top"),
                                    inputs.number("height")));
  }
};

}  // namespace

const StepKind& coneStep() {
  static const Cone kind;
  return kind;
}

}  // namespace kervo
