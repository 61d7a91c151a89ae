#include "steps/pattern.h"

#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "geom/motion.h"
#include "steps/axis_field.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

constexpr double mostCopies = 10'000;
/// Some 2 kB each, and as much again for their pictures.
constexpr double mostCopiedFaces = 500'000;

std::vector<FieldSpec> patternFields() {
  std::vector<FieldSpec> fields{{.key = "bodies", .label = "Bodies", .type = FieldType::Bodies, .well = Well::Stock},
                                {.key = "way",
                                 .label = "Pattern",
                                 .type = FieldType::Choice,
                                 .well = Well::Reach,
                                 .defaultText = "line",
                                 .choices = {"line", "grid", "ring", "along", "mirror"},
                                 .help = "along: along the open line of a drawing"},
                                {.key = "count",
                                 .label = "Count",
                                 .type = FieldType::Number,
                                 .well = Well::Reach,
                                 .defaultText = "3",
                                 .rule = NumberRule::Positive,
                                 .help = "With the body that is there already",
                                 .whenField = "way",
                                 .whenValues = {"line", "grid", "ring", "along"}},
                                {.key = "spacing",
                                 .label = "Spacing",
                                 .type = FieldType::Length,
                                 .well = Well::Reach,
                                 .defaultText = "20 mm",
                                 .whenField = "way",
                                 .whenValues = {"line", "grid"}},
                                {.key = "rows",
                                 .label = "Rows",
                                 .type = FieldType::Number,
                                 .well = Well::Reach,
                                 .defaultText = "2",
                                 .rule = NumberRule::Positive,
                                 .whenField = "way",
                                 .whenValues = {"grid"}},
                                {.key = "row_spacing",
                                 .label = "Row spacing",
                                 .type = FieldType::Length,
                                 .well = Well::Reach,
                                 .defaultText = "20 mm",
                                 .help = "At a right angle to the axis",
                                 .whenField = "way",
                                 .whenValues = {"grid"}},
                                {.key = "angle",
                                 .label = "Angle",
                                 .type = FieldType::Angle,
                                 .well = Well::Reach,
                                 .defaultText = "360 deg",
                                 .help = "From the first to the last; a whole turn is divided evenly",
                                 .whenField = "way",
                                 .whenValues = {"ring"}},
                                {.key = "line",
                                 .label = "Line",
                                 .type = FieldType::Regions,
                                 .well = Well::Reach,
                                 .whenField = "way",
                                 .whenValues = {"along"}},
                                {.key = "plane",
                                 .label = "Mirror plane",
                                 .type = FieldType::Plane,
                                 .well = Well::Reach,
                                 .defaultText = "yz",
                                 .whenField = "way",
                                 .whenValues = {"mirror"}}};
  for (FieldSpec& field : axisFields("way", {"line", "grid", "ring"})) fields.push_back(std::move(field));
  return fields;
}

class Pattern : public SimpleStep {
 public:
  Pattern() : SimpleStep("pattern", "Pattern", patternFields()) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const BodyPick& pick = inputs.value<BodyPick>("bodies");
    const std::vector<BodyId> bodies = inputs.picked(pick, "bodies");
    if (bodies.empty()) throw Error("no body is chosen", "field Bodies", "Pick the bodies to repeat");
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
        result.pieces.push_back({id, id, copy.volume(), copy.area(), copy.roughBox().centre(), true, copy, body, id});
        result.made.push_back({id, copy, body, std::to_string(n + 2), std::nullopt, ""});
      }
    if (inputs.choice("way") == "line") {
      const Axis axis = axisOf(inputs);
      result.gauges.push_back(
          {"spacing", inputs.box(bodies.front()).centre(), axis.direction, inputs.number("spacing")});
    }
    return result;
  }

 private:
  static int countOf(const StepInputs& inputs, const std::string& field) {
    const double count = inputs.number(field);
    if (count != std::floor(count) || count > mostCopies)
      throw Error("the count is not a whole number up to 10000", "field " + field, "Type a whole number");
    return static_cast<int>(count);
  }

  /// Known before anything is made: how many copies and faces there would be.
  static void requireFeasible(StepInputs& inputs, const std::vector<BodyId>& bodies) {
    const std::string& way = inputs.choice("way");
    if (way == "mirror") return;
    const double count = countOf(inputs, "count"), rows = way == "grid" ? countOf(inputs, "rows") : 1;
    double faces = 0;
    for (const BodyId& body : bodies) faces += inputs.shape(body).faceCount();
    const double copies = (count * rows - 1) * static_cast<double>(bodies.size());
    const double copiedFaces = (count * rows - 1) * faces;
    if (copies <= mostCopies && copiedFaces <= mostCopiedFaces) return;
    throw Error(
        "this would make " + formatNumber(copies, 15) + " copies with " + formatNumber(copiedFaces, 15) + " faces",
        "field count",
        "At most " + formatNumber(mostCopies, 15) + " copies with " + formatNumber(mostCopiedFaces, 15) +
            " faces are made");
  }

  /// Of the copies; the body that is there already is none of them.
  static std::vector<Motion> motionsOf(StepInputs& inputs) {
    const std::string& way = inputs.choice("way");
    if (way == "mirror") return {Motion::mirror(inputs.plane("plane"))};
    const int count = countOf(inputs, "count");
    std::vector<Motion> motions;
    if (way == "along") {
      const std::vector<Point> points = pointsAlong(inputs, count);
      for (std::size_t i = 1; i < points.size(); ++i) motions.push_back(Motion::by(points[i] - points.front()));
      return motions;
    }
    const Axis axis = axisOf(inputs);
    if (way == "ring") {
      const double angle = inputs.number("angle");
      const bool whole = std::abs(std::abs(angle) - 2 * std::numbers::pi) < 1e-9;
      const double step = count > 1 ? angle / (whole ? count : count - 1) : 0;
      for (int i = 1; i < count; ++i) motions.push_back(Motion::turn(axis.point, axis.direction, i * step));
      return motions;
    }
    const int rows = way == "grid" ? countOf(inputs, "rows") : 1;
    const Plane across = Plane::through(axis.point, axis.direction);
    for (int row = 0; row < rows; ++row)
      for (int i = 0; i < count; ++i)
        if (row || i)
          motions.push_back(Motion::by(axis.direction * (i * inputs.number("spacing")) +
                                       across.x * (row * (rows > 1 ? inputs.number("row_spacing") : 0))));
    return motions;
  }

  /// Evenly along the drawing's first open line, from its beginning to its end.
  static std::vector<Point> pointsAlong(StepInputs& inputs, int count) {
    const DrawingResult drawing = inputs.drawing(inputs.value<RegionPick>("line").drawing);
    if (drawing.paths.empty())
      throw Error("the drawing has no open line", "field Line", "Draw a line or arc to follow");
    const Path& path = drawing.paths.front();
    std::vector<Point> points;
    for (int n = 0; n < count; ++n) points.push_back(path.at(count > 1 ? path.length() * n / (count - 1) : 0));
    return points;
  }
};

}  // namespace

const StepKind& patternStep() {
  static const Pattern kind;
  return kind;
}

}  // namespace kervo
