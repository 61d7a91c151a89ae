#include "steps/plane.h"

#include <cmath>

#include "geom/built_planes.h"
#include "geom/motion.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

std::vector<FieldSpec> planeFields() {
  return {
      {.key = "way",
       .label = "Type",
       .type = FieldType::Choice,
       .defaultText = "offset",
       .choices = {"offset", "midway", "points", "across", "turned", "at"},
       .help = "midway between two planes or faces; through three points; across an edge or axis; turned about an "
               "edge; at a "
               "point with a normal"},
      {.key = "from",
       .label = "From",
       .type = FieldType::Plane,
       .defaultText = "xy",
       .whenField = "way",
       .whenValues = {"offset", "midway", "turned"}},
      {.key = "other",
       .label = "And",
       .type = FieldType::Plane,
       .defaultText = "xy",
       .whenField = "way",
       .whenValues = {"midway"}},
      {.key = "points", .label = "Points", .type = FieldType::Points, .whenField = "way", .whenValues = {"points"}},
      {.key = "edge",
       .label = "Edge",
       .type = FieldType::Edges,
       .help = "across: through its middle, at a right angle to it (to the circle of a round one: its plane); turned: "
               "the edge to turn about",
       .whenField = "way",
       .whenValues = {"across", "turned"}},
      {.key = "axis_face",
       .label = "Or axis of",
       .type = FieldType::Face,
       .help = "A round face: across its axis, through its middle",
       .whenField = "way",
       .whenValues = {"across"}},
      {.key = "angle",
       .label = "Angle",
       .type = FieldType::Angle,
       .defaultText = "45 deg",
       .whenField = "way",
       .whenValues = {"turned"}},
      {.key = "point",
       .label = "Point",
       .type = FieldType::Placement,
       .choices = {"x", "y", "z"},
       .whenField = "way",
       .whenValues = {"at"}},
      {.key = "normal",
       .label = "Normal",
       .type = FieldType::Placement,
       .choices = {"x", "y", "z"},
       .help = "A direction, of any length",
       .whenField = "way",
       .whenValues = {"at"}},
      {.key = "offset",
       .label = "Offset",
       .type = FieldType::Length,
       .defaultText = "0 mm",
       .help = "Along the normal; outwards from a face"}};
}

class PlaneStep : public SimpleStep {
 public:
  PlaneStep() : SimpleStep("plane", "Plane", planeFields()) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const std::string& way = inputs.choice("way");
    const Plane from = way == "midway"   ? midway(inputs)
                       : way == "points" ? throughPoints(inputs)
                       : way == "across" ? across(inputs)
                       : way == "turned" ? turned(inputs)
                       : way == "at"     ? atPoint(inputs)
                                         : inputs.plane("from");
    StepResult result;
    result.plane = from.moved(inputs.number("offset"));
    result.gauges.push_back({"offset", from.origin, from.normal, inputs.number("offset")});
    return result;
  }

 private:
  static Plane midway(StepInputs& inputs) {
    const bool faces = inputs.value<PlanePick>("from").kind == PlanePick::Kind::OnFace &&
                       inputs.value<PlanePick>("other").kind == PlanePick::Kind::OnFace;
    const Plane from = inputs.plane("from"), other = inputs.plane("other");
    try {
      return midwayPlane(from, other, faces ? Between::Faces : Between::Planes);
    } catch (const Error& error) {
      throw error.within("field And");
    }
  }

  static Plane throughPoints(StepInputs& inputs) {
    return inputs.plane(PlanePick::through(inputs.value<std::vector<PointReference>>("points")), "points");
  }

  static Plane across(StepInputs& inputs) {
    const auto& edges = inputs.value<std::vector<EdgeReference>>("edge");
    if (!edges.empty()) return inputs.plane(PlanePick::across(edges.front()), "edge");
    return inputs.plane(PlanePick::across(inputs.value<FaceReference>("axis_face")), "axis_face");
  }

  static Plane atPoint(StepInputs& inputs) {
    const Vector normal = inputs.point("normal");
    if (length(normal) < 1e-9) throw Error("the normal is zero", "field Normal", "Type a direction, e.g. 0, 0, 1");
    return Plane::through(inputs.point("point"), normal);
  }

  static Plane turned(StepInputs& inputs) {
    const Plane from = inputs.plane("from");
    const auto& edges = inputs.value<std::vector<EdgeReference>>("edge");
    if (edges.empty()) throw Error("no edge is chosen", "field Edge", "Pick the straight edge to turn about");
    const Edge edge = inputs.edges(edges.front()).edges.front().second;
    const auto axis = edge.axis();
    if (!axis || length(cross(edge.middle() - axis->point, axis->direction)) > 1e-6)
      throw Error("the edge is not straight", "field Edge", "Pick a straight edge");
    const double angle = inputs.number("angle");
    return Plane::through(edge.middle(), Motion::turn({}, axis->direction, angle).turned(from.normal));
  }
};

}  // namespace

const StepKind& planeStep() {
  static const PlaneStep kind;
  return kind;
}

}  // namespace kervo
