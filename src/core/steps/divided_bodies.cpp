#include "steps/divided_bodies.h"

#include "model/piece_names.h"

namespace kervo {

Stock stockOf(StepInputs& inputs, const std::string& field) {
  const BodyPick& pick = inputs.value<BodyPick>(field);
  if (!pick.all && pick.bodies.empty()) throw Error("no stock is chosen", "field Stock", "Pick the bodies to cut");
  Stock stock;
  for (const BodyId& body : inputs.picked(pick, field))
    (inputs.shielded(body) ? stock.shielded : stock.bodies).push_back(body);
  if (!pick.all)
    for (const BodyId& body : stock.shielded) inputs.warn("\"" + body + "\" is shielded and stays as it is");
  if (stock.bodies.empty())
    throw Error(stock.shielded.empty() ? "there is no body to cut" : "all of the stock is shielded", "field Stock",
                stock.shielded.empty() ? "Make or bring in a body first" : "Unshield a body, or choose others");
  return stock;
}

void addKept(StepResult& result, StepInputs& inputs, const BodyId& from, const BodyId& id, const std::string& label,
             const std::vector<Shape>& parts) {
  for (const Shape& part : parts)
    if (part.kind() != BodyKind::Solid) result.audit.watertight = false;
  if (parts.size() == 1) {
    const Shape& part = parts.front();
    result.pieces.push_back(
        {label.empty() ? id : label, id, part.volume(), part.area(), part.roughBox().centre(), true, part, from});
    result.made.push_back({id, part, from, label, std::nullopt, ""});
    return;
  }
  const PieceNames names = namePieces(parts, id);
  if (names.byPosition)
    inputs.warn("some pieces of \"" + id + "\" can be told apart by their position only; later steps may lose them");
  for (std::size_t i = 0; i < parts.size(); ++i) {
    const std::string name = label.empty() ? names.names[i] : label + " " + names.names[i];
    const BodyId piece = id + "/" + names.names[i];
    result.pieces.push_back(
        {name, piece, parts[i].volume(), parts[i].area(), parts[i].roughBox().centre(), true, parts[i], from});
    result.made.push_back({piece, parts[i], from, name, std::nullopt, ""});
  }
}

void addDropped(StepResult& result, const BodyId& from, const std::string& name, const Shape& part) {
  if (part.empty()) return;
  result.pieces.push_back({name, "", part.volume(), part.area(), part.roughBox().centre(), false, part, from});
}

void addBalance(Audit& audit, const BodyId& body, const Division& cut) {
  audit.cuts = true;
  audit.touched.push_back(body);
  const double sides = cut.outside.volume() + cut.inside.volume();
  // A surface's balance is one of areas, and has no volume to report.
  const bool solid = sides > 0;
  audit.volumeBefore += solid ? cut.balance.before : 0;
  audit.balance += solid ? cut.balance.residual() : 0;
  if (!cut.remedy.empty()) audit.warnings.push_back("the kernel needed help with \"" + body + "\": " + cut.remedy);
}

void addDivided(StepResult& result, StepInputs& inputs, const BodyId& body, const Division& cut) {
  addBalance(result.audit, body, cut);
  result.audit.volumeAfter += cut.outside.volume();
  result.audit.volumeRemoved += cut.inside.volume();
  result.consumed.push_back(body);
  if (cut.outside.empty())
    inputs.warn("the whole of \"" + body + "\" is cut away: nothing of it stays");
  else
    addKept(result, inputs, body, body, "", cut.outside.pieces());
  addDropped(result, body, "removed from " + body, cut.inside);
}

}  // namespace kervo
