// A box from three sizes.
#include "geom/primitives.h"
#include "steps/registry.h"
#include "steps/shared/placed_solid.h"

namespace kervo {

namespace {

class Block : public PlacedSolid {
 public:
  Block() : PlacedSolid("block", "Block", "A box from three sizes", Offered::Always, true) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane place = placement_.of(inputs);
    const double width = width_.of(inputs), depth = depth_.of(inputs), height = height_.of(inputs);
    StepResult result = newBody(inputs, makeBlock(inputs.id(), place, width, depth, height));
    result.gauges = {{width_.key(), place.at(0, depth / 2, height), place.x, width},
                     {depth_.key(), place.at(width / 2, 0, height), place.y, depth},
                     {height_.key(), place.at(width, depth, 0), place.normal, height}};
    return result;
  }

 protected:
  const Placement& placement() const override { return placement_; }

 private:
  const SizeField width_{*this, {.key = "width", .label = "Width"}, "100 mm"};
  const SizeField depth_{*this, {.key = "depth", .label = "Depth"}, "60 mm"};
  const SizeField height_{*this, {.key = "height", .label = "Height"}, "40 mm"};
  const Placement placement_{*this};
};

}  // namespace

const StepKind& blockStep() {
  static const Block kind;
  return kind;
}

}  // namespace kervo
