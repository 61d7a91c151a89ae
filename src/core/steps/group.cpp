#include "steps/group.h"

#include "geom/boolean.h"
#include "steps/divided_bodies.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

class Group : public SimpleStep {
 public:
  Group()
      : SimpleStep("group", "Group",
                   {{.key = "bodies",
                     .label = "Members",
                     .type = FieldType::Bodies,
                     .well = Well::Stock,
                     .help = "Solids are joined, hole-makers taken away from them; shielded ones stay as they are"},
                    piecesField()}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock members = stockOf(inputs, "bodies");
    std::vector<BodyId> solids, holes;
    for (const BodyId& body : members.bodies) {
      if (inputs.shape(body).kind() != BodyKind::Solid)
        throw Error("\"" + body + "\" is a " + nameOf(inputs.shape(body).kind()) + " and cannot be a member",
                    "field Members", "Take it out, or make it a solid first");
      (inputs.holeMaker(body) ? holes : solids).push_back(body);
    }
    if (solids.empty())
      throw Error("the group has no solid, only hole-makers", "field Members", "Add the body that gets the holes");
    StepResult result;
    Audit& audit = result.audit;
    audit.shielded = members.shielded;
    std::vector<Shape> parts, tools;
    for (const BodyId& body : solids) parts.push_back(inputs.shape(body));
    for (const BodyId& body : holes) tools.push_back(inputs.shape(body));
    const Union joined = unite(parts, progress);
    if (!joined.remedy.empty()) inputs.warn("the kernel needed help with the union: " + joined.remedy);
    noteSeams(audit, joined);
    const Division cut = divide(joined.shape, tools, progress);
    if (!holes.empty() && cut.inside.empty()) inputs.warn("no hole-maker reaches into a solid");
    if (cut.outside.empty())
      throw Error("the hole-makers take the whole of the solids", "field Members", "Make them smaller, or move them");
    audit.cuts = true;
    audit.touched = solids;
    audit.volumeBefore = joined.shape.volume();
    audit.volumeAfter = cut.outside.volume();
    audit.volumeRemoved = cut.inside.volume();
    audit.balance = cut.balance.residual();
    result.consumed = solids;
    result.consumed.insert(result.consumed.end(), holes.begin(), holes.end());
    addKept(result, inputs, solids.front(), inputs.id(), "", cut.outside.pieces());
    if (result.made.size() == 1) result.made.front().name.clear();
    addWaste(result, solids.front(), BodyId(inputs.id()).part("removed"), "taken by the hole-makers", cut.inside);
    settlePieces(result, inputs);
    return result;
  }
};

}  // namespace

const StepKind& groupStep() {
  static const Group kind;
  return kind;
}

}  // namespace kervo
