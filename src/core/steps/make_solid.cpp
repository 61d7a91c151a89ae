// Solids of closed surfaces.
#include "base/say.h"
#include "geom/surface/sewn.h"
#include "steps/registry.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class MakeSolid : public StepKind {
 public:
  MakeSolid()
      : StepKind({.key = "make_solid",
                  .label = "Make solid",
                  .menu = KindMenu::Surface,
                  .help = "Closed surfaces as solids, or why there is none"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(surfaces_, BodyPick::only(selectedSurfaces(selected)));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selectedSurfaces(selected).size() == 1 ? std::optional(label()) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const std::vector<BodyId> bodies = surfacesOf(inputs, surfaces_, result.audit);
    if (bodies.empty()) surfaces_.fail(say("no surface is chosen"), say("Pick a surface that closes"));
    for (const BodyId& body : bodies) {
      const Shape surface = inputs.shape(body);
      try {
        replaceSurface(result, body, surface, solidWithin(surface, progress));
      } catch (const Error& error) {
        for (const OpenEdge& edge : openEdgesOf(surface)) inputs.finding().gap.push_back(edge.line);
        throw error.within(say("body \"%1\"", body));
      }
    }
    return result;
  }

 private:
  const BodiesField surfaces_{*this, {.key = "surfaces", .label = "Surfaces", .well = Well::Stock}, BodyPick::only({})};
};

}  // namespace

const StepKind& makeSolidStep() {
  static const MakeSolid kind;
  return kind;
}

}  // namespace kervo
