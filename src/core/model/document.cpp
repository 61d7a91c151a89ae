#include "model/document.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"

namespace kervo {

namespace {

auto position(auto& steps, const StepId& id) {
  const auto found = std::find_if(steps.begin(), steps.end(), [&](const auto& step) { return step->id() == id; });
  if (found == steps.end()) throw Error(say("there is no step \"%1\"", id), "", say("Check the step's id"));
  return found;
}

auto sectionOf(auto& sections, const StepId& id) {
  return std::find_if(sections.begin(), sections.end(), [&](const auto& each) { return each.step->id() == id; });
}

}  // namespace

std::shared_ptr<const Step> MadeHalf::find(const StepId& id) const {
  const auto found = std::find_if(steps.begin(), steps.end(), [&](const auto& step) { return step->id() == id; });
  return found == steps.end() ? nullptr : *found;
}

DimensionTable MadeHalf::values(const std::vector<MeasuredDimension>& measured) const {
  LevelRows heights{{}, findUnit(unit).value_or(unitNamed("mm"))};
  for (const Level& level : levels) heights.rows.push_back({level.name, level.height});
  return DimensionTable(dimensions, measured, heights);
}

bool MadeHalf::sameAs(const MadeHalf& other) const {
  const auto sameShape = [](const auto& a, const auto& b) {
    return a.first == b.first && a.second.empty() == b.second.empty() &&
           (a.second.empty() || &a.second.body() == &b.second.body());
  };
  return unit == other.unit && dimensions == other.dimensions && levels == other.levels && steps == other.steps &&
         bodies == other.bodies &&
         std::equal(shapes.begin(), shapes.end(), other.shapes.begin(), other.shapes.end(), sameShape);
}

bool SectionStep::operator==(const SectionStep& other) const {
  return step == other.step || (step->id() == other.step->id() && &step->kind() == &other.step->kind() &&
                                step->on() == other.step->on() && step->values() == other.step->values());
}

std::shared_ptr<const Step> Document::find(const StepId& id) const {
  if (auto step = made.find(id)) return step;
  const auto section = sectionOf(seen.sections, id);
  return section == seen.sections.end() ? nullptr : section->step;
}

const std::string& Document::nameOf(const Step& step) const {
  const auto found = seen.steps.find(step.id());
  return found == seen.steps.end() ? step.kind().label() : found->second;
}

namespace {

template <class Set>
Set valueOr(const std::map<BodyId, Set>& bodies, const BodyId& body) {
  const auto found = bodies.find(body);
  return found == bodies.end() ? Set() : found->second;
}

}  // namespace

const std::vector<Material>& Document::materials() const {
  return seen.materials.empty() ? shippedMaterials() : seen.materials;
}

BodyTreatment Document::treatmentOf(const BodyId& body) const {
  return valueOr(made.bodies, body);
}

BodyLook Document::lookOf(const BodyId& body) const {
  return valueOr(seen.bodies, body);
}

Document Document::withStep(Step step) const {
  return withStepAt(made.steps.size(), std::move(step));
}

Document Document::withStepAt(std::size_t index, Step step) const {
  if (find(step.id())) throw Error(say("there is already a step \"%1\"", step.id()), "", say("Choose another id"));
  Document result = *this;
  if (step.kind().makes() == Makes::Section) {
    result.seen.sections.push_back({std::make_shared<const Step>(std::move(step))});
    return result;
  }
  if (!seen.levels.working.empty()) result.seen.onLevels.insert_or_assign(step.id(), seen.levels.working);
  auto& steps = result.made.steps;
  const auto place = steps.begin() + static_cast<std::ptrdiff_t>(std::min(index, steps.size()));
  steps.insert(place, std::make_shared<const Step>(std::move(step)));
  return result;
}

Document Document::withReplaced(const Step& step) const {
  Document result = *this;
  auto changed = std::make_shared<const Step>(step);
  if (const auto section = sectionOf(result.seen.sections, step.id()); section != result.seen.sections.end())
    section->step = std::move(changed);
  else
    *position(result.made.steps, step.id()) = std::move(changed);
  return result;
}

Document Document::withoutStep(const StepId& id) const {
  Document result = *this;
  if (const auto section = sectionOf(result.seen.sections, id); section != result.seen.sections.end())
    result.seen.sections.erase(section);
  else
    result.made.steps.erase(position(result.made.steps, id));
  result.seen.steps.erase(id);
  result.seen.onLevels.erase(id);
  return result;
}

Document Document::withStepNamed(const StepId& id, std::string name) const {
  Document result = *this;
  if (sectionOf(result.seen.sections, id) == result.seen.sections.end()) position(result.made.steps, id);
  if (name.empty())
    result.seen.steps.erase(id);
  else
    result.seen.steps.insert_or_assign(id, std::move(name));
  return result;
}

Document Document::withDimension(const std::string& name, Expression expression) const {
  Document result = *this;
  auto& dimensions = result.made.dimensions;
  const auto row = std::find_if(dimensions.begin(), dimensions.end(),
                                [&](const DimensionRow& dimension) { return dimension.name == name; });
  if (row != dimensions.end())
    row->expression = std::move(expression);
  else
    dimensions.push_back({name, std::move(expression)});
  return result;
}

Document Document::withBody(const BodyId& body, BodyTreatment treatment) const {
  Document result = *this;
  result.made.bodies[body] = treatment;
  return result;
}

Document Document::withLook(const BodyId& body, BodyLook look) const {
  Document result = *this;
  result.seen.bodies[body] = std::move(look);
  return result;
}

StepId Document::freeId(const std::string& kind) const {
  for (std::size_t number = 1;; ++number) {
    StepId id = kind + std::to_string(number);
    if (!find(id)) return id;
  }
}

}  // namespace kervo
