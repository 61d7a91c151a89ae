#include "steps/cone.h"

#include <algorithm>

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
    const Plane place = placementOf(inputs);
    const double bottom = inputs.number("bottom"), top = inputs.number("top"), height = inputs.number("height");
    StepResult result = newBody(inputs, makeCone(inputs.id(), place, bottom, top, height));
    // The height stands beside the body: on its axis its bead would lie on that of a top that is a point.
    result.gauges = {{"bottom", place.at(0, 0, 0), place.x, bottom},
                     {"top", place.at(0, 0, height), place.x, top},
                     {"height", place.at(0, std::max(bottom, top), 0), place.normal, height}};
    return result;
  }
};

}  // namespace

const StepKind& coneStep() {
  static const Cone kind;
  return kind;
}

}  // namespace kervo
