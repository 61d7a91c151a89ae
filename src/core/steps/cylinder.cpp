// A cylinder from radius and height.
#include "geom/primitives.h"
#include "steps/registry.h"
#include "steps/shared/placed_solid.h"

namespace kervo {

namespace {

class Cylinder : public PlacedSolid {
 public:
  Cylinder() : PlacedSolid("cylinder", "Cylinder", "From radius and height", Offered::Always) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane place = placement_.of(inputs);
    const double radius = radius_.of(inputs), height = height_.of(inputs);
    StepResult result = newBody(inputs, makeCylinder(inputs.id(), place, radius, height));
    result.gauges = {{radius_.key(), place.at(0, 0, height), place.x, radius},
                     {height_.key(), place.at(0, radius, 0), place.normal, height}};
    return result;
  }

 protected:
  const Placement& placement() const override { return placement_; }

 private:
  const SizeField radius_{*this, {.key = "radius", .label = "Radius"}, "20 mm"};
  const SizeField height_{*this, {.key = "height", .label = "Height"}, "40 mm"};
  const Placement placement_{*this};
};

}  // namespace

const StepKind& cylinderStep() {
  static const Cylinder kind;
  return kind;
}

}  // namespace kervo
