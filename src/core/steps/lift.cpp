// Faces of bodies as a surface of their own, which follows them.
#include "base/say.h"
#include "fields/faces_field.h"
#include "geom/surface/sheet.h"
#include "model/step_inputs.h"
#include "steps/registry.h"

namespace kervo {

namespace {

class Lift : public StepKind {
 public:
  Lift()
      : StepKind({.key = "lift",
                  .label = "Lift",
                  .menu = KindMenu::Surface,
                  .verb = "Lift faces",
                  .shortcut = "Ctrl+L",
                  .help = "Faces as a surface of their own, which follows them"}) {}

  void startFrom(const Selected& selected, Start& start) const override { start.set(faces_, selected.faces()); }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Face) ? std::optional(label()) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Shape surface = lifted(faces_.of(inputs));
    StepResult result;
    result.audit.watertight = false;
    result.audit.touched = {inputs.id()};
    result.audit.notes.push_back(say("linked: the surface follows its faces. Frozen as a snapshot it stays as it is"));
    result.pieces.push_back(Piece::whole(inputs.id(), inputs.id(), surface));
    result.pieces.back().key = inputs.id();
    result.made.push_back({.id = inputs.id(), .form = surface});
    return result;
  }

 private:
  const FacesField faces_{*this,
                          {.key = "faces",
                           .label = "Faces",
                           .well = Well::Stock,
                           .help = "The surface follows these faces when they change"}};
};

}  // namespace

const StepKind& liftStep() {
  static const Lift kind;
  return kind;
}

}  // namespace kervo
