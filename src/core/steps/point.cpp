// A point at coordinates, at a corner, midway between two, or where an axis meets a plane.
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/coordinates_field.h"
#include "fields/plane_field.h"
#include "fields/points_field.h"
#include "fields/reference_parts.h"
#include "geom/tolerances.h"
#include "model/step_inputs.h"
#include "steps/registry.h"
#include "steps/shared/axis_fields.h"

namespace kervo {

namespace {

class PointStep : public StepKind {
 public:
  PointStep()
      : StepKind({.key = "point",
                  .label = "Point",
                  .menu = KindMenu::Draw,
                  .help = "At coordinates, at a corner, midway, or where an axis meets a plane",
                  .needsBodies = false,
                  .makes = Makes::Point}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    const std::vector<PointReference> points = selected.points();
    if (points.empty() || points.size() > 2) return;
    start.set(way_, points.size() == 1 ? Way::Corner : Way::Midway);
    start.set(points_, points);
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    StepResult result;
    result.made.push_back({.id = inputs.id(), .form = Datum(point(inputs))});
    return result;
  }

 private:
  Point point(StepInputs& inputs) const {
    switch (way_.of(inputs)) {
      case Way::At: {
        const Point at = at_.of(inputs);
        return plane_.of(inputs).at(at.x, at.y, at.z);
      }
      case Way::Corner:
        return picked(inputs, 1).front();
      case Way::Midway: {
        const std::vector<Point> ends = picked(inputs, 2);
        return (ends[0] + ends[1]) * 0.5;
      }
      case Way::Intersection:
        break;
    }
    const Plane plane = plane_.of(inputs);
    const Axis axis = axis_.of(inputs);
    const double slope = dot(axis.direction, plane.normal);
    if (std::abs(slope) < tolerance::parallel)
      plane_.fail(say("the axis is parallel to the plane"), say("Pick a plane that the axis goes through"));
    return axis.point - axis.direction * (plane.signedDistance(axis.point) / slope);
  }

  std::vector<Point> picked(StepInputs& inputs, std::size_t wanted) const {
    const auto& references = points_.in(inputs);
    if (references.size() != wanted)
      points_.fail(say("%1 points are picked", references.size()),
                   wanted == 1 ? say("Pick one corner") : say("Pick two corners or points"));
    std::vector<Point> points;
    for (const PointReference& reference : references) points.push_back(pointFor(inputs, reference, points_));
    return points;
  }

  enum class Way { At, Corner, Midway, Intersection };
  const ChoiceField<Way> way_{*this,
                              {.key = "way",
                               .label = "Type",
                               .help = say("at coordinates on a plane; at a corner; midway between two points; at the "
                                           "intersection of an axis and a plane")},
                              {"at", "corner", "midway", "intersection"}};
  const PlaneField plane_{*this, {.key = "plane", .label = "Plane", .when = way_.is(Way::At, Way::Intersection)}};
  const CoordinatesField at_{
      *this,
      {.key = "at", .label = "At", .help = "Along the plane, and away from it", .when = way_.is(Way::At)},
      {"u", "v", "height"}};
  const PointsField points_{*this, {.key = "points", .label = "Points", .when = way_.is(Way::Corner, Way::Midway)}};
  const AxisFields axis_{*this, way_.is(Way::Intersection), Well::Setup};
};

}  // namespace

const StepKind& pointStep() {
  static const PointStep kind;
  return kind;
}

}  // namespace kervo
