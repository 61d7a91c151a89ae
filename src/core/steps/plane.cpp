#include "steps/plane.h"

#include <cmath>

#include "geom/motion.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

std::vector<FieldSpec> planeFields() {
  return {
      {.key = "way",
       .label = "Way",
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
       .help = "A turned face: across its axis, through its middle",
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
  /// Half-way between two parallel planes, or the plane that halves the angle between two others.
  static Plane midway(StepInputs& inputs) {
    const Plane a = inputs.plane("from"), b = inputs.plane("other");
    const Vector line = cross(a.normal, b.normal);
    if (length(line) < 1e-9) {
      // Opposite faces look away from each other: the first one's normal counts.
      const double apart = a.signedDistance(b.origin);
      if (std::abs(apart) < 1e-9) throw Error("both are the same plane", "field And", "Pick another face or plane");
      return a.moved(apart / 2);
    }
    // A point of both: solved for the two distances and along the line.
    const double da = dot(a.origin, a.normal), db = dot(b.origin, b.normal);
    const Point on = (cross(b.normal, line) * da + cross(line, a.normal) * db) * (1 / dot(line, line));
    // Between two faces of a body, that look outwards: where both are equally far. Two planes that look nearly the same
    // way have the middle one between them.
    const bool faces = inputs.value<PlanePick>("from").kind == PlanePick::Kind::OnFace &&
                       inputs.value<PlanePick>("other").kind == PlanePick::Kind::OnFace;
    const Vector facing = !faces && dot(a.normal, b.normal) > 0 ? a.normal + b.normal : a.normal - b.normal;
    return Plane::through(on, facing);
  }

  static Plane throughPoints(StepInputs& inputs) {
    const auto& picks = inputs.value<std::vector<PointReference>>("points");
    if (picks.size() != 3)
      throw Error(std::to_string(picks.size()) + " points are picked", "field Points", "Pick three corners of bodies");
    const Point a = inputs.point(picks[0], "points"), b = inputs.point(picks[1], "points"),
                c = inputs.point(picks[2], "points");
    const Vector normal = cross(b - a, c - a);
    const double longest = std::max({distance(a, b), distance(b, c), distance(a, c)});
    if (length(normal) < 1e-9 * longest * longest)
      throw Error("the three points lie on one line", "field Points", "Pick another point");
    // The same plane whichever point was picked first: looking up, or along the first axis that it can.
    const Vector up = normalized(normal);
    const bool flip =
        up.z < -1e-9 || (std::abs(up.z) <= 1e-9 && (up.y < -1e-9 || (std::abs(up.y) <= 1e-9 && up.x < 0)));
    return Plane::through((a + b + c) * (1.0 / 3), flip ? -up : up);
  }

  static Plane across(StepInputs& inputs) {
    const auto& edges = inputs.value<std::vector<EdgeReference>>("edge");
    if (!edges.empty()) {
      const Edge edge = inputs.edges(edges.front()).edges.front().second;
      const auto axis = edge.axis();
      if (!axis) throw Error("the edge is neither straight nor round", "field Edge", "Pick another edge");
      const Vector along = edge.middle() - axis->point;
      const bool straight = length(cross(along, axis->direction)) < 1e-9;
      return Plane::through(straight ? edge.middle() : axis->point, axis->direction);
    }
    const Face face = inputs.face("axis_face");
    const auto axis = face.axis();
    if (!axis) throw Error("a " + face.surfaceName() + " face has no axis", "field Or axis of", "Pick a turned face");
    const double along = dot(face.middle() - axis->point, axis->direction);
    return Plane::through(axis->point + axis->direction * along, axis->direction);
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
