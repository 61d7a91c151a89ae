#include "exchange/field_json.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "base/error.h"
#include "base/identifier.h"
#include "drawing/curve_kind.h"
#include "exchange/body_file.h"

namespace kervo {

using nlohmann::json;

namespace {

FileError wrong(const std::string& place, const std::string& needed) {
  return FileError(needed + " is needed here", place, "See docs/file-format.md");
}

json pointJson(Point p) {
  return json::array({p.x, p.y, p.z});
}

Point pointFrom(const json& value, const std::string& place) {
  if (!value.is_array() || value.size() != 3) throw wrong(place, "a list of three numbers");
  return {finiteNumber(value[0], place + "[0]"), finiteNumber(value[1], place + "[1]"),
          finiteNumber(value[2], place + "[2]")};
}

Expression expressionFrom(const json& value, const std::string& place) {
  if (value.is_string()) return Expression(value.get<std::string>());
  if (value.is_number()) return Expression(formatNumber(finiteNumber(value, place), 17));
  throw wrong(place, "an expression in quotes, or a number,");
}

std::vector<std::string> textsFrom(const json& value, const std::string& place) {
  if (!value.is_array()) throw wrong(place, "a list of names");
  std::vector<std::string> result;
  for (const json& item : value) {
    if (!item.is_string()) throw wrong(place, "a list of names");
    result.push_back(item.get<std::string>());
  }
  return result;
}

json faceJson(const FaceReference& face) {
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

FaceReference faceFrom(const json& value, const std::string& place) {
  FaceReference face;
  if (value.is_string()) {
    face.name = value.get<std::string>();
    return face;
  }
  if (!value.is_object()) throw wrong(place, "the name of a face");
  requireOnly(value, {"face", "body", "at", "normal", "area"}, place);
  face.name = textAt(value, "face", place);
  face.body = idAt<BodyId>(value, "body", place, "");
  if (value.contains("at")) {
    FaceReference::Sample sample;
    sample.point = pointFrom(value["at"], place + ".at");
    if (!value.contains("normal")) throw wrong(place, "a \"normal\" beside \"at\"");
    sample.normal = pointFrom(value["normal"], place + ".normal");
    sample.area = value.contains("area") ? finiteNumber(value["area"], place + ".area") : 0;
    face.sample = sample;
  }
  return face;
}

json edgeJson(const EdgeReference& edge) {
  json result{{"between", {edge.first, edge.second}}};
  if (!edge.body.empty()) result["body"] = edge.body;
  if (edge.sample) result["at"] = pointJson(*edge.sample);
  return result;
}

EdgeReference edgeFrom(const json& value, const std::string& place) {
  const bool brief = value.is_array();
  if (!brief && !value.is_object()) throw wrong(place, "a pair of face names");
  if (!brief) requireOnly(value, {"between", "body", "at"}, place);
  if (!brief && !value.contains("between")) throw wrong(place, "a key \"between\"");
  const std::vector<std::string> names = textsFrom(brief ? value : value["between"], place);
  if (names.size() != 2) throw wrong(place, "a pair of face names");
  EdgeReference edge{"", names[0], names[1], std::nullopt};
  if (brief) return edge;
  edge.body = idAt<BodyId>(value, "body", place, "");
  if (value.contains("at")) edge.sample = pointFrom(value["at"], place + ".at");
  return edge;
}

json pointReferenceJson(const PointReference& point) {
  json result{{"between", point.faces}};
  if (!point.body.empty()) result["body"] = point.body;
  if (point.sample) result["at"] = pointJson(*point.sample);
  return result;
}

PointReference pointReferenceFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrong(place, "a point");
  requireOnly(value, {"between", "body", "at"}, place);
  PointReference reference;
  if (value.contains("between")) reference.faces = textsFrom(value["between"], place + ".between");
  std::sort(reference.faces.begin(), reference.faces.end());
  reference.body = idAt<BodyId>(value, "body", place, "");
  if (value.contains("at")) reference.sample = pointFrom(value["at"], place + ".at");
  if (reference.faces.empty() && !reference.sample) throw wrong(place, "a key \"between\" or \"at\"");
  return reference;
}

template <class T, class Read>
std::vector<T> listFrom(const json& value, const std::string& place, Read&& read) {
  if (!value.is_array()) throw wrong(place, "a list");
  std::vector<T> result;
  for (std::size_t i = 0; i < value.size(); ++i)
    result.push_back(read(value[i], place + "[" + std::to_string(i) + "]"));
  return result;
}

PlanePick planeFrom(const json& value, const std::string& place) {
  if (value.is_string()) {
    const std::string name = value.get<std::string>();
    if (name != "xy" && name != "xz" && name != "yz") throw wrong(place, "xy, xz, yz, {\"step\": …} or {\"face\": …}");
    return {PlanePick::Kind::Standard, name, {}};
  }
  if (!value.is_object()) throw wrong(place, "a plane");
  if (value.contains("step")) {
    requireOnly(value, {"step"}, place);
    return {PlanePick::Kind::OfStep, idAt<StepId>(value, "step", place), {}};
  }
  if (value.contains("midway")) {
    requireOnly(value, {"midway"}, place);
    const auto faces = listFrom<FaceReference>(value["midway"], place + ".midway", faceFrom);
    if (faces.size() != 2) throw wrong(place + ".midway", "two faces");
    return PlanePick::midway(faces[0], faces[1]);
  }
  if (value.contains("points")) {
    requireOnly(value, {"points"}, place);
    return PlanePick::through(listFrom<PointReference>(value["points"], place + ".points", pointReferenceFrom));
  }
  if (value.contains("across")) {
    requireOnly(value, {"across"}, place);
    const json& across = value["across"];
    if (across.is_object() && across.contains("between")) return PlanePick::across(edgeFrom(across, place + ".across"));
    return PlanePick::across(faceFrom(across, place + ".across"));
  }
  return {PlanePick::Kind::OnFace, "", faceFrom(value, place)};
}

json planeJson(const PlanePick& pick) {
  switch (pick.kind) {
    case PlanePick::Kind::Standard:
      return pick.name;
    case PlanePick::Kind::OfStep:
      return {{"step", pick.name}};
    case PlanePick::Kind::OnFace:
      break;
    case PlanePick::Kind::Midway:
      return {{"midway", {faceJson(pick.face), faceJson(pick.other)}}};
    case PlanePick::Kind::Points: {
      json points = json::array();
      for (const PointReference& point : pick.points) points.push_back(pointReferenceJson(point));
      return {{"points", points}};
    }
    case PlanePick::Kind::Across:
      return {{"across", pick.edge.empty() ? faceJson(pick.face) : edgeJson(pick.edge.front())}};
  }
  const json face = faceJson(pick.face);
  return face.is_string() ? json{{"face", face}} : face;
}

std::vector<BodyId> bodyIdsFrom(const json& value, const std::string& place) {
  std::vector<BodyId> result;
  for (const std::string& text : textsFrom(value, place)) result.push_back(idFrom<BodyId>(text, place));
  return result;
}

BodyPick bodiesFrom(const json& value, const std::string& place) {
  if (value.is_string() && value.get<std::string>() == "all") return {true, {}};
  if (!value.is_array()) throw wrong(place, "\"all\" or a list of bodies");
  return {false, bodyIdsFrom(value, place)};
}

RegionPick regionsFrom(const json& value, const std::string& place) {
  if (value.is_string()) return {idFrom<StepId>(value.get<std::string>(), place), true, {}};
  if (!value.is_object()) throw wrong(place, "the id of a drawing step");
  requireOnly(value, {"drawing", "regions", "depths"}, place);
  RegionPick pick{idAt<StepId>(value, "drawing", place), true, {}};
  if (value.contains("depths")) {
    if (!value["depths"].is_object()) throw wrong(place + ".depths", "an object of regions and depths");
    for (const auto& item : value["depths"].items())
      pick.depths.emplace(item.key(), expressionFrom(item.value(), place + ".depths." + item.key()));
  }
  if (!value.contains("regions")) return pick;
  const json& regions = value["regions"];
  if (regions.is_string() && regions.get<std::string>() == "all") return pick;
  pick.all = false;
  pick.regions = textsFrom(regions, place + ".regions");
  return pick;
}

CutterPick cutterFrom(const json& value, const std::string& place) {
  if (!value.is_object() || value.size() != 1) {
    // A face's reference is an object of several keys, with "face" among them.
    if (value.is_object() && value.contains("face")) return CutterPick::of(faceFrom(value, place));
    throw wrong(place, "one of {\"plane\": …}, {\"face\": …}, {\"body\": …}, {\"drawing\": …}");
  }
  if (value.contains("plane")) return CutterPick::of(planeFrom(value["plane"], place + ".plane"));
  if (value.contains("face")) return CutterPick::of(faceFrom(value["face"], place + ".face"));
  if (value.contains("body")) return CutterPick::ofBody(idAt<BodyId>(value, "body", place));
  if (value.contains("drawing")) return CutterPick::of(regionsFrom(value["drawing"], place + ".drawing"));
  throw wrong(place, "one of {\"plane\": …}, {\"face\": …}, {\"body\": …}, {\"drawing\": …}");
}

PieceChoice piecesFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrong(place, "an object with \"keep\" and \"drop\"");
  requireOnly(value, {"keep", "drop", "known"}, place);
  PieceChoice choice;
  for (auto [key, list] :
       {std::pair("keep", &choice.keep), std::pair("drop", &choice.drop), std::pair("known", &choice.known)})
    if (value.contains(key)) *list = bodyIdsFrom(value[key], place + "." + key);
  return choice;
}

DrawnCurve curveFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrong(place, "a curve");
  DrawnCurve curve;
  curve.id = textAt(value, "id", place);
  // Region names say with - on which side of a curve they lie.
  if (curve.id.find('-') != std::string::npos || !whyNotAnId(curve.id).empty())
    throw FileError("\"" + curve.id + "\" cannot be a curve's id", place + ".id", "Use letters, digits and _");
  for (const CurveKind& kind : curveKinds()) {
    if (!value.contains(kind.name)) continue;
    requireOnly(value, {"id", kind.name}, place);
    curve.kind = kind.name;
    const std::string inside = place + "." + kind.name;
    const json& numbers = value[kind.name];
    if (!numbers.is_array() || numbers.size() != kind.numbers.size()) {
      std::string list;
      for (const CurveKind::Number& number : kind.numbers)
        list += (list.empty() ? "" : ", ") + std::string(number.name);
      throw wrong(inside, "a list of " + std::to_string(kind.numbers.size()) + " numbers (" + list + ")");
    }
    for (std::size_t i = 0; i < numbers.size(); ++i)
      curve.numbers.push_back(expressionFrom(numbers[i], inside + "[" + std::to_string(i) + "]"));
    return curve;
  }
  throw wrong(place, "one of the keys line, arc, circle, rectangle");
}

Color colorFrom(const json& value, const std::string& place) {
  const std::optional<Color> color = value.is_string() ? colorFromText(value.get<std::string>()) : std::nullopt;
  if (!color) throw wrong(place, "a colour as #rrggbb");
  return *color;
}

BroughtBody broughtFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrong(place, "a brought-in body");
  requireOnly(value, {"shape", "name", "color", "layer", "face_colors"}, place);
  BroughtBody body;
  body.shape = textAt(value, "shape", place);
  body.name = textAt(value, "name", place, "");
  body.layer = textAt(value, "layer", place, "");
  if (value.contains("color")) body.color = colorFrom(value["color"], place + ".color");
  if (!value.contains("face_colors")) return body;
  const std::string inside = place + ".face_colors";
  if (!value["face_colors"].is_object()) throw wrong(inside, "an object of face numbers and colours");
  for (const auto& item : value["face_colors"].items()) {
    const std::string& number = item.key();
    if (number.empty() || number.size() > 9 || number.find_first_not_of("0123456789") != std::string::npos)
      throw wrong(inside, "the number of a face");
    body.faceColors.emplace(std::stoi(number), colorFrom(item.value(), std::string(inside).append(".").append(number)));
  }
  return body;
}

struct ToJson {
  json operator()(const Expression& expression) const { return expression.text(); }
  json operator()(const std::string& text) const { return text; }
  json operator()(bool flag) const { return flag; }
  json operator()(const std::vector<Expression>& numbers) const {
    json result = json::array();
    for (const Expression& number : numbers) result.push_back(number.text());
    return result;
  }
  json operator()(const PlanePick& pick) const { return planeJson(pick); }
  json operator()(const BodyPick& pick) const { return pick.all ? json("all") : json(pick.bodies); }
  json operator()(const FaceReference& face) const { return faceJson(face); }
  json operator()(const std::vector<EdgeReference>& edges) const {
    json result = json::array();
    for (const EdgeReference& edge : edges) result.push_back(edgeJson(edge));
    return result;
  }
  json operator()(const RegionPick& pick) const {
    if (pick.all && pick.depths.empty()) return pick.drawing;
    json result{{"drawing", pick.drawing}};
    if (!pick.all) result["regions"] = pick.regions;
    for (const auto& [region, depth] : pick.depths) result["depths"][region] = depth.text();
    return result;
  }
  json operator()(const std::vector<CutterPick>& cutters) const {
    json result = json::array();
    for (const CutterPick& cutter : cutters) {
      switch (cutter.kind) {
        case CutterPick::Kind::Plane:
          result.push_back({{"plane", planeJson(cutter.plane)}});
          break;
        case CutterPick::Kind::Face:
          result.push_back({{"face", faceJson(cutter.face)}});
          break;
        case CutterPick::Kind::Body:
          result.push_back({{"body", cutter.body}});
          break;
        case CutterPick::Kind::Drawing:
          result.push_back({{"drawing", (*this)(cutter.drawing)}});
          break;
      }
    }
    return result;
  }
  json operator()(const PieceChoice& choice) const {
    json result = json::object();
    if (!choice.keep.empty()) result["keep"] = choice.keep;
    if (!choice.drop.empty()) result["drop"] = choice.drop;
    if (!choice.known.empty()) result["known"] = choice.known;
    return result;
  }
  json operator()(const std::vector<PointReference>& points) const {
    json result = json::array();
    for (const PointReference& point : points) result.push_back(pointReferenceJson(point));
    return result;
  }
  json operator()(const std::vector<FaceReference>& faces) const {
    json result = json::array();
    for (const FaceReference& face : faces) result.push_back(faceJson(face));
    return result;
  }
  json operator()(const std::vector<DrawnCurve>& curves) const {
    json result = json::array();
    for (const DrawnCurve& curve : curves) result.push_back({{"id", curve.id}, {curve.kind, (*this)(curve.numbers)}});
    return result;
  }
  json operator()(const std::vector<BroughtBody>& bodies) const {
    json result = json::array();
    for (const BroughtBody& body : bodies) {
      json entry{{"shape", body.shape}, {"name", body.name}};
      if (body.color) entry["color"] = colorText(*body.color);
      if (!body.layer.empty()) entry["layer"] = body.layer;
      for (const auto& [number, color] : body.faceColors)
        entry["face_colors"][std::to_string(number)] = colorText(color);
      result.push_back(std::move(entry));
    }
    return result;
  }
};

}  // namespace

void requireOnly(const json& object, std::initializer_list<const char*> keys, const std::string& place) {
  for (const auto& item : object.items()) {
    const bool known = std::any_of(keys.begin(), keys.end(), [&](const char* key) { return item.key() == key; });
    if (!known)
      throw FileError("the key \"" + item.key() + "\" is not known", place, "Correct its spelling, or remove it");
  }
}

std::string textAt(const json& object, const char* key, const std::string& place, const char* fallback) {
  if (!object.contains(key)) {
    if (fallback) return fallback;
    throw wrong(place, std::string("a key \"") + key + "\"");
  }
  if (!object[key].is_string()) throw wrong(place + "." + key, "a text");
  return object[key].get<std::string>();
}

double finiteNumber(const json& value, const std::string& place) {
  if (!value.is_number() || !std::isfinite(value.get<double>())) throw wrong(place, "a finite number");
  return value.get<double>();
}

json toJson(const FieldValue& value) {
  return std::visit(ToJson(), value);
}

FieldValue fieldFromJson(const FieldSpec& field, const json& value, const std::string& place) {
  switch (field.type) {
    case FieldType::Length:
    case FieldType::Angle:
    case FieldType::Number:
      return expressionFrom(value, place);
    case FieldType::Choice:
    case FieldType::Text:
      if (!value.is_string()) throw wrong(place, "a text");
      return value.get<std::string>();
    case FieldType::Flag:
      if (!value.is_boolean()) throw wrong(place, "true or false");
      return value.get<bool>();
    case FieldType::Placement: {
      auto numbers = listFrom<Expression>(value, place, expressionFrom);
      if (numbers.size() != 3) throw wrong(place, "a list of three lengths");
      return numbers;
    }
    case FieldType::Plane:
      return planeFrom(value, place);
    case FieldType::Bodies:
      return bodiesFrom(value, place);
    case FieldType::Face:
      return faceFrom(value, place);
    case FieldType::Edges:
      return listFrom<EdgeReference>(value, place, edgeFrom);
    case FieldType::Regions:
      return regionsFrom(value, place);
    case FieldType::Curves:
      return listFrom<DrawnCurve>(value, place, curveFrom);
    case FieldType::Brought:
      return listFrom<BroughtBody>(value, place, broughtFrom);
    case FieldType::Cutters:
      return listFrom<CutterPick>(value, place, cutterFrom);
    case FieldType::Pieces:
      return piecesFrom(value, place);
    case FieldType::Points:
      return listFrom<PointReference>(value, place, pointReferenceFrom);
    case FieldType::Faces:
      return listFrom<FaceReference>(value, place, faceFrom);
  }
  throw wrong(place, "another value");
}

}  // namespace kervo
