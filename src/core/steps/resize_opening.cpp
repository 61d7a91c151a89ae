// Openings made wider, higher, deeper, or given another diameter.
#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "geom/faces/changed_faces.h"
#include "geom/openings/reshaped.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/opening_work.h"

namespace kervo {

namespace {

class ResizeOpening : public StepKind {
 public:
  ResizeOpening()
      : StepKind({.key = "resize_opening",
                  .label = "Resize opening",
                  .menu = KindMenu::Cut,
                  .verb = "Resize openings",
                  .help = "Gives holes, windows, doors, notches and pockets another width, height, depth or diameter",
                  .ofOpening = "Resize",
                  .wells = {.stock = {"Openings", "what changes"},
                            .cutter = {"Size", "what it becomes"},
                            .reach = {"Grows from", "what stays where it is"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(openings_.faces, selected.facesOfOpenings());
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyInOpening() ? std::optional<std::string>(say("Resize opening")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    std::map<BodyId, std::map<int, Growth>> all;
    for (const BodyOpenings& openings : openings_.of(inputs, result)) {
      std::map<int, Growth>& growths = all[openings.body];
      for (const int number : openings.picked) {
        const auto leader = openings.leaders.find(number);
        const Opening& opening = openings.opening(number);
        growths.emplace(number, leader == openings.leaders.end()
                                    ? growthOf(inputs, opening)
                                    : seenFrom(opening, all.at(leader->second.body).at(leader->second.number)));
      }
      if (!allFlat(openings)) {
        resizeFaces(result, openings, growths, progress);
        continue;
      }
      recut(
          result, openings,
          [&](int number, const Shape& filling) {
            const Growth& growth = growths.at(number);
            return Recut{grown(openings, number, filling, growth),
                         [&, number] { return why(openings, number, growths.at(number), openings.nameOf(number)); }};
          },
          progress);
      if (all.size() == 1)
        addGauges(result, inputs, openings.opening(openings.picked.front()), growths.begin()->second);
      for (const auto& [number, growth] : growths) addNote(result, openings, number, growth);
    }
    return result;
  }

 private:
  enum class Becomes { Same, To, By };
  enum class Across { Left, Middle, Right };
  enum class Rise { Below, Middle, Above };

  /// By how much each side moves outwards, and the floor inwards, in mm.
  struct Growth {
    double left = 0, right = 0, below = 0, above = 0, deeper = 0;
    double wider() const { return left + right; }
    double higher() const { return below + above; }
    bool round = false;  ///< by the diameter: all sides move alike
    Vector x;            ///< along which left and right are meant
  };

  /// What happens in one leaf of a wall, in another that may look the other way.
  static Growth seenFrom(const Opening& opening, Growth growth) {
    if (dot(opening.frame.x, growth.x) < 0) std::swap(growth.left, growth.right);
    growth.x = opening.frame.x;
    return growth;
  }

  static bool allFlat(const BodyOpenings& openings) {
    const std::vector<Face> faces = facesOf(openings.shape);
    return std::all_of(openings.picked.begin(), openings.picked.end(), [&](int number) {
      const std::vector<int>& walls = openings.opening(number).walls;
      return std::all_of(walls.begin(), walls.end(),
                         [&](int wall) { return faces[static_cast<std::size_t>(wall)].plane().has_value(); });
    });
  }

  /// In walls that are not flat the sides move, and are trimmed to the walls again.
  static void resizeFaces(StepResult& result, const BodyOpenings& openings, const std::map<int, Growth>& growths,
                          Progress& progress) {
    const std::vector<Face> faces = facesOf(openings.shape);
    std::map<int, FaceChange> changes;
    for (const auto& [number, growth] : growths) {
      const Opening& opening = openings.opening(number);
      for (const int face : opening.faces)
        if (const auto change = changeOf(faces[static_cast<std::size_t>(face)], opening, growth))
          changes.emplace(face, *change);
    }
    try {
      replaceBody(result, openings.body, openings.shape, withFacesChanged(openings.shape, changes, progress));
    } catch (const Error& error) {
      throw error.within(say("body \"%1\"", openings.body));
    }
    for (const auto& [number, growth] : growths) addNote(result, openings, number, growth);
  }

  /// What becomes of one face of an opening; nothing if it stays, or follows as a round.
  static std::optional<FaceChange> changeOf(const Face& face, const Opening& opening, const Growth& growth) {
    const Plane& frame = opening.frame;
    const auto plane = face.plane();
    if (!plane)
      return growth.round && growth.right != 0 ? std::optional(FaceChange{{}, -growth.right, {}}) : std::nullopt;
    constexpr double along = 0.9;
    // Its normal points into the opening.
    for (const auto& [way, by] :
         {std::pair(frame.x, growth.right), std::pair(-frame.x, growth.left), std::pair(frame.y, growth.above),
          std::pair(-frame.y, growth.below), std::pair(-frame.normal, growth.deeper)})
      if (by != 0 && dot(plane->normal, way) < -along) return FaceChange{Motion::by(way * by), 0, {}};
    return std::nullopt;
  }

  double changeOf(StepInputs& inputs, const ChoiceField<Becomes>& becomes, const LengthField& length,
                  double now) const {
    const double wanted = length.of(inputs);
    if (becomes.of(inputs) == Becomes::Same) return 0;
    const double after = becomes.of(inputs) == Becomes::To ? wanted : now + wanted;
    if (after < tolerance::smallestSize) length.fail(say("nothing would be left of it"), say("Type a larger size"));
    return after - now;
  }

  Growth growthOf(StepInputs& inputs, const Opening& opening) const {
    Growth growth;
    growth.round = opening.form == OpeningForm::Round;
    growth.x = opening.frame.x;
    if (growth.round) {
      if (highIs_.of(inputs) == Becomes::To || high_.of(inputs) != 0)
        high_.fail(say("a round opening has no height"), say("Type its diameter as the width"));
      const double wider = changeOf(inputs, wideIs_, wide_, opening.diameter) / 2;
      growth.left = growth.right = growth.below = growth.above = wider;
    } else {
      const double wider = changeOf(inputs, wideIs_, wide_, opening.width);
      const double higher = changeOf(inputs, highIs_, high_, opening.height);
      const Across across = across_.of(inputs);
      growth.left = across == Across::Left ? 0 : across == Across::Right ? wider : wider / 2;
      growth.right = wider - growth.left;
      // A door keeps its foot.
      const Rise rise = opening.open ? Rise::Below : rise_.of(inputs);
      growth.below = rise == Rise::Below ? 0 : rise == Rise::Above ? higher : higher / 2;
      growth.above = higher - growth.below;
    }
    growth.deeper = changeOf(inputs, deepIs_, deep_, opening.depth);
    if (growth.deeper != 0 && opening.through)
      deep_.fail(say("the opening goes through: it has no floor"), say("Let the depth stay as it is"));
    return growth;
  }

  /// What fills the opening, as it is to be.
  Shape grown(const BodyOpenings& openings, int number, const Shape& filling, const Growth& growth) const {
    const Opening& opening = openings.opening(number);
    const Plane& frame = opening.frame;
    Shape solid = filling;
    try {
      if (growth.round) {
        solid = widened(solid, {frame.origin, frame.normal}, growth.right);
      } else {
        for (const auto& [way, by] : {std::pair(frame.x, growth.right), std::pair(-frame.x, growth.left),
                                      std::pair(frame.y, growth.above), std::pair(-frame.y, growth.below)})
          if (by != 0) solid = stretched(solid, through(frame.origin, way), by);
      }
      if (growth.deeper != 0)
        solid = stretched(solid, through(frame.at(0, 0, -floorSide(filling, opening)), -frame.normal), growth.deeper);
    } catch (const Error& error) {
      throw error.within(openings.nameOf(number));
    }
    return solid;
  }

  static Plane through(Point origin, Vector normal) { return Plane::through(origin, normal); }

  /// Half way between the floor and what is next above it: a step, or the mouth.
  static double floorSide(const Shape& filling, const Opening& opening) {
    double next = 0;
    for (const Face& face : facesOf(filling)) {
      const Box box = face.boxIn(opening.frame);
      for (const double depth : {-box.high.z, -box.low.z})
        if (depth < opening.depth - tolerance::samePlace) next = std::max(next, depth);
    }
    return (next + opening.depth) / 2;
  }

  static Error why(const BodyOpenings& openings, int number, const Growth& growth, const std::string& name) {
    const Room room = OpeningWall(openings.shape, openings.opening(number)).room(openings.all);
    const auto missing = missingRoom(openings, room, growth.left, growth.right, growth.below, growth.above);
    return Error(missing ? say("%1 does not fit: %2", name, *missing)
                         : say("%1 would leave its wall, or meet another opening", name),
                 say("body \"%1\"", openings.body), say("Change it by less, or shift it first"));
  }

  void addGauges(StepResult& result, StepInputs& inputs, const Opening& opening, const Growth& growth) const {
    const Plane& frame = opening.frame;
    const auto add = [&](const LengthField& field, const ChoiceField<Becomes>& becomes, Point side, Vector way,
                         double size) {
      if (becomes.of(inputs) == Becomes::To)
        result.gauges.push_back({field.key(), side - way * size, way, size});
      else if (becomes.of(inputs) == Becomes::By)
        result.gauges.push_back({field.key(), side - way * field.of(inputs), way, field.of(inputs)});
    };
    const Point right = frame.at(opening.width / 2 + growth.right, 0);
    if (growth.round) {
      const double size = opening.diameter + 2 * growth.right;
      if (wideIs_.of(inputs) == Becomes::To)
        result.gauges.push_back({wide_.key(), frame.origin, frame.x, size, true});
      else
        add(wide_, wideIs_, right, frame.x, size);
    } else {
      const bool byLeft = across_.of(inputs) == Across::Right;
      add(wide_, wideIs_, byLeft ? frame.at(-opening.width / 2 - growth.left, 0) : right, byLeft ? -frame.x : frame.x,
          opening.width + growth.wider());
      add(high_, highIs_, frame.at(0, opening.height / 2 + growth.above), frame.y, opening.height + growth.higher());
    }
    if (!opening.through)
      add(deep_, deepIs_, frame.at(0, 0, -opening.depth - growth.deeper), -frame.normal, opening.depth + growth.deeper);
  }

  static void addNote(StepResult& result, const BodyOpenings& openings, int number, const Growth& growth) {
    const Opening& opening = openings.opening(number);
    const auto mm = [](double size) { return formatNumber(size, 6); };
    const std::string name = openings.nameOf(number);
    result.audit.notes.push_back(
        growth.round
            ? say("%1: diameter %2 mm, was %3", name, mm(opening.diameter + 2 * growth.right), mm(opening.diameter))
            : say("%1: %2 × %3 mm, was %4 × %5", name, mm(opening.width + growth.wider()),
                  mm(opening.height + growth.higher()), mm(opening.width), mm(opening.height)));
  }

  const OpeningFields openings_{*this};
  const ChoiceField<Becomes> wideIs_{
      *this,
      {.key = "width_becomes", .label = "Width", .well = Well::Cutter, .help = "of a round opening: its diameter"},
      {"as it is", "to", "by"},
      Becomes::By};
  const LengthField wide_{
      *this,
      {.key = "width", .label = "Wide", .well = Well::Cutter, .when = wideIs_.is(Becomes::To, Becomes::By)},
      "0 mm"};
  const ChoiceField<Becomes> highIs_{
      *this,
      {.key = "height_becomes", .label = "Height", .well = Well::Cutter, .help = "of a round opening: as it is"},
      {"as it is", "to", "by"},
      Becomes::By};
  const LengthField high_{
      *this,
      {.key = "height", .label = "High", .well = Well::Cutter, .when = highIs_.is(Becomes::To, Becomes::By)},
      "0 mm"};
  const ChoiceField<Becomes> deepIs_{
      *this, {.key = "depth_becomes", .label = "Depth", .well = Well::Cutter}, {"as it is", "to", "by"}};
  const LengthField deep_{
      *this,
      {.key = "depth", .label = "Deep", .well = Well::Cutter, .when = deepIs_.is(Becomes::To, Becomes::By)},
      "0 mm"};
  const ChoiceField<Across> across_{*this,
                                    {.key = "across",
                                     .label = "Sideways",
                                     .well = Well::Reach,
                                     .help = "what stays where it is",
                                     .when = wideIs_.is(Becomes::To, Becomes::By)},
                                    {"left", "middle", "right"},
                                    Across::Middle};
  const ChoiceField<Rise> rise_{*this,
                                {.key = "rise",
                                 .label = "Upwards",
                                 .well = Well::Reach,
                                 .help = "a door keeps its foot whatever is said here",
                                 .when = highIs_.is(Becomes::To, Becomes::By)},
                                {"below", "middle", "above"},
                                Rise::Middle};
};

}  // namespace

const StepKind& resizeOpeningStep() {
  static const ResizeOpening kind;
  return kind;
}

}  // namespace kervo
