#include "fields/sections_field.h"

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"
#include "fields/reference_parts.h"

namespace kervo {

using nlohmann::json;

template class FieldOf<std::vector<SectionPick>>;

namespace {

constexpr const char* forms = later("one of {\"drawing\": …}, {\"curve\": …}, {\"face\": …}, {\"point\": …}");

SectionPick sectionFrom(const json& value, const std::string& place) {
  if (!value.is_object() || value.size() != 1) throw wrongJson(place, forms);
  if (value.contains("drawing")) return SectionPick::ofDrawing(idAt<StepId>(value, "drawing", place));
  if (value.contains("curve")) return SectionPick::ofCurve(idAt<BodyId>(value, "curve", place));
  if (value.contains("face")) return SectionPick::of(faceFrom(value["face"], place + ".face"));
  if (value.contains("point")) return SectionPick::of(pointReferenceFrom(value["point"], place + ".point"));
  throw wrongJson(place, forms);
}

json sectionJson(const SectionPick& section) {
  switch (section.kind) {
    case SectionPick::Kind::Drawing:
      return {{"drawing", section.drawing}};
    case SectionPick::Kind::Curve:
      return {{"curve", section.curve}};
    case SectionPick::Kind::Face:
      return {{"face", toJson(section.face)}};
    case SectionPick::Kind::Point:
      return {{"point", toJson(section.point)}};
  }
  return {};
}

}  // namespace

std::string SectionsField::allowed() const {
  return say("a list, each %1", forms);
}

json SectionsField::print(const std::vector<SectionPick>& value) const {
  json result = json::array();
  for (const SectionPick& section : value) result.push_back(sectionJson(section));
  return result;
}

std::vector<SectionPick> SectionsField::parse(const json& value, const std::string& place) const {
  return listFrom<SectionPick>(value, place, sectionFrom);
}

void SectionsField::hash(Hasher& hasher, const std::vector<SectionPick>& value) const {
  hasher.add(static_cast<std::uint64_t>(value.size()));
  for (const SectionPick& section : value) {
    hasher.add(static_cast<std::uint64_t>(section.kind)).add(section.drawing).add(section.curve);
    addTo(hasher, section.face);
    addTo(hasher, section.point);
  }
}

void SectionsField::references(std::set<StepId>& steps, const std::vector<SectionPick>& value) const {
  for (const SectionPick& section : value) {
    if (section.kind == SectionPick::Kind::Drawing) steps.insert(section.drawing);
    if (section.kind == SectionPick::Kind::Curve) steps.insert(section.curve.step());
    if (section.kind == SectionPick::Kind::Face) kervo::addSteps(steps, section.face);
    if (section.kind == SectionPick::Kind::Point) kervo::addSteps(steps, section.point);
  }
}

}  // namespace kervo
