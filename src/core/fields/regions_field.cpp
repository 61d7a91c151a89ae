#include "fields/regions_field.h"

#include <algorithm>

#include "base/say.h"
#include "drawing/region_names.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

using nlohmann::json;

template class FieldOf<RegionPick>;

json toJson(const RegionPick& pick) {
  if (pick.all && pick.depths.empty()) return pick.drawing;
  json result{{"drawing", pick.drawing}};
  if (!pick.all) result["regions"] = pick.regions;
  for (const auto& [region, depth] : pick.depths) result["depths"][region] = depth.text();
  return result;
}

RegionPick regionsFrom(const json& value, const std::string& place) {
  if (value.is_string()) return {idFrom<StepId>(value.get<std::string>(), place)};
  if (!value.is_object()) throw wrongJson(place, "the id of a drawing step");
  requireOnly(value, {"drawing", "regions", "depths"}, place);
  RegionPick pick{idAt<StepId>(value, "drawing", place)};
  if (value.contains("depths")) {
    if (!value["depths"].is_object()) throw wrongJson(place + ".depths", "an object of regions and depths");
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

void addTo(Hasher& hasher, const RegionPick& pick) {
  hasher.add(pick.drawing).add(pick.all ? "all" : "some").add(static_cast<std::uint64_t>(pick.regions.size()));
  for (const std::string& region : pick.regions) hasher.add(region);
  hasher.add(static_cast<std::uint64_t>(pick.depths.size()));
  for (const auto& [region, depth] : pick.depths) hasher.add(region);
}

void addSteps(std::set<StepId>& steps, const RegionPick& pick) {
  if (!pick.drawing.empty()) steps.insert(pick.drawing);
}

DrawingResult drawingFor(Inputs& inputs, const RegionPick& pick, const Field& field) {
  if (const DrawingResult* drawing = inputs.drawing(pick.drawing)) return *drawing;
  field.fail(pick.drawing.empty() ? say("no drawing is chosen")
                                  : say("there is no drawing from a step \"%1\" before this one", pick.drawing),
             say("Pick the drawing again, or mend the step that makes it"));
}

std::vector<Region> RegionsField::of(Inputs& inputs) const {
  const RegionPick& pick = in(inputs);
  const DrawingResult drawing = this->drawing(inputs);
  if (drawing.regions.empty())
    fail(say("the drawing encloses no region"), say("Close its curves, or draw a circle or rectangle"));
  if (pick.all) return drawing.regions;
  std::vector<Region> chosen;
  std::set<std::size_t> taken;
  for (const std::string& name : pick.regions) {
    const std::vector<std::size_t> found = regionsMeant(name, drawing.regions);
    if (found.empty() && !mayBeNone(name, drawing)) {
      std::string present;
      for (std::size_t i = 0; i < drawing.regions.size() && i < 8; ++i)
        present += (i ? ", " : "") + drawing.regions[i].name();
      fail(say("the drawing has no region \"%1\" any more", name),
           say("Pick the regions again; there are: %1", present));
    }
    for (const std::size_t i : found)
      if (taken.insert(i).second) chosen.push_back(drawing.regions[i]);
  }
  if (chosen.empty()) fail(say("no region is chosen"), say("Pick at least one"));
  return chosen;
}

std::map<std::string, double> RegionsField::depths(const Inputs& inputs) const {
  std::map<std::string, double> result;
  auto next = inputs.numbers(*this).begin();
  for (const auto& [region, depth] : in(inputs).depths) result.emplace(region, *next++);
  return result;
}

json RegionsField::print(const RegionPick& value) const {
  return kervo::toJson(value);
}

RegionPick RegionsField::parse(const json& value, const std::string& place) const {
  return regionsFrom(value, place);
}

std::vector<NumberPart> RegionsField::parts(const RegionPick& value) const {
  std::vector<NumberPart> result;
  for (const auto& [region, depth] : value.depths)
    result.push_back({depth, {lengthDimension, NumberRule::Positive}, say("region \"%1\"", region)});
  return result;
}

void RegionsField::changeParts(RegionPick& value, const std::function<Expression(const Expression&)>& change) const {
  for (auto& [region, depth] : value.depths) depth = change(depth);
}

}  // namespace kervo
