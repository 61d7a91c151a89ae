#include "fields/cutters_field.h"

#include <algorithm>

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"
#include "fields/reference_parts.h"

namespace kervo {

using nlohmann::json;

template class FieldOf<std::vector<CutterPick>>;

namespace {

constexpr const char* forms = later("one of {\"plane\": …}, {\"face\": …}, {\"body\": …}, {\"drawing\": …}");

CutterPick cutterFrom(const json& value, const std::string& place) {
  if (!value.is_object() || value.size() != 1) {
    // A face's reference is an object of several keys, with "face" among them.
    if (value.is_object() && value.contains("face")) return CutterPick::of(faceFrom(value, place));
    throw wrongJson(place, forms);
  }
  if (value.contains("plane")) return CutterPick::of(planeFrom(value["plane"], place + ".plane"));
  if (value.contains("face")) return CutterPick::of(faceFrom(value["face"], place + ".face"));
  if (value.contains("body")) return CutterPick::ofBody(idAt<BodyId>(value, "body", place));
  if (value.contains("drawing")) return CutterPick::of(regionsFrom(value["drawing"], place + ".drawing"));
  throw wrongJson(place, forms);
}

json cutterJson(const CutterPick& cutter) {
  switch (cutter.kind) {
    case CutterPick::Kind::Plane:
      return {{"plane", toJson(cutter.plane)}};
    case CutterPick::Kind::Face:
      return {{"face", toJson(cutter.face)}};
    case CutterPick::Kind::Body:
      return {{"body", cutter.body}};
    case CutterPick::Kind::Drawing:
      return {{"drawing", toJson(cutter.drawing)}};
  }
  return {};
}

}  // namespace

When CuttersField::havePlane() const {
  return {this,
          [](const FieldValue& value) {
            const auto& cutters = value.as<std::vector<CutterPick>>();
            return cutters.empty() || std::any_of(cutters.begin(), cutters.end(),
                                                  [](const CutterPick& cutter) { return cutter.hasPlane(); });
          },
          say("a plane is among the cutters")};
}

std::string CuttersField::allowed() const {
  return say("a list, each %1", forms);
}

json CuttersField::print(const std::vector<CutterPick>& value) const {
  json result = json::array();
  for (const CutterPick& cutter : value) result.push_back(cutterJson(cutter));
  return result;
}

std::vector<CutterPick> CuttersField::parse(const json& value, const std::string& place) const {
  return listFrom<CutterPick>(value, place, cutterFrom);
}

void CuttersField::hash(Hasher& hasher, const std::vector<CutterPick>& value) const {
  hasher.add(static_cast<std::uint64_t>(value.size()));
  for (const CutterPick& cutter : value) {
    hasher.add(static_cast<std::uint64_t>(cutter.kind)).add(cutter.body);
    addTo(hasher, cutter.plane);
    addTo(hasher, cutter.face);
    addTo(hasher, cutter.drawing);
  }
}

std::vector<NumberPart> CuttersField::parts(const std::vector<CutterPick>& value) const {
  std::vector<NumberPart> result;
  for (const CutterPick& cutter : value)
    for (NumberPart& part : numbersOf(cutter.plane, say("plane"))) result.push_back(std::move(part));
  return result;
}

void CuttersField::changeParts(std::vector<CutterPick>& value,
                               const std::function<Expression(const Expression&)>& change) const {
  for (CutterPick& cutter : value) changeNumbers(cutter.plane, change);
}

void CuttersField::references(std::set<StepId>& steps, const std::vector<CutterPick>& value) const {
  for (const CutterPick& cutter : value) {
    if (cutter.kind == CutterPick::Kind::Plane) kervo::addSteps(steps, cutter.plane);
    if (cutter.kind == CutterPick::Kind::Face) kervo::addSteps(steps, cutter.face);
    if (cutter.kind == CutterPick::Kind::Body) steps.insert(cutter.body.step());
    if (cutter.kind == CutterPick::Kind::Drawing) kervo::addSteps(steps, cutter.drawing);
  }
}

}  // namespace kervo
