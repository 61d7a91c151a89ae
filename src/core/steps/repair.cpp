// Damaged bodies made sound again, linked to where they come from.
#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "geom/mesh/mesh_repair.h"
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

std::string whatWasDone(const MeshRepaired& repaired) {
  std::string text;
  const auto add = [&](std::size_t count, const std::string& what) {
    if (count > 0) text += (text.empty() ? "" : ", ") + what;
  };
  add(repaired.weldedPoints,
      sayCount(repaired.weldedPoints, "%1 point was joined with another", "%1 points were joined with others"));
  add(repaired.degenerate + repaired.doubles,
      sayCount(repaired.degenerate + repaired.doubles, "%1 triangle without an area or there twice went",
               "%1 triangles without an area or there twice went"));
  add(repaired.turned ? 1 : 0, say("triangles were turned to look outwards"));
  const std::size_t filled = repaired.holes - repaired.holesLeft;
  add(filled, sayCount(filled, "%1 hole was filled", "%1 holes were filled"));
  const std::size_t parted = repaired.crossings - std::min(repaired.crossings, repaired.crossingsLeft);
  add(parted, sayCount(parted, "%1 pair of triangles that ran through each other was mended",
                       "%1 pairs of triangles that ran through each other were mended"));
  add(repaired.partsGone, sayCount(repaired.partsGone, "%1 smaller part went", "%1 smaller parts went"));
  return text;
}

class Repair : public StepKind {
 public:
  Repair()
      : StepKind({.key = "repair",
                  .label = "Repair",
                  .menu = KindMenu::Check,
                  .verb = "Repair bodies",
                  .help = "Mends faces and joins edges; welds, closes and orients meshes",
                  .mends = true,
                  .takesMeshes = true}) {}

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
      if (before.mesh()) {
        repairMesh(inputs, result, body, before, progress);
        continue;
      }
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
  void repairMesh(StepInputs& inputs, StepResult& result, const BodyId& body, const Shape& before,
                  Progress& progress) const {
    MeshRepaired after = repaired(
        *before.mesh(), {weld_.of(inputs), holes_.of(inputs), crossings_.of(inputs), largest_.of(inputs)}, progress);
    if (after.mesh.empty()) weld_.fail(say("nothing of \"%1\" would be left", body), say("Type a smaller length here"));
    if (!after.changed()) {
      result.audit.notes.push_back(say("\"%1\" has nothing to repair", body));
      return;
    }
    result.audit.notes.push_back("\"" + body + "\": " + whatWasDone(after));
    if (after.holesLeft > 0)
      result.audit.warnings.push_back(say("\"%1\": %2 of its holes could not be filled", body, after.holesLeft));
    if (after.crossingsLeft > 0)
      result.audit.warnings.push_back(
          say("\"%1\": %2 pairs of triangles still run through each other", body, after.crossingsLeft));
    result.audit.watertight &= after.mesh.watertight();
    replaceBody(result, body, before, Shape(std::move(after.mesh)));
  }

  const BodiesField bodies_{
      *this,
      {.key = "bodies",
       .label = "Bodies",
       .well = Well::Stock,
       .help = "Faces that are not valid are mended, and free edges joined. Nothing else changes"}};
  const LengthField weld_{*this,
                          {.key = "weld",
                           .label = "Weld points within",
                           .well = Well::Reach,
                           .help = "Of meshes: points nearer to each other than that become one"},
                          "0 mm",
                          NumberRule::NotNegative};
  const FlagField holes_{
      *this, {.key = "fill_holes", .label = "Fill holes", .well = Well::Reach, .help = "Of meshes"}, true};
  const FlagField crossings_{*this,
                             {.key = "part_crossings",
                              .label = "Mend crossings",
                              .well = Well::Reach,
                              .help = "Of meshes: triangles that run through each other are replaced"},
                             true};
  const FlagField largest_{*this,
                           {.key = "keep_largest",
                            .label = "Keep the largest part only",
                            .well = Well::Reach,
                            .help = "Of meshes: separate smaller parts, e.g. dust of a scan, go"}};
};

}  // namespace

const StepKind& repairStep() {
  static const Repair kind;
  return kind;
}

}  // namespace kervo
