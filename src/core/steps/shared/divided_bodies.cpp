#include "steps/shared/divided_bodies.h"

#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/planes.h"
#include "model/piece_names.h"

namespace kervo {

namespace {

bool contains(const std::vector<BodyId>& list, const BodyId& name) {
  return std::find(list.begin(), list.end(), name) != list.end();
}

void noteKind(Audit& audit, const Shape& part) {
  if (part.kind() != BodyKind::Solid && !(part.mesh() && part.watertight())) audit.watertight = false;
}

struct NamedPart {
  BodyId id;
  std::string name;
  Shape shape;
};

/// What the parts are called: one keeps `id`, several are called id/name.
std::vector<NamedPart> named(StepInputs& inputs, const BodyId& id, const std::string& label,
                             const std::vector<Shape>& parts) {
  if (parts.size() == 1) return {{id, label, parts.front()}};
  const PieceNames names = namePieces(parts, id);
  if (names.byPosition)
    inputs.warn(say("some pieces of \"%1\" can be told apart by their position only; later steps may lose them", id));
  std::vector<NamedPart> result;
  for (std::size_t i = 0; i < parts.size(); ++i)
    result.push_back(
        {id.part(names.names[i]), label.empty() ? names.spoken[i] : label + " " + names.spoken[i], parts[i]});
  return result;
}

Piece pieceOf(const NamedPart& part, const BodyId& from, bool kept) {
  return {part.name.empty() ? part.id.text() : part.name,
          kept ? part.id : BodyId(),
          part.shape.volume(),
          part.shape.area(),
          lengthOfCurve(part.shape),
          part.shape.roughBox().centre(),
          kept,
          part.shape,
          from,
          part.id};
}

void moveVolume(Audit& audit, double volume, bool toKept) {
  audit.volumeAfter += toKept ? volume : -volume;
  audit.volumeRemoved += toKept ? -volume : volume;
}

void drop(StepResult& result, Piece& piece) {
  std::erase_if(result.made, [&](const Output& made) { return made.id == piece.body; });
  piece.kept = false;
  piece.body = {};
  moveVolume(result.audit, piece.volume, false);
}

/// A dropped piece that is to stay; what a kerf took may be in several parts, which become pieces of their own.
std::vector<Piece> keep(StepResult& result, StepInputs& inputs, const Piece& piece, const PieceChoice& choice) {
  std::vector<Piece> pieces;
  for (const NamedPart& part : named(inputs, piece.key, piece.name, piece.shape.pieces())) {
    const bool kept = !contains(choice.drop, part.id) || part.id == piece.key;
    pieces.push_back(pieceOf(part, piece.from, kept));
    if (!kept) continue;
    noteKind(result.audit, part.shape);
    moveVolume(result.audit, part.shape.volume(), true);
    result.made.push_back({.id = part.id, .form = part.shape, .from = piece.from, .name = part.name});
  }
  return pieces;
}

}  // namespace

Stock stockOf(StepInputs& inputs, const BodiesField& field) {
  const BodyPick& pick = field.in(inputs);
  if (!pick.all && pick.bodies.empty()) field.fail(say("no stock is chosen"), say("Pick the bodies to cut"));
  Stock stock;
  for (const BodyId& body : field.of(inputs)) (inputs.shielded(body) ? stock.shielded : stock.bodies).push_back(body);
  if (!pick.all)
    for (const BodyId& body : stock.shielded) inputs.warn(say("\"%1\" is shielded and stays as it is", body));
  if (stock.bodies.empty())
    field.fail(
        stock.shielded.empty() ? say("there is no body to cut") : say("all of the stock is shielded"),
        stock.shielded.empty() ? say("Make or bring in a body first") : say("Unshield a body, or choose others"));
  return stock;
}

void requireFeasible(StepInputs& inputs, const std::vector<BodyId>& stock, double cutterFaces) {
  // A minute or so of looking at boxes alone.
  constexpr double mostPairs = 1e9;
  double faces = 0;
  for (const BodyId& body : stock) faces += inputs.shape(body).faceCount();
  if (faces * cutterFaces <= mostPairs) return;
  throw Error(say("this would intersect %1 faces with at least %2 faces of cutters", formatNumber(faces, 15),
                  formatNumber(cutterFaces, 15)),
              say("field Stock"),
              say("At most %1 pairs of faces are intersected: choose fewer bodies", formatNumber(mostPairs, 15)));
}

void requireFeasible(const std::vector<Plane>& planes, const Box& around) {
  constexpr double mostPieces = 100'000;
  // Parallel planes make a piece more each; those of another direction divide all of them once more. In space three
  // directions do that, further ones only in part.
  std::vector<std::pair<Vector, double>> directions;
  for (const Plane& plane : planes) {
    if (!crosses(plane, around)) continue;
    const auto same = std::find_if(directions.begin(), directions.end(), [&](const auto& known) {
      return length(cross(known.first, plane.normal)) < tolerance::parallel;
    });
    if (same == directions.end())
      directions.emplace_back(plane.normal, 2);
    else
      ++same->second;
  }
  std::sort(directions.begin(), directions.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
  double pieces = 1;
  for (std::size_t i = 0; i < std::min<std::size_t>(directions.size(), 3); ++i) pieces *= directions[i].second;
  if (pieces <= mostPieces) return;
  throw Error(say("%1 planes would make up to %2 pieces of each body", planes.size(), formatNumber(pieces, 15)),
              say("field Cutters"), say("At most %1 are made: split in several steps", formatNumber(mostPieces, 15)));
}

void addKept(StepResult& result, StepInputs& inputs, const BodyId& from, const BodyId& id, const std::string& label,
             const std::vector<Shape>& parts) {
  for (const NamedPart& part : named(inputs, id, label, parts)) {
    noteKind(result.audit, part.shape);
    result.pieces.push_back(pieceOf(part, from, true));
    result.made.push_back({.id = part.id, .form = part.shape, .from = from, .name = part.name});
  }
}

void addDropped(StepResult& result, StepInputs& inputs, const BodyId& from, const BodyId& id, const std::string& label,
                const std::vector<Shape>& parts) {
  for (const NamedPart& part : named(inputs, id, label, parts)) result.pieces.push_back(pieceOf(part, from, false));
}

void addWaste(StepResult& result, const BodyId& from, const BodyId& id, const std::string& name, const Shape& waste) {
  if (!waste.empty()) result.pieces.push_back(pieceOf({id, name, waste}, from, false));
}

void addBalance(Audit& audit, const BodyId& body, const Division& cut) {
  audit.cuts = true;
  audit.touched.push_back(body);
  const double sides = cut.outside.volume() + cut.inside.volume();
  // A surface's balance is one of areas, and has no volume to report.
  const bool solid = sides > 0;
  audit.volumeBefore += solid ? cut.balance.before : 0;
  audit.balance += solid ? cut.balance.residual() : 0;
  noteMeshed(audit, cut.meshed);
  if (!cut.remedy.empty()) audit.warnings.push_back(say("the kernel needed help with \"%1\": %2", body, cut.remedy));
}

void addDivided(StepResult& result, StepInputs& inputs, const BodyId& body, const Division& cut) {
  addBalance(result.audit, body, cut);
  result.audit.volumeAfter += cut.outside.volume();
  result.audit.volumeRemoved += cut.inside.volume();
  result.consumed.push_back(body);
  if (cut.outside.empty())
    inputs.warn(say("the whole of \"%1\" is cut away: nothing of it stays", body));
  else
    addKept(result, inputs, body, body, "", cut.outside.pieces());
  addWaste(result, body, body + "/removed", "removed", cut.inside);
}

void noteMeshed(Audit& audit, double within) {
  if (within == 0) return;
  const std::string note =
      say("exact bodies are meshed within %1 mm, because others are meshes", formatNumber(within, 3));
  if (std::find(audit.notes.begin(), audit.notes.end(), note) == audit.notes.end()) audit.notes.push_back(note);
}

void noteSeams(Audit& audit, const Union& joined) {
  if (joined.seamsStay)
    audit.notes.push_back(say("edges between faces of one surface stay: beside a torus they cannot be removed"));
}

void settlePieces(StepResult& result, StepInputs& inputs, const PieceChoice& choice) {
  if (choice == PieceChoice{}) return;
  std::vector<Piece> settled;
  for (Piece& piece : result.pieces) {
    if (piece.kept && contains(choice.drop, piece.key)) drop(result, piece);
    if (!piece.kept && contains(choice.keep, piece.key)) {
      for (Piece& kept : keep(result, inputs, piece, choice)) settled.push_back(std::move(kept));
      continue;
    }
    settled.push_back(std::move(piece));
  }
  result.pieces = std::move(settled);
  const auto there = [&](const std::string& key) {
    return std::any_of(result.pieces.begin(), result.pieces.end(),
                       [&](const Piece& piece) { return piece.key == key || piece.key.isOfFamily(key); });
  };
  // A choice that was made before any piece was seen keeps what there is, and misses nothing.
  const bool seen = !choice.known.empty();
  for (const std::vector<BodyId>* list : {&choice.keep, &choice.drop})
    for (const BodyId& key : *list)
      if (!there(key) && (seen || list == &choice.drop))
        inputs.warn(say("the piece \"%1\", which was chosen, is not there any more", key));
  if (choice.known.empty()) return;
  for (const Piece& piece : result.pieces)
    if (std::none_of(choice.known.begin(), choice.known.end(),
                     [&](const BodyId& known) { return piece.key.isOfFamily(known); }))
      inputs.warn(say(piece.kept ? later("a new piece has appeared since pieces were chosen (%1); it stays")
                                 : later("a new piece has appeared since pieces were chosen (%1); it goes"),
                      piece.name));
}

}  // namespace kervo
