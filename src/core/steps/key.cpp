// Pegs on the cut faces of one piece, and sockets for them in the pieces across: they line up again.
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/faces_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "fields/plane_field.h"
#include "fields/points_field.h"
#include "fields/regions_field.h"
#include "geom/display/outline.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/key_work.h"
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
                  .takesMeshes = true,
                  .wells = {.stock = {"Cut faces", "these get pegs"}, .cutter = {"Pegs", "what they are like"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(faces_, selected.faces());
    if (const auto plane = selected.plane(); plane && selected.faces().empty()) {
      start.set(on_, On::Plane);
      start.set(plane_, *plane);
    }
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Face) ? std::optional<std::string>(say("Key it to what is across"))
                                              : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const bool byPlane = on_.of(inputs) == On::Plane;
    const std::vector<PickedFaces> picked = byPlane ? std::vector<PickedFaces>() : pickedFaces(inputs, faces_, result);
    std::vector<BodyId> bodies;
    for (const PickedFaces& each : picked) bodies.push_back(each.body);
    for (const BodyId& mate : matesOf(inputs, result))
      if (std::find(bodies.begin(), bodies.end(), mate) == bodies.end()) bodies.push_back(mate);
    if (bodies.size() < 2) mates_.fail(say("there is no other piece"), say("Split the body first"));
    std::vector<Shape> pieces;
    for (const BodyId& body : bodies) pieces.push_back(inputs.shape(body));
    const KeyWishes wishes = wishesOf(inputs);
    KeyWork work(pieces, wishes, inputs.id());
    const auto matesOfPiece = [&](std::size_t piece) {
      std::vector<std::size_t> mates;
      for (std::size_t i = 0; i < bodies.size(); ++i)
        if (i != piece && isMate(inputs, bodies[i])) mates.push_back(i);
      return mates;
    };
    const auto tell = [&](std::size_t added) {
      if (added < wishes.most && counts(inputs))
        result.audit.warnings.push_back(
            sayCount(added, "there is room for %1 peg only", "there is room for %1 pegs only"));
    };
    for (std::size_t p = 0; p < picked.size(); ++p)
      for (const Face& face : picked[p].faces) tell(work.add(p, face, matesOfPiece(p), progress));
    for (std::size_t p = 0; byPlane && p < bodies.size(); ++p)
      if (const auto added = work.add(p, plane_.of(inputs), matesOfPiece(p), wishes.most, progress)) tell(*added);
    if (work.without() > 0)
      result.audit.warnings.push_back(sayCount(work.without(), "%1 place has no room for a peg with its wall",
                                               "%1 places have no room for a peg with its wall"));
    if (work.count() == 0)
      width_.fail(say("there is no room for a peg with %1 mm of wall round it", formatNumber(wishes.wall, 6)),
                  say("Make pegs thinner or shorter, or leave less wall"));
    finish(result, inputs, work, bodies, progress);
    return result;
  }

 private:
  enum class On { Faces, Plane };
  enum class Placing { Spread, AsMany, Ring, Grid, Outline, Points };

  /// Whether so many are to be spread, whose number is told if it is smaller.
  bool counts(const Inputs& inputs) const {
    return placing_.of(inputs) == Placing::Spread || section_.of(inputs) == KeySection::Dovetail;
  }

  KeyWishes wishesOf(StepInputs& inputs) const {
    KeyWishes wishes;
    wishes.form = {section_.of(inputs), width_.of(inputs), taper_.of(inputs), tip_.of(inputs), {}};
    if (section_.of(inputs) == KeySection::Drawn) wishes.form.drawn = drawn(inputs);
    if (section_.of(inputs) == KeySection::Dovetail) {
      wishes.form.taper = flare_.of(inputs);
      constexpr double widest = 1.2;
      if (wishes.form.taper <= 0 || wishes.form.taper > widest)
        flare_.fail(say("a dovetail does not hold like that"), say("Give an angle between 0 and 60 degrees"));
    }
    wishes.depth = depth_.of(inputs);
    wishes.clearance = clearance_.of(inputs);
    wishes.endRoom = endRoom_.of(inputs);
    wishes.wall = wall_.of(inputs);
    wishes.most = placing_.of(inputs) == Placing::AsMany
                      ? mostPegs
                      : static_cast<std::size_t>(std::max(1.0, std::round(count_.of(inputs))));
    placeBy(inputs, wishes);
    wishes.pins = pins_.of(inputs);
    wishes.unique = unique_.of(inputs);
    return wishes;
  }

  void placeBy(StepInputs& inputs, KeyWishes& wishes) const {
    wishes.turn = turn_.of(inputs);
    switch (placing_.of(inputs)) {
      case Placing::Spread:
      case Placing::AsMany:
        break;
      case Placing::Ring:
        wishes.placing = KeyPlacing::Ring;
        wishes.size = ring_.of(inputs);
        break;
      case Placing::Grid:
        wishes.placing = KeyPlacing::Grid;
        wishes.size = apart_.of(inputs);
        break;
      case Placing::Outline:
        wishes.placing = KeyPlacing::Outline;
        wishes.size = inset_.of(inputs);
        break;
      case Placing::Points:
        wishes.placing = KeyPlacing::Points;
        for (const Region& region : places_.of(inputs)) wishes.points.push_back(middleOf(region));
    }
  }

  /// The middle of its box.
  static Point middleOf(const Region& region) {
    Box box;
    for (const std::vector<PlanePoint>& outline : region.outlines())
      for (const PlanePoint& point : outline) box.add(Point{point.u, point.v, 0});
    return region.plane().at(box.centre().x, box.centre().y);
  }

  Region drawn(StepInputs& inputs) const {
    const std::vector<Region> regions = joined(outline_.of(inputs));
    if (regions.size() != 1)
      outline_.fail(say("a peg has one outline, and these are %1", regions.size()), say("Choose one region"));
    return regions.front();
  }

  bool isMate(StepInputs& inputs, const BodyId& body) const {
    const std::vector<BodyId> all = mates_.of(inputs);
    return !inputs.shielded(body) && std::find(all.begin(), all.end(), body) != all.end();
  }

  /// The bodies that can be across from a cut face.
  std::vector<BodyId> matesOf(StepInputs& inputs, StepResult& result) const {
    std::vector<BodyId> mates;
    for (const BodyId& body : mates_.of(inputs)) {
      if (!inputs.form(body).anyShape().hasInside()) {
        if (!mates_.in(inputs).all)
          mates_.fail(say("\"%1\" is no solid, and no mesh that closes", body), say("Choose others"));
        continue;
      }
      if (!inputs.shielded(body)) {
        mates.push_back(body);
      } else if (!mates_.in(inputs).all) {
        result.audit.shielded.push_back(body);
        inputs.warn(say("\"%1\" is shielded and gets no sockets", body));
      }
    }
    return mates;
  }

  void finish(StepResult& result, StepInputs& inputs, const KeyWork& work, const std::vector<BodyId>& bodies,
              Progress& progress) const {
    progress.enter(0.6, 1, say("joining pegs and cutting sockets"));
    const auto [finished, meshed] = work.finished(progress);
    noteMeshed(result.audit, meshed);
    std::vector<Shape> after;
    for (std::size_t i = 0; i < bodies.size(); ++i) {
      if (!work.touches(i)) continue;
      replaceBody(result, bodies[i], work.pieces()[i], finished[i]);
      after.push_back(finished[i]);
      for (const Shape& socket : work.socketsIn(i))
        for (Polyline& line : edgeLines(socket)) result.cutterOutline.push_back(std::move(line));
    }
    for (std::size_t i = 0; i < work.pins().size(); ++i) {
      const BodyId id = inputs.id() + "/" + std::to_string(i + 1);
      result.made.push_back({.id = id, .form = BodyForm(work.pins()[i]), .name = say("Pin %1", i + 1)});
      result.pieces.push_back(Piece::whole(say("Pin %1", i + 1), id, work.pins()[i]));
      after.push_back(work.pins()[i]);
    }
    if (const auto entry = work.firstEntry())
      result.gauges.push_back({depth_.key(), entry->first, entry->second, depth_.of(inputs)});
    addNotes(result, inputs, work, overlapsAmong(after, progress));
  }

  /// `overlaps`: of the pieces, put together again.
  void addNotes(StepResult& result, const Inputs& inputs, const KeyWork& work, std::size_t overlaps) const {
    std::vector<std::string>& notes = result.audit.notes;
    if (section_.of(inputs) == KeySection::Drawn)
      notes.push_back(sayCount(work.count(), "%1 peg as drawn, %2 mm deep", "%1 pegs as drawn, %2 mm deep",
                               formatNumber(depth_.of(inputs), 6)));
    else
      notes.push_back(sayCount(work.count(), "%1 %2 peg, %3 mm wide, %4 mm deep", "%1 %2 pegs, %3 mm wide, %4 mm deep",
                               say(wordFor(section_.of(inputs))), formatNumber(width_.of(inputs), 6),
                               formatNumber(depth_.of(inputs), 6)));
    if (work.narrower() > 0)
      notes.push_back(
          say("one peg is %1 mm wide, so that the pieces fit one way only", formatNumber(work.narrower(), 6)));
    if (work.count() == 1 && section_.of(inputs) == KeySection::Round)
      result.audit.warnings.push_back(say("one round peg lets the pieces turn about it"));
    if (overlaps > 0)
      result.audit.warnings.push_back(say("put together again, the pieces overlap: give them more clearance"));
    else
      notes.push_back(say("put together again, the pieces overlap nowhere"));
  }

  static const char* wordFor(KeySection section) {
    switch (section) {
      case KeySection::Square:
        return later("square");
      case KeySection::Hexagonal:
        return later("hexagonal");
      case KeySection::Dovetail:
        return later("dovetail");
      case KeySection::Round:
      case KeySection::Drawn:
        break;
    }
    return later("round");
  }

  static constexpr std::size_t mostPegs = 60;

  const ChoiceField<On> on_{*this,
                            {.key = "on",
                             .label = "Pegs stand on",
                             .well = Well::Stock,
                             .help = "faces that are picked; or what lies in a plane, of meshes as well"},
                            {"faces", "a plane"}};
  const FacesField faces_{*this,
                          {.key = "faces",
                           .label = "Cut faces",
                           .well = Well::Stock,
                           .help = "of the piece that gets the pegs",
                           .when = on_.is(On::Faces)}};
  const PlaneField plane_{*this,
                          {.key = "plane",
                           .label = "Cut plane",
                           .well = Well::Stock,
                           .help = "pieces behind it get the pegs",
                           .when = on_.is(On::Plane)}};
  const BodiesField mates_{
      *this,
      {.key = "mates", .label = "Across from", .well = Well::Stock, .help = "the pieces that get the sockets"},
      BodyPick::everything()};
  const ChoiceField<KeySection> section_{*this,
                                         {.key = "form", .label = "Form", .well = Well::Cutter},
                                         {"round", "square", "hexagonal", "drawn", "dovetail"}};
  const RegionsField outline_{*this,
                              {.key = "outline",
                               .label = "Outline",
                               .well = Well::Cutter,
                               .help = "one region of a drawing; its middle comes to where the peg is",
                               .when = section_.is(KeySection::Drawn)}};
  const LengthField width_{
      *this,
      {.key = "width",
       .label = "Width",
       .well = Well::Cutter,
       .help = "diameter, or from flat side to flat side; of a dovetail its neck",
       .when = section_.is(KeySection::Round, KeySection::Square, KeySection::Hexagonal, KeySection::Dovetail)},
      "5 mm",
      NumberRule::Positive};
  const LengthField depth_{
      *this,
      {.key = "depth", .label = "Depth", .well = Well::Cutter, .help = "by which they reach into the piece across"},
      "8 mm",
      NumberRule::Positive};
  const AngleField taper_{*this,
                          {.key = "taper",
                           .label = "Taper",
                           .well = Well::Cutter,
                           .when = section_.is(KeySection::Round, KeySection::Square, KeySection::Hexagonal)},
                          "0 deg"};
  const LengthField tip_{*this,
                         {.key = "tip",
                          .label = "Chamfer at the tip",
                          .well = Well::Cutter,
                          .when = section_.is(KeySection::Round, KeySection::Square, KeySection::Hexagonal)},
                         "0.5 mm",
                         NumberRule::NotNegative};
  const AngleField flare_{*this,
                          {.key = "flare",
                           .label = "Flare",
                           .well = Well::Cutter,
                           .help = "by which its sides lean out; the pieces slide together along it",
                           .when = section_.is(KeySection::Dovetail)},
                          "15 deg"};
  const FlagField pins_{
      *this,
      {.key = "pins",
       .label = "Loose pins",
       .well = Well::Cutter,
       .help = "bodies of their own, with sockets in both pieces",
       .when = section_.is(KeySection::Round, KeySection::Square, KeySection::Hexagonal, KeySection::Drawn)}};
  const ChoiceField<Placing> placing_{*this,
                                      {.key = "placing",
                                       .label = "Placing",
                                       .well = Well::Reach,
                                       .help = "by themselves far from each other, or where you say"},
                                      {"spread", "as many as fit", "ring", "grid", "along the outline", "drawn"}};
  const LengthField ring_{*this,
                          {.key = "ring",
                           .label = "Diameter",
                           .well = Well::Reach,
                           .help = "of the ring",
                           .when = placing_.is(Placing::Ring)},
                          "40 mm",
                          NumberRule::Positive};
  const AngleField turn_{
      *this,
      {.key = "turn", .label = "Turned by", .well = Well::Reach, .help = "the ring, or the way in which dovetails run"},
      "0 deg"};
  const LengthField apart_{
      *this,
      {.key = "apart", .label = "Apart", .well = Well::Reach, .help = "both ways", .when = placing_.is(Placing::Grid)},
      "20 mm",
      NumberRule::Positive};
  const LengthField inset_{*this,
                           {.key = "inset",
                            .label = "From the edge",
                            .well = Well::Reach,
                            .help = "to the middle of the pegs",
                            .when = placing_.is(Placing::Outline)},
                           "6 mm",
                           NumberRule::Positive};
  const RegionsField places_{*this,
                             {.key = "places",
                              .label = "Places",
                              .well = Well::Reach,
                              .help = "regions of a drawing: a peg over the middle of each",
                              .when = placing_.is(Placing::Points)}};
  const PlainNumberField count_{*this,
                                {.key = "count",
                                 .label = "How many",
                                 .well = Well::Reach,
                                 .help = "on each face",
                                 .when = placing_.is(Placing::Spread, Placing::Ring, Placing::Outline)},
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
