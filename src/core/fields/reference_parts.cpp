#include "fields/reference_parts.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "base/error.h"
#include "base/say.h"
#include "fields/field.h"
#include "fields/json_parts.h"

namespace kervo {

using nlohmann::json;

json toJson(const FaceReference& face) {
  if (face.body.empty() && !face.sample) return face.name;
  json result{{"face", face.name}};
  if (!face.body.empty()) result["body"] = face.body;
  if (face.sample) {
    result["at"] = pointJson(face.sample->point);
    result["normal"] = pointJson(face.sample->normal);
    result["area"] = face.sample->area;
  }
  return result;
}

json toJson(const EdgeReference& edge) {
  json result{{"between", {edge.first, edge.second}}};
  if (!edge.body.empty()) result["body"] = edge.body;
  if (edge.sample) result["at"] = pointJson(*edge.sample);
  return result;
}

json toJson(const PointReference& point) {
  if (point.isDatum()) return {{"datum", point.body}};
  json result{{"between", point.faces}};
  if (!point.body.empty()) result["body"] = point.body;
  if (point.sample) result["at"] = pointJson(*point.sample);
  return result;
}

FaceReference faceFrom(const json& value, const std::string& place) {
  FaceReference face;
  if (value.is_string()) {
    face.name = value.get<std::string>();
    return face;
  }
  if (!value.is_object()) throw wrongJson(place, "the name of a face");
  requireOnly(value, {"face", "body", "at", "normal", "area"}, place);
  face.name = textAt(value, "face", place);
  face.body = idAt<BodyId>(value, "body", place, "");
  if (value.contains("at")) {
    FaceReference::Sample sample;
    sample.point = pointFrom(value["at"], place + ".at");
    if (!value.contains("normal")) throw wrongJson(place, "a \"normal\" beside \"at\"");
    sample.normal = pointFrom(value["normal"], place + ".normal");
    sample.area = value.contains("area") ? finiteNumber(value["area"], place + ".area") : 0;
    face.sample = sample;
  }
  return face;
}

EdgeReference edgeFrom(const json& value, const std::string& place) {
  const bool brief = value.is_array();
  if (!brief && !value.is_object()) throw wrongJson(place, "a pair of face names");
  if (!brief) requireOnly(value, {"between", "body", "at"}, place);
  if (!brief && !value.contains("between")) throw wrongJson(place, "a key \"between\"");
  const std::vector<std::string> names = textsFrom(brief ? value : value["between"], place);
  if (names.size() != 2) throw wrongJson(place, "a pair of face names");
  EdgeReference edge{"", names[0], names[1], std::nullopt};
  if (brief) return edge;
  edge.body = idAt<BodyId>(value, "body", place, "");
  if (value.contains("at")) edge.sample = pointFrom(value["at"], place + ".at");
  return edge;
}

PointReference pointReferenceFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "a point");
  requireOnly(value, {"between", "body", "at", "datum"}, place);
  PointReference reference;
  if (value.contains("datum")) {
    requireOnly(value, {"datum"}, place);
    reference.body = idAt<BodyId>(value, "datum", place);
    return reference;
  }
  if (value.contains("between")) reference.faces = textsFrom(value["between"], place + ".between");
  std::sort(reference.faces.begin(), reference.faces.end());
  reference.body = idAt<BodyId>(value, "body", place, "");
  if (value.contains("at")) reference.sample = pointFrom(value["at"], place + ".at");
  if (reference.faces.empty() && !reference.sample) throw wrongJson(place, "a key \"between\", \"at\" or \"datum\"");
  return reference;
}

namespace {
void addPoint(Hasher& hasher, Point p) {
  hasher.add(p.x).add(p.y).add(p.z);
}
}  // namespace

void addTo(Hasher& hasher, const FaceReference& face) {
  hasher.add(face.body).add(face.name).add(face.sample ? "sample" : "");
  if (!face.sample) return;
  addPoint(hasher, face.sample->point);
  addPoint(hasher, face.sample->normal);
  hasher.add(face.sample->area);
}

void addTo(Hasher& hasher, const EdgeReference& edge) {
  hasher.add(edge.body).add(edge.first).add(edge.second).add(edge.sample ? "sample" : "");
  if (edge.sample) addPoint(hasher, *edge.sample);
}

void addTo(Hasher& hasher, const PointReference& point) {
  hasher.add(point.body).add(static_cast<std::uint64_t>(point.faces.size()));
  for (const std::string& face : point.faces) hasher.add(face);
  hasher.add(point.sample ? "sample" : "");
  if (point.sample) addPoint(hasher, *point.sample);
}

void addSteps(std::set<StepId>& steps, const FaceReference& face) {
  if (face.empty()) return;
  steps.insert(face.body.step());
  steps.insert(makerOf(face.name));
}

void addSteps(std::set<StepId>& steps, const EdgeReference& edge) {
  steps.insert(edge.body.step());
  for (const std::string& side : {edge.first, edge.second}) steps.insert(makerOf(side));
}

void addSteps(std::set<StepId>& steps, const PointReference& point) {
  steps.insert(point.body.step());
  for (const std::string& face : point.faces) steps.insert(makerOf(face));
}

namespace {

std::vector<SearchedBody> searched(Inputs& inputs, const BodyId& family) {
  std::vector<SearchedBody> result;
  for (const BodyId& body : inputs.members(family))
    if (!inputs.isMesh(body)) result.push_back({body, inputs.shape(body)});
  return result;
}

/// The side of an open edge on which nothing is has no name.
bool hasFace(const std::vector<SearchedBody>& bodies, const std::string& name) {
  if (name.empty()) return !bodies.empty();
  for (const SearchedBody& body : bodies)
    for (const Face& face : facesOf(body.shape))
      if (std::binary_search(face.origins().begin(), face.origins().end(), name)) return true;
  return false;
}

}  // namespace

Face faceFor(Inputs& inputs, const FaceReference& reference, const Field& field) {
  if (reference.empty()) field.fail(say("no face is chosen"), say("Pick a face"));
  try {
    const auto find = [&] {
      if (!reference.body.empty()) {
        const std::vector<SearchedBody> family = searched(inputs, reference.body);
        if (hasFace(family, reference.name)) return resolve(reference, family);
      }
      return resolve(reference, searched(inputs, ""));
    };
    const FoundFace found = find();
    if (found.how == Found::ByPosition)
      inputs.warn(say("%1: the face \"%2\" was found by its position only", field.place(), reference.name));
    return found.face;
  } catch (const Error& error) {
    throw error.within(field.place());
  }
}

FoundEdges edgesFor(Inputs& inputs, const EdgeReference& reference, const Field& field) {
  try {
    const auto find = [&] {
      if (!reference.body.empty()) {
        const std::vector<SearchedBody> family = searched(inputs, reference.body);
        if (hasFace(family, reference.first) && hasFace(family, reference.second)) return resolve(reference, family);
      }
      return resolve(reference, searched(inputs, ""));
    };
    FoundEdges found = find();
    if (found.how == Found::ByPosition)
      inputs.warn(reference.second.empty()
                      ? say("%1: the border of \"%2\" was found by its position only", field.place(), reference.first)
                      : say("%1: the edge \"%2 | %3\" was found by its position only", field.place(), reference.first,
                            reference.second));
    return found;
  } catch (const Error& error) {
    throw error.within(field.place());
  }
}

Point pointFor(Inputs& inputs, const PointReference& reference, const Field& field) {
  if (reference.isDatum()) {
    if (const Datum* datum = inputs.datum(reference.body))
      if (const Point* point = std::get_if<Point>(datum)) return *point;
    field.fail(say("there is no point \"%1\" before this step", reference.body),
               say("Pick a point again, or mend the step that makes it"));
  }
  try {
    const bool known = !reference.body.empty() && !inputs.members(reference.body).empty();
    const FoundPoint found = resolve(reference, searched(inputs, known ? reference.body : BodyId()));
    if (found.how == Found::ByPosition) inputs.warn(say("%1: a point was found by its position only", field.place()));
    return found.point;
  } catch (const Error& error) {
    throw error.within(field.place());
  }
}

}  // namespace kervo
