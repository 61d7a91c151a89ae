// Solids of surfaces: as thick as wanted, to one side or both.
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/faces_field.h"
#include "fields/number_field.h"
#include "geom/surface/offset_surface.h"
#include "geom/surface/sheet.h"
#include "steps/registry.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class Thicken : public StepKind {
 public:
  Thicken()
      : StepKind({.key = "thicken",
                  .label = "Thicken",
                  .menu = KindMenu::Surface,
                  .help = "Surfaces, or faces of bodies, as solids of a thickness"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(surfaces_, BodyPick::only(selectedSurfaces(selected)));
    start.set(faces_, selected.faces());
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selectedSurfaces(selected).empty() ? std::nullopt : std::optional(say("Thicken it …"));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const std::vector<BodyId> bodies = surfacesOf(inputs, surfaces_, result.audit);
    const bool faces = !faces_.in(inputs).empty();
    if (bodies.empty() && !faces)
      surfaces_.fail(say("no surface and no face is chosen"), say("Pick what is to be thickened"));
    const auto [from, to] = spanOf(inputs);
    for (const BodyId& body : bodies) {
      const Shape surface = inputs.shape(body);
      replaceSurface(result, body, surface, solidOf(inputs, surface, from, to, progress));
      showGauge(inputs, result, surface);
    }
    if (faces) {
      const Shape surface = lifted(faces_.of(inputs));
      addNew(result, inputs.id(), solidOf(inputs, surface, from, to, progress));
      showGauge(inputs, result, surface);
    }
    return result;
  }

 private:
  enum class Side { Front, Back, Centred };

  std::pair<double, double> spanOf(const StepInputs& inputs) const {
    const double thick = thickness_.of(inputs);
    switch (side_.of(inputs)) {
      case Side::Front:
        return {0, thick};
      case Side::Back:
        return {-thick, 0};
      case Side::Centred:
        break;
    }
    return {-thick / 2, thick / 2};
  }

  Shape solidOf(StepInputs& inputs, const Shape& surface, double from, double to, Progress& progress) const {
    try {
      for (const double by : {from, to}) {
        const auto bend = by == 0 ? std::nullopt : tightestBend(surface, by > 0);
        if (bend && bend->radius <= std::abs(by))
          markPlace(inputs.finding(), bend->place, surface.roughBox().diagonal());
        if (by != 0) requireNoFold(surface, by);
      }
      return thickened(surface, from, to, inputs.id(), progress);
    } catch (const Error& error) {
      throw error.within(thickness_.place());
    }
  }

  void showGauge(const StepInputs& inputs, StepResult& result, const Shape& surface) const {
    if (!result.gauges.empty()) return;
    const Face face = facesOf(surface).front();
    const Side side = side_.of(inputs);
    result.gauges.push_back({thickness_.key(), face.samplePoint(), side == Side::Back ? -face.normal() : face.normal(),
                             thickness_.of(inputs), side == Side::Centred});
  }

  const BodiesField surfaces_{*this, {.key = "surfaces", .label = "Surfaces", .well = Well::Stock}, BodyPick::only({})};
  const FacesField faces_{
      *this,
      {.key = "faces", .label = "Faces", .well = Well::Stock, .help = "of bodies; they become a body of their own"}};
  const LengthField thickness_{
      *this, {.key = "thickness", .label = "Thickness", .well = Well::Reach}, "2 mm", NumberRule::Positive};
  const ChoiceField<Side> side_{*this,
                                {.key = "side",
                                 .label = "Side",
                                 .well = Well::Reach,
                                 .help = "front is where the faces look, outside of a solid"},
                                {"front", "back", "both"}};
};

}  // namespace

const StepKind& thickenStep() {
  static const Thicken kind;
  return kind;
}

}  // namespace kervo
