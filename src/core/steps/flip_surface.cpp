// Surfaces with their front where their back was.
#include "base/say.h"
#include "geom/surface/sewn.h"
#include "steps/registry.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class FlipSurface : public StepKind {
 public:
  FlipSurface()
      : StepKind({.key = "flip_surface",
                  .label = "Flip",
                  .menu = KindMenu::Surface,
                  .verb = "Flip surfaces",
                  .help = "Surfaces with their front where their back was: what is taken as outside of them"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(surfaces_, BodyPick::only(selectedSurfaces(selected)));
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    StepResult result;
    const std::vector<BodyId> bodies = surfacesOf(inputs, surfaces_, result.audit);
    if (bodies.empty()) surfaces_.fail(say("no surface is chosen"), say("Pick surfaces"));
    for (const BodyId& body : bodies) replaceSurface(result, body, inputs.shape(body), flipped(inputs.shape(body)));
    return result;
  }

 private:
  const BodiesField surfaces_{*this, {.key = "surfaces", .label = "Surfaces", .well = Well::Stock}, BodyPick::only({})};
};

}  // namespace

const StepKind& flipSurfaceStep() {
  static const FlipSurface kind;
  return kind;
}

}  // namespace kervo
