// Openings filled as if they had never been.
#include "base/say.h"
#include "steps/registry.h"
#include "steps/shared/opening_work.h"

namespace kervo {

namespace {

class CloseOpening : public StepKind {
 public:
  CloseOpening()
      : StepKind({.key = "close_opening",
                  .label = "Close opening",
                  .menu = KindMenu::Cut,
                  .verb = "Close openings",
                  .help = "Holes, windows, doors, notches and pockets are filled; their walls are whole again",
                  .ofOpening = "Close",
                  .wells = {.stock = {"Openings", "what goes"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(openings_.faces, selected.facesOfOpenings());
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyInOpening() ? std::optional<std::string>(say("Close opening")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    for (const BodyOpenings& openings : openings_.of(inputs, result)) {
      recut(
          result, openings, [](int, const Shape&) { return Recut(); }, progress);
      result.audit.notes.push_back(sayCount(openings.picked.size(), "\"%2\": %1 opening is closed",
                                            "\"%2\": %1 openings are closed", openings.body));
    }
    return result;
  }

 private:
  const OpeningFields openings_{*this};
};

}  // namespace

const StepKind& closeOpeningStep() {
  static const CloseOpening kind;
  return kind;
}

}  // namespace kervo
