// Solids hollowed out to walls, with faces left open and holes to drain them.
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/faces_field.h"
#include "fields/number_field.h"
#include "fields/pieces_field.h"
#include "fields/regions_field.h"
#include "geom/display/outline.h"
#include "geom/primitives.h"
#include "geom/surface/drain_places.h"
#include "geom/surface/hollowed.h"
#include "steps/registry.h"
#include "steps/shared/alike_bodies.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/drawn_circles.h"

namespace kervo {

namespace {

class Hollow : public StepKind {
 public:
  Hollow()
      : StepKind({.key = "hollow",
                  .label = "Hollow",
                  .menu = KindMenu::Cut,
                  .verb = "Hollow out",
                  .shortcut = "Ctrl+Alt+E",
                  .help = "Leaves walls of a thickness; chosen faces stay open, and holes drain the space",
                  .takesMeshes = true,
                  .wells = {.cutter = {"Open", "where there is no wall"}, .reach = {"Walls", "what stays"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(open_, selected.faces());
    if (const auto bodies = selected.bodies(); !bodies.empty()) start.set(stock_, BodyPick::only(bodies));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.bodies().empty() ? std::nullopt : std::optional<std::string>(say("Hollow it out"));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const Stock stock = stockOf(inputs, stock_);
    const std::vector<Face> open = facesOrNone(inputs, open_), others = facesOrNone(inputs, others_);
    std::size_t found = 0;
    for (std::size_t i = 0; i < stock.bodies.size(); ++i) {
      const BodyId& body = stock.bodies[i];
      const Shape shape = inputs.shape(body);
      progress.enter(static_cast<double>(i) / static_cast<double>(stock.bodies.size()),
                     static_cast<double>(i + 1) / static_cast<double>(stock.bodies.size()),
                     say("hollowing out \"%1\"", body));
      HollowWishes wishes;
      wishes.wall = wall_.of(inputs);
      wishes.outside = shareOutside(inputs);
      wishes.open = numbersIn(shape, open);
      for (const int face : numbersIn(shape, others)) wishes.otherWalls[face] = otherWall_.of(inputs);
      found += wishes.open.size() + wishes.otherWalls.size();
      hollowOut(result, inputs, body, shape, wishes, progress);
    }
    if (found < open.size() + others.size())
      open_.fail(say("a face that was picked is none of the stock's"), say("Pick its body too, or leave it out"));
    for (const BodyId& body : stock.shielded) result.audit.shielded.push_back(body);
    settlePieces(result, inputs, pieces_.in(inputs));
    alike_.carry(result, inputs, {}, progress);
    return result;
  }

 private:
  enum class Side { Inside, Outside, Centred };
  enum class Down { MinusZ, Z, MinusY, Y, MinusX, X };

  static std::vector<Face> facesOrNone(StepInputs& inputs, const FacesField& field) {
    return field.in(inputs).empty() ? std::vector<Face>() : field.of(inputs);
  }

  static std::vector<int> numbersIn(const Shape& shape, const std::vector<Face>& wanted) {
    const std::vector<Face> all = facesOf(shape);
    std::vector<int> numbers;
    for (std::size_t i = 0; i < all.size(); ++i)
      if (std::any_of(wanted.begin(), wanted.end(), [&](const Face& each) { return isSameFace(each, all[i]); }))
        numbers.push_back(static_cast<int>(i));
    return numbers;
  }

  double shareOutside(const Inputs& inputs) const {
    switch (side_.of(inputs)) {
      case Side::Inside:
        return 0;
      case Side::Outside:
        return 1;
      case Side::Centred:
        break;
    }
    constexpr double half = 0.5;
    return half;
  }

  Vector downOf(const Inputs& inputs) const {
    switch (down_.of(inputs)) {
      case Down::MinusZ:
        return {0, 0, -1};
      case Down::Z:
        return {0, 0, 1};
      case Down::MinusY:
        return {0, -1, 0};
      case Down::Y:
        return {0, 1, 0};
      case Down::MinusX:
        return {-1, 0, 0};
      case Down::X:
        break;
    }
    return {1, 0, 0};
  }

  void hollowOut(StepResult& result, StepInputs& inputs, const BodyId& body, const Shape& shape,
                 const HollowWishes& wishes, Progress& progress) const {
    Hollowed hollow;
    try {
      hollow = hollowed(shape, wishes, inputs.id(), progress);
    } catch (const Error& error) {
      throw error.within(say("body \"%1\"", body));
    }
    const Shape& space = hollow.division.inside;
    for (Polyline& line : edgeLines(space)) result.cutterOutline.push_back(std::move(line));
    std::vector<std::string>& notes = result.audit.notes;
    if (hollow.thinnest <= hollow.thickest)
      notes.push_back(say("\"%1\": its wall is %2 to %3 mm thick, measured at %4 places", body,
                          formatNumber(hollow.thinnest, 6), formatNumber(hollow.thickest, 6), hollow.measured));
    if (hollow.withoutRounds)
      notes.push_back(say("\"%1\": rounds that are smaller than the wall are sharp inside", body));
    const Division drained = drain(result, inputs, body, hollow, progress);
    if (wishes.outside > 0)
      replaceBody(result, body, shape, drained.outside);
    else
      addDivided(result, inputs, body, drained);
    if (result.gauges.empty() && !space.empty() && !space.mesh()) {
      const Face face = facesOf(space).front();
      result.gauges.push_back({wall_.key(), face.samplePoint(), face.normal(), wishes.wall});
    }
  }

  struct Drain {
    DrainPlace place;
    double radius = 0;
  };

  /// Where the space is lowest.
  std::vector<Drain> lowest(const StepInputs& inputs, const BodyId& body, const Hollowed& hollow) const {
    const auto count = static_cast<int>(std::lround(drains_.of(inputs)));
    if (count < 1) return {};
    const double radius = drain_.of(inputs) / 2;
    std::vector<Drain> drains;
    for (const DrainPlace& place :
         drainPlaces(hollow.division.outside, hollow.division.inside, downOf(inputs), count, radius))
      drains.push_back({place, radius});
    if (static_cast<int>(drains.size()) < count)
      drains_.fail(sayCount(drains.size(), "there is room for %1 hole where the space of \"%2\" is lowest",
                            "there is room for %1 holes where the space of \"%2\" is lowest", body),
                   say("Ask for fewer, or for a smaller diameter"));
    return drains;
  }

  /// Through the walls in front of the circles that were picked.
  std::vector<Drain> drawn(StepInputs& inputs, const BodyId& body, const Hollowed& hollow) const {
    if (drawn_.in(inputs).drawing.empty()) return {};
    const Vector way = drawn_.drawing(inputs).plane.normal;
    std::vector<Drain> drains;
    for (const DrawnCircle& circle : drawnCircles(drawn_, inputs)) {
      const auto place = drainAlong(hollow.division.outside, hollow.division.inside, circle.middle, way, circle.radius);
      if (!place)
        drawn_.fail(say("a hole at \"%1\" would not lie in one wall of \"%2\"", circle.curve, body),
                    say("Move the circle, draw it smaller, or leave it out"));
      drains.push_back({*place, circle.radius});
    }
    return drains;
  }

  /// With holes from the space to the outside.
  Division drain(StepResult& result, StepInputs& inputs, const BodyId& body, const Hollowed& hollow,
                 Progress& progress) const {
    std::vector<Drain> drains = lowest(inputs, body, hollow);
    for (Drain& each : drawn(inputs, body, hollow)) drains.push_back(each);
    if (drains.empty()) return hollow.division;
    std::vector<Shape> cutters{hollow.division.inside};
    int number = 0;
    for (const Drain& each : drains) {
      cutters.push_back(makeCylinder(inputs.id() + ":drain" + std::to_string(++number),
                                     Plane::through(each.place.from, each.place.way), each.radius, each.place.length));
      for (Polyline& line : edgeLines(cutters.back())) result.cutterOutline.push_back(std::move(line));
    }
    return divide(hollow.outer, cutters, progress);
  }

  const BodiesField stock_{*this, {.key = "stock", .label = "Stock", .well = Well::Stock}, BodyPick::only({})};
  const AlikeField alike_{*this};
  const FacesField open_{
      *this,
      {.key = "open", .label = "Open faces", .well = Well::Cutter, .help = "none: the space is closed all round"}};
  const LengthField wall_{*this, {.key = "wall", .label = "Wall", .well = Well::Reach}, "2 mm", NumberRule::Positive};
  const ChoiceField<Side> side_{*this,
                                {.key = "side",
                                 .label = "Side",
                                 .well = Well::Reach,
                                 .help = "of the faces as they are: the body keeps its size, or grows by the wall"},
                                {"inside", "outside", "centred"}};
  const FacesField others_{
      *this,
      {.key = "other_faces", .label = "Other walls", .well = Well::Reach, .help = "faces with a wall of their own"}};
  const LengthField otherWall_{
      *this, {.key = "other_wall", .label = "Their wall", .well = Well::Reach}, "4 mm", NumberRule::Positive};
  const PlainNumberField drains_{
      *this,
      {.key = "drains", .label = "Drain holes", .well = Well::Cutter, .help = "how many, where the space is lowest"},
      "0",
      NumberRule::NotNegative};
  const LengthField drain_{
      *this, {.key = "drain", .label = "Drain's diameter", .well = Well::Cutter}, "4 mm", NumberRule::Positive};
  const ChoiceField<Down> down_{
      *this, {.key = "down", .label = "Down is", .well = Well::Cutter}, {"-z", "z", "-y", "y", "-x", "x"}};
  const RegionsField drawn_{*this,
                            {.key = "drawn_drains",
                             .label = "Drawn drains",
                             .well = Well::Cutter,
                             .help = "circles of a drawing: each goes through the wall in front of it"}};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& hollowStep() {
  static const Hollow kind;
  return kind;
}

}  // namespace kervo
