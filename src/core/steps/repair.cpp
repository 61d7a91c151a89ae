// Damaged bodies made sound again, linked to where they come from.
#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/surface/repair.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

std::string whatWasDone(const Repaired& repaired) {
  std::string text;
  if (repaired.faces > 0) text = sayCount(repaired.faces, "%1 face was mended", "%1 faces were mended");
  if (repaired.joinedEdges > 0)
    text += (text.empty() ? "" : ", ") + say("%1 free edges were joined", repaired.joinedEdges);
  return text;
}

class Repair : public StepKind {
 public:
  Repair()
      : StepKind({.key = "repair",
                  .label = "Repair",
                  .menu = KindMenu::Check,
                  .verb = "Repair bodies",
                  .help = "Mends faces that are not valid and joins free edges",
                  .mends = true}) {}

  /// The selected bodies, or all damaged ones.
  void startFrom(const Selected& selected, Start& start) const override {
    const std::vector<BodyId> bodies = selected.bodies();
    start.set(bodies_, BodyPick::only(bodies.empty() ? selected.damaged : bodies));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    for (const BodyId& body : selected.bodies())
      if (std::find(selected.damaged.begin(), selected.damaged.end(), body) != selected.damaged.end())
        return say("Repair it …");
    return std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, bodies_);
    StepResult result;
    result.audit.shielded = stock.shielded;
    for (const BodyId& body : stock.bodies) {
      const Shape before = inputs.shape(body);
      const bool isOnly = stock.bodies.size() == 1;
      // Of several bodies, those without a flaw stay as they are.
      if (!isOnly && flawsOf(before, progress).empty()) continue;
      const Repaired after = repaired(before, progress);
      result.audit.notes.push_back("\"" + body + "\": " + whatWasDone(after));
      result.audit.valid &= after.shape.valid();
      for (const Flaw& flaw : after.left)
        result.audit.warnings.push_back(say("\"%1\": %2; this could not be repaired", body, flaw.text()));
      replaceBody(result, body, before, after.shape);
    }
    if (result.made.empty())
      bodies_.fail(say("none of the bodies has a flaw that could be repaired"), say("Choose damaged bodies"));
    return result;
  }

 private:
  const BodiesField bodies_{
      *this,
      {.key = "bodies",
       .label = "Bodies",
       .well = Well::Stock,
       .help = "Faces that are not valid are mended, and free edges joined. Nothing else changes"}};
};

}  // namespace

const StepKind& repairStep() {
  static const Repair kind;
  return kind;
}

}  // namespace kervo
