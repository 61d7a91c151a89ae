// Pegs on the cut faces of one piece, and sockets for them in the pieces across: they line up again.
#include <algorithm>
#include <cmath>
#include <set>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/faces_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "geom/display/outline.h"
#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/surface/key_places.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/key_solids.h"
#include "steps/shared/picked_faces.h"

namespace kervo {

namespace {

class KeyPieces : public StepKind {
 public:
  KeyPieces()
      : StepKind({.key = "key",
                  .label = "Key",
                  .menu = KindMenu::Cut,
                  .verb = "Key pieces together",
                  .shortcut = "Ctrl+Alt+J",
                  .help = "Pegs on cut faces, and sockets across from them, so that pieces line up again",
                  .wells = {.stock = {"Cut faces", "these get pegs"}, .cutter = {"Pegs", "what they are like"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override { start.set(faces_, selected.faces()); }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Face) ? std::optional<std::string>(say("Key it to what is across"))
                                              : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    Work work;
    for (const PickedFaces& picked : pickedFaces(inputs, faces_, result)) {
      work.changed.try_emplace(picked.body, picked.shape);
      for (const Face& face : picked.faces) addPegs(work, inputs, picked, face, progress);
    }
    if (work.count == 0)
      width_.fail(say("there is no room for a peg with %1 mm of wall round it", formatNumber(wall_.of(inputs), 6)),
                  say("Make pegs thinner or shorter, or leave less wall"));
    finish(result, inputs, work, progress);
    return result;
  }

 private:
  enum class Placing { Spread, AsMany };

  /// What has come of the pieces so far.
  struct Work {
    std::map<BodyId, Shape> changed;
    std::map<BodyId, std::vector<Shape>> pegs, sockets;
    std::vector<Shape> pins;
    int count = 0;
    double narrower = 0;  ///< of the first peg, where the pattern would fit the other way round
    std::vector<std::string> warnings;
    std::optional<Gauge> gauge;
  };

  KeyForm formOf(const Inputs& inputs) const {
    return {section_.of(inputs), width_.of(inputs), taper_.of(inputs), tip_.of(inputs)};
  }

  /// The other bodies that can be across from a cut face.
  std::vector<BodyId> matesOf(StepInputs& inputs, const BodyId& piece, Work& work) const {
    std::vector<BodyId> mates;
    for (const BodyId& body : mates_.of(inputs)) {
      if (body == piece || inputs.shape(body).kind() != BodyKind::Solid) continue;
      if (inputs.shielded(body)) {
        if (!mates_.in(inputs).all) work.warnings.push_back(say("\"%1\" is shielded and gets no sockets", body));
        continue;
      }
      mates.push_back(body);
    }
    if (mates.empty()) mates_.fail(say("there is no other piece"), say("Split the body first"));
    return mates;
  }

  void addPegs(Work& work, StepInputs& inputs, const PickedFaces& picked, const Face& face, Progress& progress) const {
    const std::vector<BodyId> mates = matesOf(inputs, picked.body, work);
    std::vector<Shape> shapes;
    for (const BodyId& mate : mates) shapes.push_back(inputs.shape(mate));
    const KeyForm form = formOf(inputs);
    const double clearance = clearance_.of(inputs), depth = depth_.of(inputs), end = endRoom_.of(inputs);
    // To the corners of those with flat sides.
    const double corners = form.section == KeySection::Square      ? std::sqrt(2.0)
                           : form.section == KeySection::Hexagonal ? 2 / std::sqrt(3.0)
                                                                   : 1.0;
    const double around = (form.width / 2 + clearance) * corners + wall_.of(inputs);
    const KeyRoom room(picked.shape, face, shapes, face.normal(), depth + end, around);
    const auto most = placing_.of(inputs) == Placing::AsMany
                          ? mostPegs
                          : static_cast<std::size_t>(std::max(1.0, std::round(count_.of(inputs))));
    const std::vector<KeyPlace> places = KeyRoom::spread(room.everywhere(progress), most, 2 * around);
    if (placing_.of(inputs) == Placing::Spread && places.size() < most)
      work.warnings.push_back(
          sayCount(places.size(), "there is room for %1 peg only", "there is room for %1 pegs only"));
    const bool ambiguous = unique_.of(inputs) && places.size() > 1 && fitsTurned(places, face.normal());
    for (std::size_t i = 0; i < places.size(); ++i) {
      const KeyPlace& place = places[i];
      KeyForm its = form;
      if (ambiguous && i == 0) its.width = work.narrower = 0.75 * form.width;
      const Plane plane = Plane::through(place.at, face.normal());
      const std::string number = std::to_string(++work.count);
      const double root = std::min(depth, form.width) / 2;
      const Shape socket = keySolid(its, plane, -root / 2, place.gap + depth + end, clearance, true,
                                    inputs.id() + ":socket" + number, progress);
      work.sockets[mates[place.mate]].push_back(socket);
      work.changed.try_emplace(mates[place.mate], shapes[place.mate]);
      if (pins_.of(inputs)) {
        // As deep in this piece as in the other one.
        const Plane back = Plane::through(place.at, -face.normal());
        work.sockets[picked.body].push_back(keySolid(its, back, -root / 2 - place.gap, depth + end, clearance, true,
                                                     inputs.id() + ":hole" + number, progress));
        work.pins.push_back(pinOf(its, plane, place.gap, depth, inputs.id() + ":pin" + number, progress));
      } else {
        work.pegs[picked.body].push_back(
            keySolid(its, plane, -root, place.gap + depth, 0, false, inputs.id() + ":peg" + number, progress));
      }
      if (!work.gauge) work.gauge = Gauge{depth_.key(), place.at + face.normal() * place.gap, face.normal(), depth};
    }
  }

  /// Straight, chamfered at both ends.
  static Shape pinOf(const KeyForm& form, const Plane& plane, double gap, double depth, const std::string& name,
                     Progress& progress) {
    const Shape ahead = keySolid(form, plane, -depth / 2, gap + depth, 0, false, name, progress);
    const Shape back =
        keySolid(form, Plane::through(plane.origin, -plane.normal), 0, depth, 0, false, name + ":back", progress);
    return unite({ahead, back}, progress).shape;
  }

  /// Whether half a turn about their middle takes every peg onto one of the others.
  static bool fitsTurned(const std::vector<KeyPlace>& places, Vector normal) {
    Point middle;
    for (const KeyPlace& place : places) middle = middle + place.at * (1.0 / static_cast<double>(places.size()));
    const Motion turn = Motion::turn(middle, normal, std::numbers::pi);
    constexpr double near = 0.5;  // mm: as close as pieces would be forced together
    return std::all_of(places.begin(), places.end(), [&](const KeyPlace& place) {
      return std::any_of(places.begin(), places.end(),
                         [&](const KeyPlace& other) { return distance(turn(place.at), other.at) < near; });
    });
  }

  void finish(StepResult& result, StepInputs& inputs, Work& work, Progress& progress) const {
    progress.enter(0.6, 1, say("joining pegs and cutting sockets"));
    std::vector<Shape> after;
    for (auto& [body, before] : work.changed) {
      Shape shape = before;
      if (const auto pegs = work.pegs.find(body); pegs != work.pegs.end()) {
        std::vector<Shape> parts{shape};
        parts.insert(parts.end(), pegs->second.begin(), pegs->second.end());
        shape = unite(parts, Seams::Keep, progress).shape;
      }
      if (const auto sockets = work.sockets.find(body); sockets != work.sockets.end()) {
        const Division cut = divide(shape, sockets->second, progress);
        if (cut.inside.empty() || cut.outside.solidCount() != shape.solidCount())
          throw Error(say("the sockets would break \"%1\"", body), depth_.place(), say("Make pegs thinner or shorter"));
        shape = cut.outside;
        for (const Shape& socket : sockets->second)
          for (Polyline& line : edgeLines(socket)) result.cutterOutline.push_back(std::move(line));
      }
      replaceBody(result, body, before, shape);
      after.push_back(shape);
    }
    for (std::size_t i = 0; i < work.pins.size(); ++i) {
      const BodyId id = inputs.id() + "/" + std::to_string(i + 1);
      result.made.push_back({.id = id, .form = BodyForm(work.pins[i]), .name = say("Pin %1", i + 1)});
      result.pieces.push_back(Piece::whole(say("Pin %1", i + 1), id, work.pins[i]));
      after.push_back(work.pins[i]);
    }
    if (work.gauge) result.gauges.push_back(*work.gauge);
    addNotes(result, inputs, work, after, progress);
  }

  /// Whether the pieces, put together again, would be in each other's way.
  void addNotes(StepResult& result, const Inputs& inputs, const Work& work, const std::vector<Shape>& after,
                Progress& progress) const {
    std::vector<std::string>& notes = result.audit.notes;
    const char* form = section_.of(inputs) == KeySection::Round    ? later("round")
                       : section_.of(inputs) == KeySection::Square ? later("square")
                                                                   : later("hexagonal");
    notes.push_back(sayCount(work.count, "%1 %2 peg, %3 mm wide, %4 mm deep", "%1 %2 pegs, %3 mm wide, %4 mm deep",
                             say(form), formatNumber(width_.of(inputs), 6), formatNumber(depth_.of(inputs), 6)));
    if (work.narrower > 0)
      notes.push_back(
          say("one peg is %1 mm wide, so that the pieces fit one way only", formatNumber(work.narrower, 6)));
    if (work.count == 1 && section_.of(inputs) == KeySection::Round)
      result.audit.warnings.push_back(say("one round peg lets the pieces turn about it"));
    result.audit.warnings.insert(result.audit.warnings.end(), work.warnings.begin(), work.warnings.end());
    std::size_t overlaps = 0;
    for (std::size_t i = 0; i < after.size(); ++i)
      for (std::size_t k = i + 1; k < after.size(); ++k)
        if (after[i].roughBox().overlaps(after[k].roughBox()) && !intersect({after[i], after[k]}, progress).empty())
          ++overlaps;
    if (overlaps > 0)
      result.audit.warnings.push_back(say("put together again, the pieces overlap: give them more clearance"));
    else
      notes.push_back(say("put together again, the pieces overlap nowhere"));
  }

  static constexpr std::size_t mostPegs = 60;

  const FacesField faces_{
      *this, {.key = "faces", .label = "Cut faces", .well = Well::Stock, .help = "of the piece that gets the pegs"}};
  const BodiesField mates_{
      *this,
      {.key = "mates", .label = "Across from", .well = Well::Stock, .help = "the pieces that get the sockets"},
      BodyPick::everything()};
  const ChoiceField<KeySection> section_{
      *this, {.key = "form", .label = "Form", .well = Well::Cutter}, {"round", "square", "hexagonal"}};
  const LengthField width_{
      *this,
      {.key = "width", .label = "Width", .well = Well::Cutter, .help = "diameter, or from flat side to flat side"},
      "5 mm",
      NumberRule::Positive};
  const LengthField depth_{
      *this,
      {.key = "depth", .label = "Depth", .well = Well::Cutter, .help = "by which they reach into the piece across"},
      "8 mm",
      NumberRule::Positive};
  const AngleField taper_{*this, {.key = "taper", .label = "Taper", .well = Well::Cutter}, "0 deg"};
  const LengthField tip_{
      *this, {.key = "tip", .label = "Chamfer at the tip", .well = Well::Cutter}, "0.5 mm", NumberRule::NotNegative};
  const FlagField pins_{*this,
                        {.key = "pins",
                         .label = "Loose pins",
                         .well = Well::Cutter,
                         .help = "bodies of their own, with sockets in both pieces"}};
  const ChoiceField<Placing> placing_{*this,
                                      {.key = "placing",
                                       .label = "Placing",
                                       .well = Well::Reach,
                                       .help = "so many, far from each other; or as many as there is room for"},
                                      {"spread", "as many as fit"}};
  const PlainNumberField count_{*this,
                                {.key = "count",
                                 .label = "How many",
                                 .well = Well::Reach,
                                 .help = "on each face",
                                 .when = placing_.is(Placing::Spread)},
                                "2",
                                NumberRule::Positive};
  const LengthField wall_{
      *this,
      {.key = "wall", .label = "Wall around", .well = Well::Reach, .help = "that stays at least, in both pieces"},
      "1.5 mm",
      NumberRule::NotNegative};
  const LengthField clearance_{
      *this,
      {.key = "clearance", .label = "Clearance", .well = Well::Reach, .help = "on each side of a peg"},
      "0.1 mm",
      NumberRule::NotNegative};
  const LengthField endRoom_{
      *this,
      {.key = "end_room", .label = "Room at the end", .well = Well::Reach, .help = "by which sockets are deeper"},
      "0.5 mm",
      NumberRule::NotNegative};
  const FlagField unique_{*this,
                          {.key = "unique",
                           .label = "One way only",
                           .well = Well::Reach,
                           .help = "one peg is narrower, where the pieces would fit turned round as well"},
                          true};
};

}  // namespace

const StepKind& keyStep() {
  static const KeyPieces kind;
  return kind;
}

}  // namespace kervo
