// An axis of the world, of a round face or along an edge, through two points, or at a point with a direction.
#include "base/say.h"
#include "fields/coordinates_field.h"
#include "fields/points_field.h"
#include "fields/reference_parts.h"
#include "geom/tolerances.h"
#include "model/step_inputs.h"
#include "steps/registry.h"
#include "steps/shared/axis_fields.h"

namespace kervo {

namespace {

class AxisStep : public StepKind {
 public:
  AxisStep()
      : StepKind({.key = "axis",
                  .label = "Axis",
                  .menu = KindMenu::Draw,
                  .help = "Of a round face, along an edge, or through points",
                  .needsBodies = false,
                  .makes = Makes::Axis}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    const std::vector<PointReference> points = selected.points();
    const std::vector<FaceReference> faces = selected.faces();
    const std::vector<EdgeReference> edges = selected.edges();
    if (points.size() == 2) {
      start.set(way_, Way::Points);
      start.set(points_, points);
    } else if (!faces.empty()) {
      start.set(of_.axis, AxisFields::From::Face);
      start.set(of_.face, faces.front());
    } else if (!edges.empty()) {
      start.set(of_.axis, AxisFields::From::Edge);
      start.set(of_.edge, {edges.front()});
    }
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    StepResult result;
    result.made.push_back({.id = inputs.id(), .form = Datum(axis(inputs))});
    return result;
  }

 private:
  Axis axis(StepInputs& inputs) const {
    switch (way_.of(inputs)) {
      case Way::Along:
        return of_.of(inputs);
      case Way::Points: {
        const auto& points = points_.in(inputs);
        if (points.size() != 2)
          points_.fail(say("%1 points are picked", points.size()), say("Pick two corners or points"));
        const Point from = pointFor(inputs, points[0], points_), to = pointFor(inputs, points[1], points_);
        if (distance(from, to) < tolerance::samplePoint)
          points_.fail(say("both points lie at one place"), say("Pick two points apart from each other"));
        return {from, normalized(to - from)};
      }
      case Way::At:
        break;
    }
    const Vector direction = direction_.of(inputs);
    if (length(direction) < tolerance::direction)
      direction_.fail(say("the direction is zero"), say("Type a direction, e.g. 0, 0, 1"));
    return {point_.of(inputs), normalized(direction)};
  }

  enum class Way { Along, Points, At };
  const ChoiceField<Way> way_{
      *this,
      {.key = "way",
       .label = "Type",
       .help = "along an axis of the world, a face or an edge; through two points; at a point with a direction"},
      {"along", "points", "at"}};
  const AxisFields of_{*this, way_.is(Way::Along), Well::Setup};
  const PointsField points_{*this, {.key = "points", .label = "Points", .when = way_.is(Way::Points)}};
  const CoordinatesField point_{*this, {.key = "point", .label = "Point", .when = way_.is(Way::At)}, {"x", "y", "z"}};
  const CoordinatesField direction_{
      *this,
      {.key = "direction", .label = "Direction", .help = "Of any length", .when = way_.is(Way::At)},
      {"x", "y", "z"}};
};

}  // namespace

const StepKind& axisStep() {
  static const AxisStep kind;
  return kind;
}

}  // namespace kervo
