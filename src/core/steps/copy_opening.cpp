// Openings cut again beside themselves, on the other side of a plane, or in another wall.
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/face_field.h"
#include "fields/plane_field.h"
#include "geom/openings/reshaped.h"
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
        for (const Motion& motion : motionsOf(inputs, openings, openings.picked[i]))
          copies.push_back({copyOf(inputs, fillings[i], motion, copies.size() + 1),
                            [&openings, number = openings.picked[i]] { return why(openings, number); }});
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

  std::vector<Motion> motionsOf(StepInputs& inputs, const BodyOpenings& openings, int number) const {
    if (way_.of(inputs) == Way::Mirror) return {Motion::mirror(plane_.of(inputs))};
    const int columns = countOf(columns_, inputs), rows = countOf(rows_, inputs);
    if (columns * rows < 2)
      columns_.fail(say("one alone is no copy"), say("Type how many stand in a row, itself included"));
    const OpeningWall wall(openings.shape, openings.opening(number));
    std::vector<Motion> motions;
    for (int row = 0; row < rows; ++row)
      for (int column = 0; column < columns; ++column) {
        const double x = column * along_.of(inputs), y = row * up_.of(inputs);
        if (row == 0 && column == 0) continue;
        if (!wall.keepsWalls(x, y))
          openings_.faces.fail(
              say("the walls of %1 are not parallel: it would not fit where it goes", openings.nameOf(number)),
              say("Cut the others yourself"));
        motions.push_back(wall.along(x, y));
      }
    return motions;
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
    const Face wall = wall_.of(inputs);
    const auto plane = wall.plane();
    if (!plane) wall_.fail(say("the face is not flat"), say("Pick a flat wall"));
    Plane place = *plane;
    place.origin = wall.middle();
    place.origin = place.at(along_.of(inputs), up_.of(inputs));
    std::vector<Recut> copies;
    for (const BodyOpenings& openings : bodies) {
      const std::vector<Shape> fillings = fillingsOf(openings, progress);
      if (openings.picked.size() + copies.size() > 1)
        openings_.faces.fail(say("only one opening at a time is copied to another wall"), say("Pick one of them"));
      const Opening& opening = openings.opening(openings.picked.front());
      Shape solid = copyOf(inputs, fillings.front(), Motion::onto(opening.frame, place), 1);
      if (opening.through) solid = throughWall(inputs, solid, opening, place);
      copies.push_back({solid, [&openings, number = openings.picked.front()] { return why(openings, number); }});
    }
    for (const BodyId& body : inputs.members(wall_.in(inputs).body)) {
      const Shape shape = inputs.shape(body);
      const std::vector<Face> all = facesOf(shape);
      if (std::none_of(all.begin(), all.end(), [&](const Face& each) { return isSameFace(each, wall); })) continue;
      if (inputs.shielded(body)) wall_.fail(say("\"%1\" is shielded", body), say("Unshield it, or pick another wall"));
      cutOpenings(result, body, shape, shape, copies, progress);
      return;
    }
    wall_.fail(say("the body of the wall is gone"), say("Pick a wall again"));
  }

  /// As long as the wall is thick there.
  Shape throughWall(StepInputs& inputs, const Shape& solid, const Opening& opening, const Plane& place) const {
    double thick = Box::infinity;
    for (const BodyId& body : inputs.members(wall_.in(inputs).body))
      for (const Face& face : facesOf(inputs.shape(body))) {
        const auto plane = face.plane();
        if (!plane || length(plane->normal + place.normal) > tolerance::sameDirection) continue;
        const Box box = face.boxIn(place);
        const double depth = -plane->signedDistance(place.origin);
        if (depth > tolerance::samePlace && box.low.x < 0 && box.high.x > 0 && box.low.y < 0 && box.high.y > 0)
          thick = std::min(thick, depth);
      }
    if (thick == Box::infinity)
      wall_.fail(say("the wall has no parallel face behind it: how thick it is cannot be told"),
                 say("Pick a wall of even thickness"));
    const Plane middle = Plane::through(place.at(0, 0, -std::min(thick, opening.depth) / 2), -place.normal);
    return stretched(solid, middle, thick - opening.depth);
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
  const FaceField wall_{
      *this, {.key = "wall", .label = "Wall", .well = Well::Cutter, .help = "a flat face", .when = way_.is(Way::Wall)}};
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
