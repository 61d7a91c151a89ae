// Solids joined, minus their hole-makers; shielded members pass through untouched.
#include "base/say.h"
#include "geom/divide/boolean.h"
#include "steps/registry.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class Group : public StepKind {
 public:
  Group()
      : StepKind({.key = "group",
                  .label = "Group",
                  .menu = KindMenu::Arrange,
                  .verb = "Group bodies",
                  .shortcut = "Ctrl+Shift+G",
                  .help = "Solids joined, hole-makers taken away from them",
                  .takesMeshes = true,
                  .opens = true}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.bodies()));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.bodies().size() > 1 ? std::optional<std::string>(say("Group them")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock members = stockOf(inputs, bodies_);
    std::vector<BodyId> solids, holes;
    for (const BodyId& body : members.bodies) {
      if (!inputs.shape(body).hasInside())
        bodies_.fail(say("\"%1\" is a %2 and cannot be a member", body, say(nameOf(inputs.shape(body).kind()))),
                     say("Take it out, or make it a solid first"));
      (inputs.holeMaker(body) ? holes : solids).push_back(body);
    }
    if (solids.empty())
      bodies_.fail(say("the group has no solid, only hole-makers"), say("Add the body that gets the holes"));
    StepResult result;
    Audit& audit = result.audit;
    audit.shielded = members.shielded;
    std::vector<Shape> parts, tools;
    for (const BodyId& body : solids) parts.push_back(inputs.shape(body));
    for (const BodyId& body : holes) tools.push_back(inputs.shape(body));
    const Union joined = unite(parts, progress);
    if (!joined.remedy.empty()) inputs.warn(say("the kernel needed help with the union: %1", joined.remedy));
    noteSeams(audit, joined);
    noteMeshed(audit, joined.meshed);
    const Division cut = divide(joined.shape, tools, progress);
    noteMeshed(audit, cut.meshed);
    if (!holes.empty() && cut.inside.empty()) inputs.warn(say("no hole-maker reaches into a solid"));
    if (cut.outside.empty())
      bodies_.fail(say("the hole-makers take the whole of the solids"), say("Make them smaller, or move them"));
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
    addWaste(result, solids.front(), BodyId(inputs.id()).part("removed"), say("taken by the hole-makers"), cut.inside);
    settlePieces(result, inputs, pieces_.in(inputs));
    return result;
  }

 private:
  const BodiesField bodies_{
      *this,
      {.key = "bodies",
       .label = "Members",
       .well = Well::Stock,
       .help = "Solids are joined, hole-makers taken away from them; shielded ones stay as they are"}};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& groupStep() {
  static const Group kind;
  return kind;
}

}  // namespace kervo
