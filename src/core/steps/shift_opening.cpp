// Openings moved along their walls: by distances, to distances from the walls' edges or from other faces, or spread.
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "geom/faces/changed_faces.h"
#include "geom/planes.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/opening_work.h"

namespace kervo {

namespace {

class ShiftOpening : public StepKind {
 public:
  ShiftOpening()
      : StepKind({.key = "shift_opening",
                  .label = "Shift opening",
                  .menu = KindMenu::Cut,
                  .verb = "Shift openings",
                  .shortcut = "Ctrl+Alt+I",
                  .help = "Holes, windows, doors, notches and pockets along their walls, with what sits in them",
                  .startsGroup = true,
                  .ofOpening = "Shift",
                  .wells = {.stock = {"Openings", "what moves"}, .cutter = {"Where", "along its wall"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(openings_.faces, selected.facesOfOpenings());
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyInOpening() ? std::optional<std::string>(say("Shift opening")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    std::vector<Moved> moves;
    Ways all;
    for (const BodyOpenings& openings : openings_.of(inputs, result)) {
      const std::map<int, Move>& ways = all.emplace(openings.body, waysOf(inputs, openings, all)).first->second;
      for (const auto& [number, move] : ways) {
        moves.push_back({openings.opening(number).frame.origin, move.motion});
        if (std::hypot(move.x, move.y) > tolerance::samePlace)
          for (Polyline& line : OpeningWall(openings.shape, openings.opening(number)).hatchedMouth())
            result.left.push_back(std::move(line));
      }
      const bool fits = std::all_of(ways.begin(), ways.end(), [](const auto& each) { return each.second.fits; });
      if (fits)
        shift(result, openings, ways, progress);
      else
        shiftFaces(result, openings, ways, progress);
      if (all.size() == 1) addGauges(result, inputs, openings.opening(ways.begin()->first), ways.begin()->second);
      addNotes(result, openings, ways);
    }
    carry(result, inputs, moves);
    return result;
  }

 private:
  enum class Across { By, Left, Right, Evenly };
  enum class Rise { By, Below, Above };

  /// Where one opening goes.
  struct Move {
    double x = 0, y = 0;
    Room room;
    Motion motion;
    bool fits = true;  ///< its walls run on as they are: what fills it fits anywhere
  };
  using Ways = std::map<BodyId, std::map<int, Move>>;
  /// … for what sits in it.
  struct Moved {
    Point from;
    Motion motion;
  };

  static void shift(StepResult& result, const BodyOpenings& openings, const std::map<int, Move>& ways,
                    Progress& progress) {
    recut(
        result, openings,
        [&](int number, const Shape& filling) {
          const Move& move = ways.at(number);
          return Recut{moved(filling, move.motion),
                       [&openings, &move, number] { return why(openings, move, openings.nameOf(number)); }};
        },
        progress);
  }

  /// Where walls are of free form or not parallel, the sides move and are trimmed to the walls again.
  static void shiftFaces(StepResult& result, const BodyOpenings& openings, const std::map<int, Move>& ways,
                         Progress& progress) {
    std::map<int, FaceChange> changes;
    for (const auto& [number, move] : ways)
      for (const int face : openings.opening(number).faces) changes[face] = {move.motion, 0, {}};
    try {
      const Shape after = withFacesChanged(openings.shape, changes, progress);
      replaceBody(result, openings.body, openings.shape, after);
    } catch (const Error& error) {
      for (const auto& [number, move] : ways)
        if (missingRoom(openings, move.room, -move.x, move.x, -move.y, move.y))
          throw why(openings, move, openings.nameOf(number));
      throw error.within(say("body \"%1\"", openings.body));
    }
  }

  std::map<int, Move> waysOf(StepInputs& inputs, const BodyOpenings& openings, const Ways& leading) const {
    std::map<int, Move> ways;
    std::map<int, OpeningWall> walls;
    for (const int number : openings.picked) {
      const Opening& opening = openings.opening(number);
      const OpeningWall& wall = walls.emplace(number, OpeningWall(openings.shape, opening)).first->second;
      Move move;
      move.room = wall.room(openings.all);
      if (const auto leader = openings.leaders.find(number); leader != openings.leaders.end()) {
        move.motion = leading.at(leader->second.body).at(leader->second.number).motion;
        const Vector way = move.motion(opening.frame.origin) - opening.frame.origin;
        move.x = dot(way, opening.frame.x);
        move.y = dot(way, opening.frame.y);
        move.fits = wall.keepsWalls(move.x, move.y);
        ways.emplace(number, move);
        continue;
      }
      const Room edges = wall.roomToEdges(openings.all);
      move.x = across(inputs, wall, opening, edges);
      move.y = rise(inputs, wall, opening, edges);
      ways.emplace(number, move);
    }
    if (across_.of(inputs) == Across::Evenly && openings.leaders.empty()) spread(openings, walls, ways);
    for (auto& [number, move] : ways) {
      if (openings.leaders.contains(number)) continue;
      const Opening& opening = openings.opening(number);
      const std::string name = openings.nameOf(number);
      if (opening.open && std::abs(move.y) > tolerance::samePlace && move.room.below.gap == Box::infinity)
        up_.fail(say("%1 is open below: it keeps its foot", name), say("Shift it sideways only, or resize it"));
      move.fits = walls.at(number).keepsWalls(move.x, move.y);
      move.motion = walls.at(number).along(move.x, move.y);
    }
    return ways;
  }

  double across(StepInputs& inputs, const OpeningWall& wall, const Opening& opening, const Room& edges) const {
    const double wanted = along_.of(inputs);
    const auto from = reference(inputs, wall, opening.frame.x);
    switch (across_.of(inputs)) {
      case Across::By:
        return wanted;
      case Across::Left:
        return wanted - (from ? -opening.width / 2 - from->u : finite(edges.left.gap, across_));
      case Across::Right:
        return (from ? from->u - opening.width / 2 : finite(edges.right.gap, across_)) - wanted;
      case Across::Evenly:
        break;
    }
    return 0;
  }

  double rise(StepInputs& inputs, const OpeningWall& wall, const Opening& opening, const Room& edges) const {
    const double wanted = up_.of(inputs);
    const auto from = reference(inputs, wall, opening.frame.y);
    switch (rise_.of(inputs)) {
      case Rise::By:
        return wanted;
      case Rise::Below:
        return wanted - (from ? -opening.height / 2 - from->v : finite(edges.below.gap, rise_));
      case Rise::Above:
        break;
    }
    return (from ? from->v - opening.height / 2 : finite(edges.above.gap, rise_)) - wanted;
  }

  static double finite(double gap, const Field& field) {
    if (gap == Box::infinity)
      field.fail(say("the wall has no edge on that side to measure from"), say("Pick a face to measure from"));
    return gap;
  }

  /// The first of the faces to measure from that stands across a direction; nothing if there is none.
  std::optional<PlanePoint> reference(StepInputs& inputs, const OpeningWall& wall, Vector way) const {
    constexpr double across = 0.9;
    if (beside_.in(inputs).empty()) return std::nullopt;
    for (const Face& face : beside_.of(inputs))
      if (std::abs(dot(face.normal(), way)) > across) return wall.flat(face.samplePoint());
    return std::nullopt;
  }

  /// Those between the outermost two get equal gaps.
  void spread(const BodyOpenings& openings, const std::map<int, OpeningWall>& walls, std::map<int, Move>& ways) const {
    if (openings.picked.size() < 3)
      openings_.faces.fail(say("only three openings and more can be spread evenly"), say("Pick more of them"));
    const OpeningWall& wall = walls.begin()->second;
    std::vector<std::pair<double, int>> order;
    for (const int number : openings.picked) {
      const Opening& opening = openings.opening(number);
      if (opening.walls.front() != openings.opening(openings.picked.front()).walls.front())
        openings_.faces.fail(say("the openings are not all in one wall"), say("Pick those of one wall"));
      order.emplace_back(wall.flat(opening.frame.origin).u, number);
    }
    std::sort(order.begin(), order.end());
    const auto width = [&](std::size_t i) { return openings.opening(order[i].second).width; };
    double free = order.back().first - width(order.size() - 1) / 2 - order.front().first - width(0) / 2;
    for (std::size_t i = 1; i + 1 < order.size(); ++i) free -= width(i);
    const double gap = free / static_cast<double>(order.size() - 1);
    if (gap < 0)
      across_.fail(say("the openings between are wider than the room there is"), say("Shift the outer ones first"));
    double at = order.front().first + width(0) / 2;
    for (std::size_t i = 1; i + 1 < order.size(); ++i) {
      ways.at(order[i].second).x = at + gap + width(i) / 2 - order[i].first;
      at += gap + width(i);
    }
  }

  static Error why(const BodyOpenings& openings, const Move& move, const std::string& name) {
    const auto room = missingRoom(openings, move.room, -move.x, move.x, -move.y, move.y);
    return Error(room ? say("%1 does not fit there: %2", name, *room)
                      : say("%1 would leave its wall, or meet another opening", name),
                 say("body \"%1\"", openings.body), say("Shift it by less, or what is in its way as well"));
  }

  /// Of a distance moved, from where it was; of a distance kept, from what it is measured from. Both beads are on sides
  /// of the opening: its middle is the grip.
  void addGauges(StepResult& result, StepInputs& inputs, const Opening& opening, const Move& move) const {
    const Plane& frame = opening.frame;
    const Point now = frame.at(move.x, move.y);
    const double along = along_.of(inputs), up = up_.of(inputs);
    const auto add = [&](const LengthField& field, Point from, Vector way, double value) {
      result.gauges.push_back({field.key(), from, way, value});
      if (across_.of(inputs) != Across::Evenly) result.gauges.back().grip = now;
    };
    if (across_.of(inputs) == Across::By) add(along_, frame.at(0, move.y - opening.height / 2), frame.x, along);
    if (across_.of(inputs) == Across::Left) add(along_, now - frame.x * (opening.width / 2 + along), frame.x, along);
    if (across_.of(inputs) == Across::Right) add(along_, now + frame.x * (opening.width / 2 + along), -frame.x, along);
    if (opening.open) return;
    if (rise_.of(inputs) == Rise::By) add(up_, frame.at(move.x + opening.width / 2, 0), frame.y, up);
    if (rise_.of(inputs) == Rise::Below) add(up_, now - frame.y * (opening.height / 2 + up), frame.y, up);
    if (rise_.of(inputs) == Rise::Above) add(up_, now + frame.y * (opening.height / 2 + up), -frame.y, up);
  }

  /// What is nearest to each in its new place.
  static void addNotes(StepResult& result, const BodyOpenings& openings, const std::map<int, Move>& ways) {
    result.audit.notes.push_back(sayCount(ways.size(), "\"%2\": %1 old place is filled, a new one cut",
                                          "\"%2\": %1 old places are filled, new ones cut", openings.body));
    for (const auto& [number, move] : ways) {
      const Beside* next = nullptr;
      double least = Box::infinity;
      for (const auto& [beside, taken] : {std::pair(&move.room.left, -move.x), std::pair(&move.room.right, move.x)})
        if (beside->opening >= 0 && !ways.contains(beside->opening) && beside->gap - taken < least) {
          least = beside->gap - taken;
          next = beside;
        }
      if (next)
        result.audit.notes.push_back(say("%1 is %2 mm away from %3", openings.nameOf(next->opening),
                                         formatNumber(least, 6), openings.nameOf(number)));
    }
  }

  /// Bodies that sit in an opening go with the one that is nearest to them.
  void carry(StepResult& result, StepInputs& inputs, const std::vector<Moved>& moves) const {
    for (const BodyId& body : with_.of(inputs)) {
      if (std::find(result.consumed.begin(), result.consumed.end(), body) != result.consumed.end())
        with_.fail(say("\"%1\" has the openings itself", body), say("Choose bodies that sit in them"));
      if (inputs.shielded(body)) {
        result.audit.shielded.push_back(body);
        inputs.warn(say("\"%1\" is shielded and stays where it is", body));
        continue;
      }
      const Shape before = inputs.shape(body);
      const Point middle = before.roughBox().centre();
      const auto nearest = std::min_element(moves.begin(), moves.end(), [&](const Moved& a, const Moved& b) {
        return distance(a.from, middle) < distance(b.from, middle);
      });
      replaceBody(result, body, before, moved(before, nearest->motion));
    }
  }

  const OpeningFields openings_{*this};
  const BodiesField with_{*this,
                          {.key = "with",
                           .label = "With them go",
                           .well = Well::Stock,
                           .help = "bodies that sit in the openings: frames, leaves, pipes"}};
  const ChoiceField<Across> across_{*this,
                                    {.key = "across",
                                     .label = "Sideways",
                                     .well = Well::Cutter,
                                     .help = "by a distance; to a distance from what is left or right of it; or evenly "
                                             "between the outermost two"},
                                    {"by", "left of it", "right of it", "evenly"}};
  const LengthField along_{*this,
                           {.key = "along",
                            .label = "Along",
                            .well = Well::Cutter,
                            .help = "to the right, seen from outside; or what is left beside it",
                            .when = across_.is(Across::By, Across::Left, Across::Right)},
                           "0 mm"};
  const ChoiceField<Rise> rise_{
      *this,
      {.key = "rise", .label = "Upwards", .well = Well::Cutter, .help = "by a distance, or to a sill or a head"},
      {"by", "below it", "above it"}};
  const LengthField up_{
      *this,
      {.key = "up", .label = "Up", .well = Well::Cutter, .help = "upwards; or what is left below or above it"},
      "0 mm"};
  const FacesField beside_{*this,
                           {.key = "beside",
                            .label = "Measured from",
                            .well = Well::Cutter,
                            .help = "a face beside it, and one below or above; nothing: the edges of the wall"}};
};

}  // namespace

const StepKind& shiftOpeningStep() {
  static const ShiftOpening kind;
  return kind;
}

}  // namespace kervo
