// Faces shifted, turned, offset or given another radius or surface, their neighbours following; of bodies from
// anywhere.
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/coordinates_field.h"
#include "fields/face_field.h"
#include "fields/faces_field.h"
#include "fields/reference_parts.h"
#include "geom/display/outline.h"
#include "geom/faces/changed_faces.h"
#include "geom/measure/between.h"
#include "geom/tolerances.h"
#include "steps/registry.h"
#include "steps/shared/axis_fields.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/picked_faces.h"

namespace kervo {

namespace {

class ShiftFaces : public StepKind {
 public:
  ShiftFaces()
      : StepKind(
            {.key = "shift_faces",
             .label = "Shift faces",
             .menu = KindMenu::Cut,
             .shortcut = "Ctrl+Alt+F",
             .help = "Moves, turns or offsets faces, or gives them another radius or surface; their neighbours follow",
             .startsGroup = true,
             .wells = {.stock = {"Faces", "of one or several bodies"}, .cutter = {"Where", "they go"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override { start.set(faces_, selected.faces()); }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Face) ? std::optional<std::string>(say("Shift faces")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const std::vector<PickedFaces> picked = pickedFaces(inputs, faces_, result);
    const Face first = picked.front().faces.front();
    const Motion motion = motionOf(inputs, first);
    for (const PickedFaces& each : picked) {
      std::map<int, FaceChange> changes;
      for (std::size_t i = 0; i < each.faces.size(); ++i)
        changes.emplace(each.numbers[i], changeOf(inputs, each.faces[i], motion));
      try {
        const Shape after = withFacesChanged(each.shape, changes, progress);
        replaceBody(result, each.body, each.shape, after);
        for (Polyline& line : edgeLines(after)) result.cutterOutline.push_back(std::move(line));
      } catch (const Error& error) {
        throw error.within(say("body \"%1\"", each.body));
      }
    }
    for (const BodyId& body : with_.of(inputs)) carry(result, inputs, body, motion);
    addGauge(result, inputs, first, motion);
    return result;
  }

 private:
  enum class Way { Distance, Vector, Until, Turn, Outwards, Radius, Surface };

  /// Of all picked faces, told by the first one.
  Motion motionOf(StepInputs& inputs, const Face& first) const {
    switch (way_.of(inputs)) {
      case Way::Distance:
        return Motion::by(first.normal() * distance_.of(inputs));
      case Way::Vector:
        return Motion::by({x_.of(inputs), y_.of(inputs), z_.of(inputs)});
      case Way::Until:
        return Motion::by(wayTo(face_.of(inputs), first));
      case Way::Turn: {
        const Axis axis = axis_.of(inputs);
        return Motion::turn(axis.point, axis.direction, angle_.of(inputs));
      }
      case Way::Outwards:
      case Way::Radius:
      case Way::Surface:
        break;
    }
    return {};
  }

  FaceChange changeOf(StepInputs& inputs, const Face& face, const Motion& motion) const {
    switch (way_.of(inputs)) {
      case Way::Outwards:
        return {{}, distance_.of(inputs), {}};
      case Way::Radius:
        return {{}, growthOf(inputs, face), {}};
      case Way::Surface:
        return {{}, 0, face_.of(inputs)};
      default:
        return {motion, 0, {}};
    }
  }

  void carry(StepResult& result, StepInputs& inputs, const BodyId& body, const Motion& motion) const {
    if (std::find(result.consumed.begin(), result.consumed.end(), body) != result.consumed.end())
      with_.fail(say("faces of \"%1\" are picked as well", body), say("Take either the body or its faces"));
    if (inputs.shielded(body)) {
      result.audit.shielded.push_back(body);
      return inputs.warn(say("\"%1\" is shielded and stays where it is", body));
    }
    const Shape before = inputs.shape(body);
    replaceBody(result, body, before, moved(before, motion));
  }

  /// Along the normal of the first face, until it lies in the plane of another.
  Vector wayTo(const Face& to, const Face& first) const {
    const auto plane = first.plane(), other = to.plane();
    if (!plane) faces_.fail(say("the first face is not flat"), say("Pick a flat one first, or shift by a distance"));
    if (!other || length(cross(plane->normal, other->normal)) > tolerance::sameDirection)
      face_.fail(say("the face is not parallel to the first one"),
                 say("Pick a parallel face, or take its surface over"));
    return plane->normal * plane->signedDistance(other->origin);
  }

  double growthOf(StepInputs& inputs, const Face& face) const {
    const auto now = radiusOf(face);
    if (!now)
      faces_.fail(say("a %1 face has no radius", say(face.surfaceName().c_str())), say("Pick cylinders or balls"));
    // Outwards is away from the material: into a hole.
    const auto axis = face.axis();
    const Point at = face.samplePoint();
    Vector out = face.normal();
    if (axis) {
      const Vector way = at - axis->point;
      out = out * (dot(out, way - axis->direction * dot(way, axis->direction)) > 0 ? 1.0 : -1.0);
      return (radius_.of(inputs) - *now) * (dot(out, face.normal()) > 0 ? 1 : -1);
    }
    return (radius_.of(inputs) - *now) * (dot(face.normal(), at - face.middle()) > 0 ? 1 : -1);
  }

  void addGauge(StepResult& result, StepInputs& inputs, const Face& first, const Motion& motion) const {
    const Point at = first.samplePoint();
    const Way way = way_.of(inputs);
    if (way == Way::Distance || way == Way::Outwards)
      result.gauges.push_back({distance_.key(), at, first.normal(), distance_.of(inputs)});
    if (way == Way::Vector)
      for (const auto& [field, axis] :
           {std::pair(&x_, Vector{1, 0, 0}), std::pair(&y_, Vector{0, 1, 0}), std::pair(&z_, Vector{0, 0, 1})})
        result.gauges.push_back({field->key(), motion(at) - axis * field->of(inputs), axis, field->of(inputs)});
    if (way != Way::Turn) return;
    const Axis axis = axis_.of(inputs);
    const Point foot = axis.point + axis.direction * dot(at - axis.point, axis.direction);
    const double radius = distance(at, foot);
    if (radius > tolerance::smallestSize)
      result.gauges.push_back(
          Gauge::angle(angle_.key(), foot, axis.direction, (at - foot) * (1 / radius), radius, angle_.of(inputs)));
  }

  const FacesField faces_{
      *this,
      {.key = "faces", .label = "Faces", .well = Well::Stock, .help = "rounds between them and others go with them"}};
  const BodiesField with_{*this,
                          {.key = "with",
                           .label = "With them go",
                           .well = Well::Stock,
                           .help = "whole bodies: a roof with the tops of its walls"}};
  const ChoiceField<Way> way_{
      *this,
      {.key = "way",
       .label = "Way",
       .well = Well::Cutter,
       .help =
           "distance: along the first face's normal; outwards: each along its own; surface: onto that of another face",
       .telling = true},
      {"distance", "vector", "until", "turn", "outwards", "radius", "surface"}};
  const LengthField distance_{*this,
                              {.key = "distance",
                               .label = "Distance",
                               .well = Well::Cutter,
                               .help = "outwards; below zero: into the material",
                               .when = way_.is(Way::Distance, Way::Outwards)},
                              "0 mm"};
  const LengthField x_{*this, {.key = "x", .label = "x", .well = Well::Cutter, .when = way_.is(Way::Vector)}, "0 mm"};
  const LengthField y_{*this, {.key = "y", .label = "y", .well = Well::Cutter, .when = way_.is(Way::Vector)}, "0 mm"};
  const LengthField z_{*this, {.key = "z", .label = "z", .well = Well::Cutter, .when = way_.is(Way::Vector)}, "0 mm"};
  const FaceField face_{*this,
                        {.key = "onto",
                         .label = "Face",
                         .well = Well::Cutter,
                         .help = "up to which they go, or whose surface they take over",
                         .when = way_.is(Way::Until, Way::Surface)}};
  const AxisFields axis_{*this, way_.is(Way::Turn), Well::Cutter, AxisFields::From::Z};
  const AngleField angle_{
      *this, {.key = "angle", .label = "Angle", .well = Well::Cutter, .when = way_.is(Way::Turn)}, "0 deg"};
  const LengthField radius_{*this,
                            {.key = "radius", .label = "Radius", .well = Well::Cutter, .when = way_.is(Way::Radius)},
                            "1 mm",
                            NumberRule::Positive};
};

}  // namespace

const StepKind& shiftFacesStep() {
  static const ShiftFaces kind;
  return kind;
}

}  // namespace kervo
