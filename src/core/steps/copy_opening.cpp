// Openings cut again beside themselves, on the other side of a plane, or in another wall.
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/face_field.h"
#include "fields/plane_field.h"
#include "geom/openings/reshaped.h"
#include "geom/openings/seated.h"
#include "steps/registry.h"
#include "steps/shared/opening_work.h"

namespace kervo {

namespace {

class CopyOpening : public StepKind {
 public:
  CopyOpening()
      : StepKind({.key = "copy_opening",
                  .label = "Copy opening",
                  .menu = KindMenu::Cut,
                  .verb = "Copy openings",
                  .help = "Cuts openings again: in a line or grid along their wall, mirrored, or in another wall",
                  .ofOpening = "Copy",
                  .wells = {.stock = {"Openings", "what is copied"}, .cutter = {"Where", "the copies go"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(openings_.faces, selected.facesOfOpenings());
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyInOpening() ? std::optional<std::string>(say("Copy opening")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const std::vector<BodyOpenings> bodies = openings_.of(inputs, result);
    if (way_.of(inputs) == Way::Wall) {
      intoWall(result, inputs, bodies, progress);
      return result;
    }
    for (const BodyOpenings& openings : bodies) {
      const std::vector<Shape> fillings = fillingsOf(openings, progress);
      std::vector<Recut> copies;
      for (std::size_t i = 0; i < fillings.size(); ++i)
        for (const Going& going : waysOf(inputs, openings, openings.picked[i])) {
          const Opening& opening = openings.opening(openings.picked[i]);
          Shape copy = copyOf(inputs, fillings[i], going.motion, copies.size() + 1);
          if (!going.fits)
            copy = seatedOrWhy(openings, openings.picked[i], copy, endsOf(fillings[i], openings.shape, opening),
                               openings.shape, going.motion.turned(opening.frame.normal), progress);
          copies.push_back({copy, [&openings, number = openings.picked[i]] { return why(openings, number); }});
        }
      progress.enter(0.3, 1, say("cutting openings"));
      cutOpenings(result, openings.body, openings.shape, openings.shape, copies, progress);
      result.audit.notes.push_back(sayCount(copies.size(), "\"%2\": %1 copy", "\"%2\": %1 copies", openings.body));
    }
    return result;
  }

 private:
  enum class Way { Line, Mirror, Wall };

  static Shape copyOf(StepInputs& inputs, const Shape& filling, const Motion& motion, std::size_t number) {
    return moved(filling, motion, inputs.id() + ":" + std::to_string(number));
  }

  /// Where a copy goes, and whether the walls run on there as they are.
  struct Going {
    Motion motion;
    bool fits = true;
  };

  std::vector<Going> waysOf(StepInputs& inputs, const BodyOpenings& openings, int number) const {
    if (way_.of(inputs) == Way::Mirror) {
      const Motion mirrored = Motion::mirror(plane_.of(inputs));
      return {{mirrored, fitsUnder(openings, number, mirrored)}};
    }
    const int columns = countOf(columns_, inputs), rows = countOf(rows_, inputs);
    if (columns * rows < 2)
      columns_.fail(say("one alone is no copy"), say("Type how many stand in a row, itself included"));
    const OpeningWall wall(openings.shape, openings.opening(number));
    std::vector<Going> ways;
    for (int row = 0; row < rows; ++row)
      for (int column = 0; column < columns; ++column) {
        const double x = column * along_.of(inputs), y = row * up_.of(inputs);
        if (row != 0 || column != 0) ways.push_back({wall.along(x, y), wall.keepsWalls(x, y)});
      }
    return ways;
  }

  /// Whether flat walls lie in walls again.
  static bool fitsUnder(const BodyOpenings& openings, int number, const Motion& motion) {
    const std::vector<Face> faces = facesOf(openings.shape);
    const std::vector<int>& walls = openings.opening(number).walls;
    return std::all_of(walls.begin(), walls.end(), [&](int wall) {
      const auto plane = faces[static_cast<std::size_t>(wall)].plane();
      if (!plane) return false;
      const Point on = motion(plane->origin);
      const Vector normal = motion.turned(plane->normal);
      return std::any_of(faces.begin(), faces.end(), [&](const Face& each) {
        const auto its = each.plane();
        return its && length(its->normal - normal) < tolerance::sameDirection &&
               std::abs(its->signedDistance(on)) < tolerance::samePlace;
      });
    });
  }

  static Shape seatedOrWhy(const BodyOpenings& openings, int number, const Shape& copy, const std::vector<int>& ends,
                           const Shape& body, Vector out, Progress& progress) {
    try {
      return seated(copy, ends, body, out, progress);
    } catch (const Error& error) {
      throw error.within(say("a copy of %1 of \"%2\"", openings.nameOf(number), openings.body));
    }
  }

  static int countOf(const PlainNumberField& field, StepInputs& inputs) {
    constexpr double most = 10'000;
    const double count = field.of(inputs);
    if (count != std::round(count) || count < 1 || count > most)
      field.fail(say("this is no number of openings"), say("Type a whole number from 1 to %1", formatNumber(most, 6)));
    return static_cast<int>(count);
  }

  static Error why(const BodyOpenings& openings, int number) {
    return Error(say("a copy of %1 would leave its wall, or meet another opening", openings.nameOf(number)),
                 say("body \"%1\"", openings.body), say("Choose fewer copies, or another distance"));
  }

  /// As far from the middle of the wall as is said, through it if the opening goes through its own.
  void intoWall(StepResult& result, StepInputs& inputs, const std::vector<BodyOpenings>& bodies,
                Progress& progress) const {
    if (bodies.size() != 1 || bodies.front().picked.size() != 1)
      openings_.faces.fail(say("only one opening at a time is copied to another wall"), say("Pick one of them"));
    const BodyOpenings& openings = bodies.front();
    const int number = openings.picked.front();
    const Opening& opening = openings.opening(number);
    const Face wall = wall_.of(inputs);
    const Plane place = placeOn(wall, along_.of(inputs), up_.of(inputs));
    const BodyId body = bodyOf(inputs, wall);
    const Shape shape = inputs.shape(body);
    const Shape filling = fillingsOf(openings, progress).front();
    Shape solid = copyOf(inputs, filling, Motion::onto(opening.frame, place), 1);
    const std::vector<Face> faces = facesOf(openings.shape);
    const bool flat = wall.plane() && std::all_of(opening.walls.begin(), opening.walls.end(), [&](int its) {
                        return faces[static_cast<std::size_t>(its)].plane().has_value();
                      });
    const auto thick = flat && opening.through ? thicknessAt(facesOf(shape), place) : std::nullopt;
    if (thick) {
      const Plane middle = Plane::through(place.at(0, 0, -std::min(*thick, opening.depth) / 2), -place.normal);
      solid = stretched(solid, middle, *thick - opening.depth);
    } else if (!flat || opening.through) {
      solid =
          seatedOrWhy(openings, number, solid, endsOf(filling, openings.shape, opening), shape, place.normal, progress);
    }
    cutOpenings(result, body, shape, shape, {{solid, [&] { return why(openings, number); }}}, progress);
  }

  BodyId bodyOf(StepInputs& inputs, const Face& wall) const {
    for (const BodyId& body : inputs.members(wall_.in(inputs).body)) {
      const std::vector<Face> all = facesOf(inputs.shape(body));
      if (std::none_of(all.begin(), all.end(), [&](const Face& each) { return isSameFace(each, wall); })) continue;
      if (inputs.shielded(body)) wall_.fail(say("\"%1\" is shielded", body), say("Unshield it, or pick another wall"));
      return body;
    }
    wall_.fail(say("the body of the wall is gone"), say("Pick a wall again"));
  }

  /// How far it is behind a place to a parallel face; nothing if there is none.
  static std::optional<double> thicknessAt(const std::vector<Face>& faces, const Plane& place) {
    double thick = Box::infinity;
    for (const Face& face : faces) {
      const auto plane = face.plane();
      if (!plane || length(plane->normal + place.normal) > tolerance::sameDirection) continue;
      const Box box = face.boxIn(place);
      const double depth = -plane->signedDistance(place.origin);
      if (depth > tolerance::samePlace && box.low.x < 0 && box.high.x > 0 && box.low.y < 0 && box.high.y > 0)
        thick = std::min(thick, depth);
    }
    return thick == Box::infinity ? std::nullopt : std::optional(thick);
  }

  const OpeningFields openings_{*this};
  const ChoiceField<Way> way_{
      *this, {.key = "way", .label = "Copies", .well = Well::Cutter, .telling = true}, {"line", "mirror", "wall"}};
  const PlainNumberField columns_{*this,
                                  {.key = "columns",
                                   .label = "Side by side",
                                   .well = Well::Cutter,
                                   .help = "how many, itself included",
                                   .when = way_.is(Way::Line)},
                                  "2",
                                  NumberRule::Positive};
  const PlainNumberField rows_{*this,
                               {.key = "rows",
                                .label = "One above another",
                                .well = Well::Cutter,
                                .help = "how many, itself included",
                                .when = way_.is(Way::Line)},
                               "1",
                               NumberRule::Positive};
  const PlaneField plane_{
      *this, {.key = "plane", .label = "Mirrored at", .well = Well::Cutter, .when = way_.is(Way::Mirror)}, "yz"};
  const FaceField wall_{*this,
                        {.key = "wall",
                         .label = "Wall",
                         .well = Well::Cutter,
                         .help = "a flat or round face, or one of free form",
                         .when = way_.is(Way::Wall)}};
  const LengthField along_{*this,
                           {.key = "along",
                            .label = "Along",
                            .well = Well::Cutter,
                            .help = "from one to the next; or from the middle of the other wall",
                            .when = way_.is(Way::Line, Way::Wall)},
                           "100 mm"};
  const LengthField up_{
      *this, {.key = "up", .label = "Up", .well = Well::Cutter, .when = way_.is(Way::Line, Way::Wall)}, "0 mm"};
};

}  // namespace

const StepKind& copyOpeningStep() {
  static const CopyOpening kind;
  return kind;
}

}  // namespace kervo
