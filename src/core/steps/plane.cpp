// A plane at a distance from another plane or a planar face, between two, through points, across an edge, turned, or at
// a point with a normal.
#include <cmath>

#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/coordinates_field.h"
#include "fields/edges_field.h"
#include "fields/face_field.h"
#include "fields/plane_field.h"
#include "fields/points_field.h"
#include "geom/built_planes.h"
#include "geom/motion.h"
#include "geom/tolerances.h"
#include "model/step_inputs.h"
#include "steps/registry.h"

namespace kervo {

namespace {

class PlaneStep : public StepKind {
 public:
  PlaneStep()
      : StepKind({.key = "plane",
                  .label = "Plane",
                  .menu = KindMenu::Draw,
                  .help = "At a distance from a plane or face",
                  .needsBodies = false,
                  .makes = Makes::Plane}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    if (const auto plane = selected.plane()) start.set(from_, *plane);
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const bool fits = selected.planarFace() || (selected.nothing() && selected.anyBody);
    return fits ? std::optional(label()) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const Plane from = base(inputs);
    const double offset = offset_.of(inputs);
    StepResult result;
    result.made.push_back({.id = inputs.id(), .form = Datum(from.moved(offset))});
    result.gauges.push_back({offset_.key(), from.origin, from.normal, offset});
    return result;
  }

 private:
  Plane base(StepInputs& inputs) const {
    switch (way_.of(inputs)) {
      case Way::Offset:
        return from_.of(inputs);
      case Way::Midway:
        return midway(inputs);
      case Way::Points:
        return planeFor(inputs, PlanePick::through(points_.in(inputs)), points_);
      case Way::Across:
        return across(inputs);
      case Way::Turned:
        return turned(inputs);
      case Way::At:
        return atPoint(inputs);
    }
    return {};
  }

  Plane midway(StepInputs& inputs) const {
    const bool faces =
        from_.in(inputs).kind == PlanePick::Kind::OnFace && other_.in(inputs).kind == PlanePick::Kind::OnFace;
    const Plane from = from_.of(inputs), other = other_.of(inputs);
    try {
      return midwayPlane(from, other, faces ? Between::Faces : Between::Planes);
    } catch (const Error& error) {
      throw error.within(other_.place());
    }
  }

  Plane across(StepInputs& inputs) const {
    const auto& edges = edge_.in(inputs);
    if (!edges.empty()) return planeFor(inputs, PlanePick::across(edges.front()), edge_);
    return planeFor(inputs, PlanePick::across(axisFace_.in(inputs)), axisFace_);
  }

  Plane atPoint(StepInputs& inputs) const {
    const Point normal = normal_.of(inputs);
    if (length(normal - Point{}) < tolerance::direction)
      normal_.fail(say("the normal is zero"), say("Type a direction, e.g. 0, 0, 1"));
    return Plane::through(point_.of(inputs), normal - Point{});
  }

  Plane turned(StepInputs& inputs) const {
    const Plane from = from_.of(inputs);
    const Edge edge = edge_.first(inputs);
    const auto axis = edge.axis();
    if (!axis || length(cross(edge.middle() - axis->point, axis->direction)) > tolerance::samePlace)
      edge_.fail(say("the edge is not straight"), say("Pick a straight edge"));
    return Plane::through(edge.middle(), Motion::turn({}, axis->direction, angle_.of(inputs)).turned(from.normal));
  }

  enum class Way { Offset, Midway, Points, Across, Turned, At };
  const ChoiceField<Way> way_{*this,
                              {.key = "way",
                               .label = "Type",
                               .help = say("midway between two planes or faces; through three points; across an edge "
                                           "or axis; turned about an edge; at a point with a normal")},
                              {"offset", "midway", "points", "across", "turned", "at"}};
  const PlaneField from_{*this,
                         {.key = "from", .label = "From", .when = way_.is(Way::Offset, Way::Midway, Way::Turned)}};
  const PlaneField other_{*this, {.key = "other", .label = "And", .when = way_.is(Way::Midway)}};
  const PointsField points_{*this, {.key = "points", .label = "Points", .when = way_.is(Way::Points)}};
  const EdgesField edge_{*this,
                         {.key = "edge",
                          .label = "Edge",
                          .help = say("across: through its middle, at a right angle to it (to the circle of a round "
                                      "one: its plane); turned: the edge to turn about"),
                          .when = way_.is(Way::Across, Way::Turned)}};
  const FaceField axisFace_{*this,
                            {.key = "axis_face",
                             .label = "Or axis of",
                             .help = "A round face: across its axis, through its middle",
                             .when = way_.is(Way::Across)}};
  const AngleField angle_{*this, {.key = "angle", .label = "Angle", .when = way_.is(Way::Turned)}, "45 deg"};
  const CoordinatesField point_{*this, {.key = "point", .label = "Point", .when = way_.is(Way::At)}, {"x", "y", "z"}};
  const CoordinatesField normal_{
      *this,
      {.key = "normal", .label = "Normal", .help = "A direction, of any length", .when = way_.is(Way::At)},
      {"x", "y", "z"}};
  const LengthField offset_{
      *this, {.key = "offset", .label = "Offset", .help = "Along the normal; outwards from a face"}, "0 mm"};
};

}  // namespace

const StepKind& planeStep() {
  static const PlaneStep kind;
  return kind;
}

}  // namespace kervo
