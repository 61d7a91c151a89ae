// Surfaces at a distance from others, or from faces of bodies.
#include <cmath>

#include "base/say.h"
#include "fields/faces_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "geom/surface/offset_surface.h"
#include "geom/surface/sheet.h"
#include "steps/registry.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class OffsetSurface : public StepKind {
 public:
  OffsetSurface()
      : StepKind({.key = "offset_surface",
                  .label = "Offset",
                  .menu = KindMenu::Surface,
                  .verb = "Offset surfaces",
                  .help = "A surface at a distance from another, or from faces of a body, along the normals"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    const auto surfaces = selectedSurfaces(selected);
    if (!surfaces.empty()) start.set(surface_, BodyPick::only({surfaces.front()}));
    start.set(faces_, selected.faces());
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const Shape surface = surfaceOf(inputs);
    const double by = flip_.of(inputs) ? -by_.of(inputs) : by_.of(inputs);
    try {
      const auto bend = tightestBend(surface, by > 0);
      if (bend && bend->radius <= std::abs(by)) markPlace(inputs.finding(), bend->place, surface.roughBox().diagonal());
      addNew(result, inputs.id(), offsetSurface(surface, by, inputs.id(), progress));
    } catch (const Error& error) {
      throw error.within(by_.place());
    }
    const Face face = facesOf(surface).front();
    result.gauges.push_back(
        {by_.key(), face.samplePoint(), flip_.of(inputs) ? -face.normal() : face.normal(), by_.of(inputs)});
    result.audit.notes.push_back(say("linked: it follows what it is offset from"));
    return result;
  }

 private:
  Shape surfaceOf(StepInputs& inputs) const {
    if (!faces_.in(inputs).empty()) return lifted(faces_.of(inputs));
    const std::vector<BodyId> bodies = surface_.of(inputs);
    if (bodies.size() != 1 || inputs.shape(bodies.front()).kind() != BodyKind::Surface)
      surface_.fail(say("one surface is offset at a time, or faces of bodies"), say("Pick a surface, or faces"));
    return inputs.shape(bodies.front());
  }

  const BodiesField surface_{*this, {.key = "surface", .label = "Surface", .well = Well::Stock}, BodyPick::only({})};
  const FacesField faces_{*this, {.key = "faces", .label = "Faces", .well = Well::Stock}};
  const LengthField by_{*this, {.key = "by", .label = "Distance", .well = Well::Reach}, "2 mm", NumberRule::Positive};
  const FlagField flip_{*this, {.key = "flip", .label = "To the back", .well = Well::Reach}};
};

}  // namespace

const StepKind& offsetSurfaceStep() {
  static const OffsetSurface kind;
  return kind;
}

}  // namespace kervo
