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
    return newBody(inputs, makeBlock(inputs.id(), placementOf(inputs), inputs.number("width"), inputs.number("depth"),
                                     inputs.number("height")));
  }
};

}  // namespace

const StepKind& blockStep() {
  static const Block kind;
  return kind;
}

}  // namespace kervo
