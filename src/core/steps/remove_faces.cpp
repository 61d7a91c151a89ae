// Faces taken off bodies, whose neighbours close the gap: rounds, bosses, pockets, holes.
#include "base/say.h"
#include "fields/faces_field.h"
#include "geom/faces/removed_faces.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/picked_faces.h"

namespace kervo {

namespace {

class RemoveFaces : public StepKind {
 public:
  RemoveFaces()
      : StepKind({.key = "remove_faces",
                  .label = "Remove faces",
                  .menu = KindMenu::Cut,
                  .help = "Takes rounds, bosses, pockets or holes off bodies; what is round them closes the gap",
                  .wells = {.stock = {"Faces", "what goes"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override { start.set(faces_, selected.faces()); }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Face) ? std::optional<std::string>(say("Remove faces")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    for (const PickedFaces& each : pickedFaces(inputs, faces_, result)) {
      try {
        replaceBody(result, each.body, each.shape, withoutFaces(each.shape, each.numbers, progress));
      } catch (const Error& error) {
        throw error.within(say("body \"%1\"", each.body));
      }
      result.audit.notes.push_back(
          sayCount(each.numbers.size(), "\"%2\": %1 face is gone", "\"%2\": %1 faces are gone", each.body));
    }
    return result;
  }

 private:
  const FacesField faces_{*this,
                          {.key = "faces",
                           .label = "Faces",
                           .well = Well::Stock,
                           .help = "all of a pocket or boss, or the rounds between others"}};
};

}  // namespace

const StepKind& removeFacesStep() {
  static const RemoveFaces kind;
  return kind;
}

}  // namespace kervo
