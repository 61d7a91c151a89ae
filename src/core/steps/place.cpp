#include "steps/place.h"

#include <algorithm>
#include <cmath>
#include <tuple>

#include "base/quantity.h"
#include "geom/approach.h"
#include "geom/motion.h"
#include "steps/axis_field.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

std::vector<FieldSpec> placeFields() {
  std::vector<FieldSpec> fields{
      {.key = "bodies", .label = "Bodies", .type = FieldType::Bodies, .well = Well::Stock},
      {.key = "way",
       .label = "Motion",
       .type = FieldType::Choice,
       .well = Well::Reach,
       .defaultText = "move",
       .choices = {"move", "turn", "align", "until", "scale"},
       .help = "until: move along the axis until a face is met"},
      {.key = "angle",
       .label = "Angle",
       .type = FieldType::Angle,
       .well = Well::Reach,
       .defaultText = "90 deg",
       .whenField = "way",
       .whenValues = {"turn"}},
      {.key = "factor",
       .label = "Factor",
       .type = FieldType::Number,
       .well = Well::Reach,
       .defaultText = "1",
       .rule = NumberRule::Positive,
       .help = "From the middle of the bodies",
       .whenField = "way",
       .whenValues = {"scale"}},
      {.key = "face",
       .label = "Own face",
       .type = FieldType::Face,
       .well = Well::Reach,
       .help = "Of the bodies that are placed",
       .whenField = "way",
       .whenValues = {"align"}},
      {.key = "target",
       .label = "Target face",
       .type = FieldType::Face,
       .well = Well::Reach,
       .whenField = "way",
       .whenValues = {"align", "until"}},
      {.key = "align",
       .label = "Align",
       .type = FieldType::Choice,
       .well = Well::Reach,
       .defaultText = "against",
       .choices = {"against", "flush", "centred against", "centred flush"},
       .help = "against: face to face; flush: facing the same way; round faces: axis to axis. centred: middles of the "
               "faces as well",
       .whenField = "way",
       .whenValues = {"align"}},
      {.key = "gap",
       .label = "Gap",
       .type = FieldType::Length,
       .well = Well::Reach,
       .defaultText = "0 mm",
       .whenField = "way",
       .whenValues = {"align", "until"}}};
  // Right behind the way, so that they come first while bodies are moved.
  auto place = fields.begin() + 2;
  for (const char* axis : {"x", "y", "z"})
    place = std::next(fields.insert(place, {.key = axis,
                                            .label = std::string("By ") + axis,
                                            .type = FieldType::Length,
                                            .well = Well::Reach,
                                            .defaultText = "0 mm",
                                            .whenField = "way",
                                            .whenValues = {"move"}}));
  for (FieldSpec& field : axisFields("way", {"turn", "until"})) fields.push_back(std::move(field));
  fields.push_back({.key = "backwards",
                    .label = "The other way along the axis",
                    .type = FieldType::Flag,
                    .well = Well::Reach,
                    .defaultText = "false",
                    .whenField = "way",
                    .whenValues = {"until"}});
  fields.push_back({.key = "copy",
                    .label = "Place copies",
                    .type = FieldType::Flag,
                    .well = Well::Stock,
                    .defaultText = "false",
                    .help = "The bodies stay where they are"});
  return fields;
}

class Place : public SimpleStep {
 public:
  Place() : SimpleStep("place", "Place", placeFields()) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const BodyPick& pick = inputs.value<BodyPick>("bodies");
    const std::vector<BodyId> bodies = inputs.picked(pick, "bodies");
    if (bodies.empty()) throw Error("no body is chosen", "field Bodies", "Pick the bodies to place");
    const Motion motion = motionOf(inputs, bodies, progress);
    const bool copy = inputs.flag("copy");
    StepResult result;
    result.audit.touched = bodies;
    for (const BodyId& body : bodies) {
      progress.throwIfStopped();
      const BodyId made = inputs.id();
      const BodyId id = !copy ? body : bodies.size() > 1 ? made.part(body) : made;
      const Shape placed = moved(inputs.shape(body), motion, copy ? id.text() : std::string());
      if (!copy) result.consumed.push_back(body);
      result.audit.volumeBefore += copy ? 0 : inputs.shape(body).volume();
      result.audit.volumeAfter += placed.volume();
      result.pieces.push_back(
          {id, id, placed.volume(), placed.area(), placed.roughBox().centre(), true, placed, body, id});
      result.made.push_back({id, placed, body, copy ? "copy" : "", std::nullopt, ""});
    }
    addGauges(result, inputs, bodies);
    return result;
  }

 private:
  /// Handles on the sides of the box round the bodies as they were, and one that turns about the axis.
  static void addGauges(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& bodies) {
    Box box;
    for (const BodyId& body : bodies) box.add(inputs.box(body));
    const Vector half = (box.high - box.low) * 0.5;
    const std::string& way = inputs.choice("way");
    if (way == "move")
      for (const auto& [field, axis, out] :
           {std::tuple("x", Vector{1, 0, 0}, half.x), std::tuple("y", Vector{0, 1, 0}, half.y),
            std::tuple("z", Vector{0, 0, 1}, half.z)})
        result.gauges.push_back({field, box.centre() + axis * out, axis, inputs.number(field)});
    if (way != "turn") return;
    const Axis axis = axisOf(inputs);
    // The arm points from the axis to the bodies, or anywhere if they lie on it.
    const Point foot = axis.point + axis.direction * dot(box.centre() - axis.point, axis.direction);
    const Vector arm = box.centre() - foot;
    const Vector zero = length(arm) > 1e-6 ? normalized(arm) : Plane::through(foot, axis.direction).x;
    const double radius = std::max(length(arm), 0.6 * box.diagonal());
    result.gauges.push_back(Gauge::angle("angle", foot, axis.direction, zero, radius, inputs.number("angle")));
  }

  static Motion motionOf(StepInputs& inputs, const std::vector<BodyId>& bodies, Progress& progress) {
    const std::string& way = inputs.choice("way");
    if (way == "move") return Motion::by({inputs.number("x"), inputs.number("y"), inputs.number("z")});
    if (way == "turn") {
      const Axis axis = axisOf(inputs);
      return Motion::turn(axis.point, axis.direction, inputs.number("angle"));
    }
    if (way == "scale") {
      Box box;
      for (const BodyId& body : bodies) box.add(inputs.shape(body).box());
      return Motion::scale(box.centre(), inputs.number("factor"));
    }
    return way == "align" ? aligning(inputs) : untilMet(inputs, bodies, progress);
  }

  static Motion aligning(StepInputs& inputs) {
    const Face own = inputs.face("face"), target = inputs.face("target");
    const std::string& align = inputs.choice("align");
    const bool against = align.find("against") != std::string::npos;
    const bool centred = align.find("centred") != std::string::npos;
    const double gap = inputs.number("gap");
    if (own.plane() && target.plane()) {
      const Vector wanted = against ? -target.normal() : target.normal();
      const Motion turned = turning(own.normal(), wanted, own.samplePoint());
      const Point at = turned(centred ? own.middle() : own.samplePoint());
      const Point to = (centred ? target.middle() : target.samplePoint()) + target.normal() * gap;
      return turned.then(Motion::by(centred ? to - at : target.normal() * dot(to - at, target.normal())));
    }
    const auto ownAxis = own.axis(), targetAxis = target.axis();
    if (!ownAxis || !targetAxis)
      throw Error("a " + own.surfaceName() + " and a " + target.surfaceName() + " cannot be aligned",
                  "field Target face", "Pick two planar faces, or two turned ones");
    // Axis to axis: the shorter turn of the two.
    const bool same = dot(ownAxis->direction, targetAxis->direction) >= 0;
    const Vector wanted = same ? targetAxis->direction : -targetAxis->direction;
    const Motion turned = turning(ownAxis->direction, wanted, ownAxis->point);
    const Vector between = targetAxis->point - turned(ownAxis->point);
    const Vector along = targetAxis->direction * dot(between, targetAxis->direction);
    const Motion coaxial = turned.then(Motion::by(between - along));
    if (!centred) return coaxial;
    const double apart = dot(target.middle() - coaxial(own.middle()), targetAxis->direction);
    return coaxial.then(Motion::by(targetAxis->direction * (apart + gap)));
  }

  /// The smallest turn about a point that takes one direction into another.
  static Motion turning(Vector from, Vector to, Point about) {
    const Vector axis = cross(from, to);
    const double sine = length(axis), cosine = dot(from, to);
    if (sine > 1e-12) return Motion::turn(about, axis, std::atan2(sine, cosine));
    if (cosine > 0) return {};
    return Motion::turn(about, Plane::through(about, from).x, std::acos(-1.0));
  }

  static Motion untilMet(StepInputs& inputs, const std::vector<BodyId>& bodies, Progress& progress) {
    Axis axis = axisOf(inputs);
    if (inputs.flag("backwards")) axis.direction = -axis.direction;
    const Face target = inputs.face("target");
    std::vector<Shape> shapes;
    for (const BodyId& body : bodies) shapes.push_back(inputs.shape(body));
    const auto distance = distanceUntilMet(shapes, axis.direction, target, progress);
    if (!distance)
      throw Error("the bodies never meet the face on their way", "field Target face",
                  "Reverse the direction, or pick another face or axis");
    return Motion::by(axis.direction * (*distance - inputs.number("gap")));
  }
};

}  // namespace

const StepKind& placeStep() {
  static const Place kind;
  return kind;
}

}  // namespace kervo
