#include "steps/repair.h"

#include "base/quantity.h"
#include "geom/repair.h"
#include "steps/divided_bodies.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

std::string whatWasDone(const Repaired& repaired) {
  std::string text;
  if (repaired.faces > 0)
    text = std::to_string(repaired.faces) + (repaired.faces == 1 ? " face was mended" : " faces were mended");
  if (repaired.joinedEdges > 0)
    text += std::string(text.empty() ? "" : ", ") + std::to_string(repaired.joinedEdges) + " free edges were joined";
  return text;
}

class Repair : public SimpleStep {
 public:
  Repair()
      : SimpleStep("repair", "Repair",
                   {{.key = "bodies",
                     .label = "Bodies",
                     .type = FieldType::Bodies,
                     .well = Well::Stock,
                     .help = "Faces that are not valid are mended, and free edges joined. Nothing else changes"}}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, "bodies");
    StepResult result;
    result.audit.shielded = stock.shielded;
    for (const BodyId& body : stock.bodies) {
      const Shape before = inputs.shape(body);
      const bool isOnly = stock.bodies.size() == 1;
      // Of several bodies, those without a flaw stay as they are.
      if (!isOnly && flawsOf(before, progress).empty()) continue;
      const Repaired after = repaired(before, progress);
      result.audit.touched.push_back(body);
      result.audit.volumeBefore += before.volume();
      result.audit.volumeAfter += after.shape.volume();
      result.audit.notes.push_back("\"" + body + "\": " + whatWasDone(after));
      result.audit.valid &= after.shape.valid();
      for (const Flaw& flaw : after.left)
        result.audit.warnings.push_back("\"" + body + "\": " + flaw.text() + "; this could not be repaired");
      result.consumed.push_back(body);
      result.pieces.push_back(
          {body, body, after.shape.volume(), after.shape.area(), after.shape.roughBox().centre(), true, after.shape});
      result.made.push_back({body, after.shape, body, "", std::nullopt, ""});
    }
    if (result.made.empty())
      throw Error("none of the bodies has a flaw that could be repaired", "field Bodies", "Choose damaged bodies");
    return result;
  }
};

}  // namespace

const StepKind& repairStep() {
  static const Repair kind;
  return kind;
}

}  // namespace kervo
