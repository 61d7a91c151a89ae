// Copies of bodies in a line or grid, round an axis, along a drawn line, or mirrored.
#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/plane_field.h"
#include "fields/regions_field.h"
#include "fields/sizes_field.h"
#include "geom/motion.h"
#include "geom/tolerances.h"
#include "model/step_inputs.h"
#include "steps/registry.h"
#include "steps/shared/axis_fields.h"

namespace kervo {

namespace {

constexpr double mostCopies = 10'000;
/// Some 2 kB each, and as much again for their pictures.
constexpr double mostCopiedFaces = 500'000;

class Pattern : public StepKind {
 public:
  Pattern()
      : StepKind({.key = "pattern",
                  .label = "Pattern",
                  .menu = KindMenu::Arrange,
                  .verb = "Pattern of bodies",
                  .shortcut = "Ctrl+Shift+N",
                  .help = "Copies in a line, grid or ring, along a line, mirrored",
                  .takesMeshes = true}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.bodies()));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.bodies().empty() ? std::nullopt : std::optional<std::string>(say("Pattern …"));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const std::vector<BodyId> bodies = bodies_.of(inputs);
    if (bodies.empty()) bodies_.fail(say("no body is chosen"), say("Pick the bodies to repeat"));
    requireFeasible(inputs, bodies);
    const std::vector<Motion> motions = motionsOf(inputs);
    StepResult result;
    result.audit.touched = bodies;
    for (std::size_t n = 0; n < motions.size(); ++n)
      for (const BodyId& body : bodies) {
        progress.throwIfStopped();
        progress.report(static_cast<double>(n) / static_cast<double>(motions.size()));
        // All copies are one family, so that a later step takes them with one pick.
        const BodyId id =
            BodyId(inputs.id()).part((bodies.size() > 1 ? body + " " : std::string()) + std::to_string(n + 2));
        const Shape copy = moved(inputs.shape(body), motions[n], id);
        result.audit.volumeAfter += copy.volume();
        result.pieces.push_back(Piece::whole(id, id, copy, body));
        result.pieces.back().key = id;
        result.made.push_back({.id = id, .form = copy, .from = body, .name = std::to_string(n + 2)});
      }
    if (way_.of(inputs) == Way::Line) {
      const Axis axis = axis_.of(inputs);
      result.gauges.push_back(
          {spacing_.key(), inputs.box(bodies.front()).centre(), axis.direction, spacing_.of(inputs)});
    }
    return result;
  }

 private:
  static int countOf(const Inputs& inputs, const PlainNumberField& field) {
    const double count = field.of(inputs);
    if (count != std::floor(count) || count > mostCopies)
      field.fail(say("the count is not a whole number up to 10000"), say("Type a whole number"));
    return static_cast<int>(count);
  }

  /// Known before anything is made: how many copies and faces there would be.
  void requireFeasible(StepInputs& inputs, const std::vector<BodyId>& bodies) const {
    const Way way = way_.of(inputs);
    if (way == Way::Mirror) return;
    const bool given = way == Way::Distances;
    const double count = given ? static_cast<double>(distances_.of(inputs).size()) + 1 : countOf(inputs, count_),
                 rows = way == Way::Grid ? countOf(inputs, rows_) : 1;
    double faces = 0;
    for (const BodyId& body : bodies) faces += inputs.shape(body).faceCount();
    const double copies = (count * rows - 1) * static_cast<double>(bodies.size());
    const double copiedFaces = (count * rows - 1) * faces;
    if (copies <= mostCopies && copiedFaces <= mostCopiedFaces) return;
    count_.fail(say("this would make %1 copies with %2 faces", formatNumber(copies, 15), formatNumber(copiedFaces, 15)),
                say("At most %1 copies with %2 faces are made", formatNumber(mostCopies, 15),
                    formatNumber(mostCopiedFaces, 15)));
  }

  /// Of the copies; the body that is there already is none of them.
  std::vector<Motion> motionsOf(StepInputs& inputs) const {
    const Way way = way_.of(inputs);
    if (way == Way::Mirror) return {Motion::mirror(plane_.of(inputs))};
    std::vector<Motion> motions;
    if (way == Way::Distances) {
      const Vector direction = axis_.of(inputs).direction;
      for (const double distance : distances_.of(inputs)) motions.push_back(Motion::by(direction * distance));
      if (motions.empty()) distances_.fail(say("no distance is given"), say("Write lengths with ; between them"));
      return motions;
    }
    const int count = countOf(inputs, count_);
    if (way == Way::Along) {
      const std::vector<Point> points = pointsAlong(inputs, count);
      for (std::size_t i = 1; i < points.size(); ++i) motions.push_back(Motion::by(points[i] - points.front()));
      return motions;
    }
    const Axis axis = axis_.of(inputs);
    if (way == Way::Ring) {
      const double angle = angle_.of(inputs);
      const bool whole = std::abs(std::abs(angle) - 2 * std::numbers::pi) < tolerance::parallel;
      const double step = count > 1 ? angle / (whole ? count : count - 1) : 0;
      for (int i = 1; i < count; ++i) motions.push_back(Motion::turn(axis.point, axis.direction, i * step));
      return motions;
    }
    const int rows = way == Way::Grid ? countOf(inputs, rows_) : 1;
    const Plane across = Plane::through(axis.point, axis.direction);
    for (int row = 0; row < rows; ++row)
      for (int i = 0; i < count; ++i)
        if (row || i)
          motions.push_back(
              Motion::by(axis.direction * (i * spacing_.of(inputs)) + across.x * (row * rowSpacing_.of(inputs))));
    return motions;
  }

  /// Evenly along the drawing's first open line, from its beginning to its end.
  std::vector<Point> pointsAlong(StepInputs& inputs, int count) const {
    const DrawingResult drawing = line_.drawing(inputs);
    if (drawing.paths.empty()) line_.fail(say("the drawing has no open line"), say("Draw a line or arc to follow"));
    const Path& path = drawing.paths.front();
    std::vector<Point> points;
    for (int n = 0; n < count; ++n) points.push_back(path.at(count > 1 ? path.length() * n / (count - 1) : 0));
    return points;
  }

  enum class Way { Line, Grid, Ring, Along, Mirror, Distances };
  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}};
  const ChoiceField<Way> way_{*this,
                              {.key = "way",
                               .label = "Pattern",
                               .well = Well::Reach,
                               .help = "along: along the open line of a drawing; distances: one copy at each",
                               .telling = true},
                              {"line", "grid", "ring", "along", "mirror", "distances"}};
  const PlainNumberField count_{*this,
                                {.key = "count",
                                 .label = "Count",
                                 .well = Well::Reach,
                                 .help = "With the body that is there already",
                                 .when = way_.is(Way::Line, Way::Grid, Way::Ring, Way::Along)},
                                "3",
                                NumberRule::Positive};
  const LengthField spacing_{
      *this,
      {.key = "spacing", .label = "Spacing", .well = Well::Reach, .when = way_.is(Way::Line, Way::Grid)},
      "20 mm"};
  const PlainNumberField rows_{*this,
                               {.key = "rows", .label = "Rows", .well = Well::Reach, .when = way_.is(Way::Grid)},
                               "2",
                               NumberRule::Positive};
  const LengthField rowSpacing_{*this,
                                {.key = "row_spacing",
                                 .label = "Row spacing",
                                 .well = Well::Reach,
                                 .help = "At a right angle to the axis",
                                 .when = way_.is(Way::Grid)},
                                "20 mm"};
  const SizesField distances_{*this,
                              {.key = "distances",
                               .label = "Distances",
                               .well = Well::Reach,
                               .help = "Along the axis, from the body that is there already; less than zero: backwards",
                               .when = way_.is(Way::Distances)}};
  const AngleField angle_{*this,
                          {.key = "angle",
                           .label = "Angle",
                           .well = Well::Reach,
                           .help = "From the first to the last; a whole turn is divided evenly",
                           .when = way_.is(Way::Ring)},
                          "360 deg"};
  const RegionsField line_{*this, {.key = "line", .label = "Line", .well = Well::Reach, .when = way_.is(Way::Along)}};
  const PlaneField plane_{
      *this, {.key = "plane", .label = "Mirror plane", .well = Well::Reach, .when = way_.is(Way::Mirror)}, "yz"};
  const AxisFields axis_{*this, way_.is(Way::Line, Way::Grid, Way::Ring, Way::Distances)};
};

}  // namespace

const StepKind& patternStep() {
  static const Pattern kind;
  return kind;
}

}  // namespace kervo
