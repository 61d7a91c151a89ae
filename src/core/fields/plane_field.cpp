#include "fields/plane_field.h"

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"
#include "fields/reference_parts.h"
#include "geom/built_planes.h"

namespace kervo {

using nlohmann::json;

template class FieldOf<PlanePick>;

json toJson(const PlanePick& pick) {
  switch (pick.kind) {
    case PlanePick::Kind::Standard:
      return pick.name;
    case PlanePick::Kind::OfStep:
      return {{"step", pick.name}};
    case PlanePick::Kind::OnFace:
      break;
    case PlanePick::Kind::Midway:
      return {{"midway", {toJson(pick.face), toJson(pick.other)}}};
    case PlanePick::Kind::Points: {
      json points = json::array();
      for (const PointReference& point : pick.points) points.push_back(toJson(point));
      return {{"points", points}};
    }
    case PlanePick::Kind::Tangent:
      return {{"tangent", toJson(pick.face)}, {"near", pointJson(pick.near)}};
    case PlanePick::Kind::AtHeight:
      return {{"height", pick.height.front().text()}};
    case PlanePick::Kind::Across:
      return {{"across", pick.edge.empty() ? toJson(pick.face) : toJson(pick.edge.front())}};
  }
  const json face = toJson(pick.face);
  return face.is_string() ? json{{"face", face}} : face;
}

PlanePick planeFrom(const json& value, const std::string& place) {
  if (value.is_string()) {
    const std::string name = value.get<std::string>();
    if (name != "xy" && name != "xz" && name != "yz")
      throw wrongJson(place, "xy, xz, yz, {\"step\": …}, {\"height\": …} or {\"face\": …}");
    return PlanePick::standard(name);
  }
  if (!value.is_object()) throw wrongJson(place, "a plane");
  if (value.contains("step")) {
    requireOnly(value, {"step"}, place);
    return PlanePick::ofStep(idAt<StepId>(value, "step", place));
  }
  if (value.contains("height")) {
    requireOnly(value, {"height"}, place);
    return PlanePick::atHeight(expressionFrom(value["height"], place + ".height"));
  }
  if (value.contains("midway")) {
    requireOnly(value, {"midway"}, place);
    const auto faces = listFrom<FaceReference>(value["midway"], place + ".midway", faceFrom);
    if (faces.size() != 2) throw wrongJson(place + ".midway", "two faces");
    return PlanePick::midway(faces[0], faces[1]);
  }
  if (value.contains("points")) {
    requireOnly(value, {"points"}, place);
    return PlanePick::through(listFrom<PointReference>(value["points"], place + ".points", pointReferenceFrom));
  }
  if (value.contains("tangent")) {
    requireOnly(value, {"tangent", "near"}, place);
    return PlanePick::tangent(faceFrom(value["tangent"], place + ".tangent"),
                              pointFrom(value.value("near", json()), place + ".near"));
  }
  if (value.contains("across")) {
    requireOnly(value, {"across"}, place);
    const json& across = value["across"];
    if (across.is_object() && across.contains("between")) return PlanePick::across(edgeFrom(across, place + ".across"));
    return PlanePick::across(faceFrom(across, place + ".across"));
  }
  return PlanePick::onFace(faceFrom(value, place));
}

void addTo(Hasher& hasher, const PlanePick& pick) {
  hasher.add(static_cast<std::uint64_t>(pick.kind)).add(pick.name);
  addTo(hasher, pick.face);
  if (pick.kind <= PlanePick::Kind::OnFace) return;
  addTo(hasher, pick.other);
  addTo(hasher, pick.points);
  addTo(hasher, pick.edge);
  hasher.add(pick.near.x).add(pick.near.y).add(pick.near.z);
}

void addSteps(std::set<StepId>& steps, const PlanePick& pick) {
  if (pick.kind == PlanePick::Kind::OfStep) steps.insert(pick.name);
  addSteps(steps, pick.face);
  addSteps(steps, pick.other);
  for (const PointReference& point : pick.points) addSteps(steps, point);
  for (const EdgeReference& edge : pick.edge) addSteps(steps, edge);
}

namespace {

Plane planarFace(Inputs& inputs, const FaceReference& reference, const Field& field) {
  const Face face = faceFor(inputs, reference, field);
  if (const std::optional<Plane> plane = face.plane()) return *plane;
  field.fail(say("the face \"%1\" is not planar (it is a %2)", reference.name, say(face.surfaceName().c_str())),
             say("Pick a planar face"));
}

Plane standardPlane(const std::string& name, const Field& field) {
  if (name == "xy") return {};
  if (name == "xz") return {{}, {1, 0, 0}, {0, 0, 1}, {0, -1, 0}};
  if (name == "yz") return {{}, {0, 1, 0}, {0, 0, 1}, {1, 0, 0}};
  field.fail(say("there is no plane \"%1\"", name), say("Choose xy, xz, yz, a Plane step or a face"));
}

Plane builtPlane(Inputs& inputs, const PlanePick& pick, const Field& field) {
  if (pick.kind == PlanePick::Kind::Midway) {
    const Plane first = planarFace(inputs, pick.face, field), second = planarFace(inputs, pick.other, field);
    try {
      return midwayPlane(first, second, Between::Faces);
    } catch (const Error& error) {
      throw error.within(field.place());
    }
  }
  if (pick.kind == PlanePick::Kind::Points) {
    if (pick.points.size() != 3)
      field.fail(say("%1 points are picked", pick.points.size()), say("Pick three corners of bodies"));
    const Point a = pointFor(inputs, pick.points[0], field), b = pointFor(inputs, pick.points[1], field),
                c = pointFor(inputs, pick.points[2], field);
    try {
      return planeThrough(a, b, c);
    } catch (const Error& error) {
      throw error.within(field.place());
    }
  }
  if (pick.kind == PlanePick::Kind::Tangent) {
    const Face face = faceFor(inputs, pick.face, field);
    try {
      return tangentPlane(face, pick.near);
    } catch (const Error& error) {
      throw error.within(field.place());
    }
  }
  const bool acrossFace = pick.edge.empty();
  const auto found = acrossFace ? FoundEdges() : edgesFor(inputs, pick.edge.front(), field);
  const std::optional<Face> face = acrossFace ? std::optional(faceFor(inputs, pick.face, field)) : std::nullopt;
  try {
    return face ? planeAcross(*face) : planeAcross(found.edges.front().second);
  } catch (const Error& error) {
    throw error.within(field.place());
  }
}

}  // namespace

std::vector<NumberPart> numbersOf(const PlanePick& pick, const std::string& place) {
  std::vector<NumberPart> result;
  for (const Expression& height : pick.height) result.push_back({height, NumberWanted{}, place});
  return result;
}

void changeNumbers(PlanePick& pick, const std::function<Expression(const Expression&)>& change) {
  for (Expression& height : pick.height) height = change(height);
}

Plane planeFor(Inputs& inputs, const PlanePick& pick, const Field& field, std::size_t number) {
  switch (pick.kind) {
    case PlanePick::Kind::Standard:
      return standardPlane(pick.name, field);
    case PlanePick::Kind::OfStep:
      if (const Datum* datum = inputs.datum(pick.name))
        if (const Plane* plane = std::get_if<Plane>(datum)) return *plane;
      field.fail(say("there is no plane from a step \"%1\" before this one", pick.name), say("Pick a plane again"));
    case PlanePick::Kind::OnFace:
      return planarFace(inputs, pick.face, field);
    case PlanePick::Kind::AtHeight:
      return Plane{}.moved(inputs.numbers(field)[number]);
    default:
      return builtPlane(inputs, pick, field);
  }
}

json PlaneField::print(const PlanePick& value) const {
  return kervo::toJson(value);
}

PlanePick PlaneField::parse(const json& value, const std::string& place) const {
  return planeFrom(value, place);
}

}  // namespace kervo
