// Bodies moved, turned, aligned, moved until they meet a face, or scaled; also as copies.
#include <algorithm>
#include <cmath>
#include <tuple>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/flag_field.h"
#include "geom/measure/approach.h"
#include "geom/motion.h"
#include "geom/tolerances.h"
#include "model/step_inputs.h"
#include "steps/registry.h"
#include "steps/shared/axis_fields.h"

namespace kervo {

namespace {

class Place : public StepKind {
 public:
  Place()
      : StepKind({.key = "place",
                  .label = "Place",
                  .menu = KindMenu::Arrange,
                  .verb = "Place bodies",
                  .shortcut = "Ctrl+P",
                  .help = "Move, turn, align, scale; also as copies",
                  .startsGroup = true,
                  .takesMeshes = true,
                  .places = true}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.bodies()));
    // Its own face, should the body be aligned.
    const std::vector<FaceReference> faces = selected.faces();
    if (selected.picks.size() == 1 && faces.size() == 1) start.set(face_, faces.front());
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.bodies().empty() ? std::nullopt : std::optional<std::string>(say("Place …"));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const std::vector<BodyId> bodies = bodies_.of(inputs);
    if (bodies.empty()) bodies_.fail(say("no body is chosen"), say("Pick the bodies to place"));
    const Motion motion = motionOf(inputs, bodies, progress);
    const bool copy = copy_.of(inputs);
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
      result.pieces.push_back(Piece::whole(id, id, placed, body));
      result.pieces.back().key = id;
      result.made.push_back({.id = id, .form = placed, .from = body, .name = copy ? "copy" : ""});
    }
    addGauges(result, inputs, bodies);
    return result;
  }

 private:
  /// Handles on the sides of the box round the bodies as they were, and one that turns about the axis.
  void addGauges(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& bodies) const {
    Box box;
    for (const BodyId& body : bodies) box.add(inputs.box(body));
    const Vector half = (box.high - box.low) * 0.5;
    const Way way = way_.of(inputs);
    if (way == Way::Move)
      for (const auto& [field, axis, out] :
           {std::tuple(&x_, Vector{1, 0, 0}, half.x), std::tuple(&y_, Vector{0, 1, 0}, half.y),
            std::tuple(&z_, Vector{0, 0, 1}, half.z)})
        result.gauges.push_back({field->key(), box.centre() + axis * out, axis, field->of(inputs)});
    if (way != Way::Turn) return;
    const Axis axis = axis_.of(inputs);
    // The arm points from the axis to the bodies, or anywhere if they lie on it.
    const Point foot = axis.point + axis.direction * dot(box.centre() - axis.point, axis.direction);
    const Vector arm = box.centre() - foot;
    const Vector zero = length(arm) > tolerance::samePlace ? normalized(arm) : Plane::through(foot, axis.direction).x;
    const double radius = std::max(length(arm), 0.6 * box.diagonal());
    result.gauges.push_back(Gauge::angle(angle_.key(), foot, axis.direction, zero, radius, angle_.of(inputs)));
  }

  Motion motionOf(StepInputs& inputs, const std::vector<BodyId>& bodies, Progress& progress) const {
    switch (way_.of(inputs)) {
      case Way::Move:
        return Motion::by({x_.of(inputs), y_.of(inputs), z_.of(inputs)});
      case Way::Turn: {
        const Axis axis = axis_.of(inputs);
        return Motion::turn(axis.point, axis.direction, angle_.of(inputs));
      }
      case Way::Align:
        return aligning(inputs);
      case Way::Until:
        return untilMet(inputs, bodies, progress);
      case Way::Scale:
        break;
    }
    Box box;
    for (const BodyId& body : bodies) box.add(inputs.shape(body).box());
    return Motion::scale(box.centre(), factor_.of(inputs));
  }

  Motion aligning(StepInputs& inputs) const {
    const Face own = face_.of(inputs), target = target_.of(inputs);
    const Align align = align_.of(inputs);
    const bool against = align == Align::Against || align == Align::CentredAgainst;
    const bool centred = align == Align::CentredAgainst || align == Align::CentredFlush;
    const double gap = gap_.of(inputs);
    if (own.plane() && target.plane()) {
      const Vector wanted = against ? -target.normal() : target.normal();
      const Motion turned = turning(own.normal(), wanted, own.samplePoint());
      const Point at = turned(centred ? own.middle() : own.samplePoint());
      const Point to = (centred ? target.middle() : target.samplePoint()) + target.normal() * gap;
      return turned.then(Motion::by(centred ? to - at : target.normal() * dot(to - at, target.normal())));
    }
    const auto ownAxis = own.axis(), targetAxis = target.axis();
    if (!ownAxis || !targetAxis)
      target_.fail(
          say("a %1 and a %2 cannot be aligned", say(own.surfaceName().c_str()), say(target.surfaceName().c_str())),
          say("Pick two planar faces, or two turned ones"));
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
    if (sine > tolerance::rounding) return Motion::turn(about, axis, std::atan2(sine, cosine));
    if (cosine > 0) return {};
    return Motion::turn(about, Plane::through(about, from).x, std::acos(-1.0));
  }

  Motion untilMet(StepInputs& inputs, const std::vector<BodyId>& bodies, Progress& progress) const {
    Axis axis = axis_.of(inputs);
    if (backwards_.of(inputs)) axis.direction = -axis.direction;
    const Face target = target_.of(inputs);
    std::vector<Shape> shapes;
    for (const BodyId& body : bodies) {
      shapes.push_back(inputs.shape(body));
      if (shapes.back().mesh())
        bodies_.fail(say("\"%1\" is a mesh: until it meets a face only exact bodies are moved", body),
                     say("Move it by a length"));
    }
    const auto distance = distanceUntilMet(shapes, axis.direction, target, progress);
    if (!distance)
      target_.fail(say("the bodies never meet the face on their way"),
                   say("Reverse the direction, or pick another face or axis"));
    return Motion::by(axis.direction * (*distance - gap_.of(inputs)));
  }

  enum class Way { Move, Turn, Align, Until, Scale };
  enum class Align { Against, Flush, CentredAgainst, CentredFlush };
  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}};
  const ChoiceField<Way> way_{*this,
                              {.key = "way",
                               .label = "Motion",
                               .well = Well::Reach,
                               .help = "until: move along the axis until a face is met",
                               .telling = true},
                              {"move", "turn", "align", "until", "scale"}};
  const LengthField x_{*this, {.key = "x", .label = "By x", .well = Well::Reach, .when = way_.is(Way::Move)}, "0 mm"};
  const LengthField y_{*this, {.key = "y", .label = "By y", .well = Well::Reach, .when = way_.is(Way::Move)}, "0 mm"};
  const LengthField z_{*this, {.key = "z", .label = "By z", .well = Well::Reach, .when = way_.is(Way::Move)}, "0 mm"};
  const AngleField angle_{
      *this, {.key = "angle", .label = "Angle", .well = Well::Reach, .when = way_.is(Way::Turn)}, "90 deg"};
  const PlainNumberField factor_{*this,
                                 {.key = "factor",
                                  .label = "Factor",
                                  .well = Well::Reach,
                                  .help = "From the middle of the bodies",
                                  .when = way_.is(Way::Scale)},
                                 "1",
                                 NumberRule::Positive};
  const FaceField face_{*this,
                        {.key = "face",
                         .label = "Own face",
                         .well = Well::Reach,
                         .help = "Of the bodies that are placed",
                         .when = way_.is(Way::Align)}};
  const FaceField target_{
      *this, {.key = "target", .label = "Target face", .well = Well::Reach, .when = way_.is(Way::Align, Way::Until)}};
  const ChoiceField<Align> align_{*this,
                                  {.key = "align",
                                   .label = "Align",
                                   .well = Well::Reach,
                                   .help = say("against: face to face; flush: facing the same way; round faces: axis "
                                               "to axis. centred: middles of the faces as well"),
                                   .when = way_.is(Way::Align)},
                                  {"against", "flush", "centred against", "centred flush"}};
  const LengthField gap_{
      *this, {.key = "gap", .label = "Gap", .well = Well::Reach, .when = way_.is(Way::Align, Way::Until)}, "0 mm"};
  const AxisFields axis_{*this, way_.is(Way::Turn, Way::Until)};
  const FlagField backwards_{
      *this,
      {.key = "backwards", .label = "The other way along the axis", .well = Well::Reach, .when = way_.is(Way::Until)}};
  const FlagField copy_{
      *this, {.key = "copy", .label = "Place copies", .well = Well::Stock, .help = "The bodies stay where they are"}};
};

}  // namespace

const StepKind& placeStep() {
  static const Place kind;
  return kind;
}

}  // namespace kervo
