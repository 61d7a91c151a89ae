#include "steps/block.h"

#include "geom/primitives.h"
#include "steps/placed_solid.h"

namespace kervo {

namespace {

class Block : public SimpleStep {
 public:
  Block()
      : SimpleStep("block", "Block",
                   withPlacement({sizeField("width", "Width", "100 mm"), sizeField("depth", "Depth", "60 mm"),
                                  sizeField("height", "Height", "40 mm")})) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane place = placementOf(inputs);
    const double width = inputs.number("width"), depth = inputs.number("depth"), height = inputs.number("height");
    StepResult result = newBody(inputs, makeBlock(inputs.id(), place, width, depth, height));
    result.gauges = {{"width", place.at(0, depth / 2, height), place.x, width},
                     {"depth", place.at(width / 2, 0, height), place.y, depth},
                     {"height", place.at(width, depth, 0), place.normal, height}};
    return result;
  }
};

}  // namespace

const StepKind& blockStep() {
  static const Block kind;
  return kind;
}

}  // namespace kervo
