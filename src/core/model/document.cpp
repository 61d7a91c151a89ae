#include "model/document.h"

#include <algorithm>

#include "base/error.h"

namespace kervo {

namespace {

auto position(auto& steps, const StepId& id) {
  const auto found = std::find_if(steps.begin(), steps.end(), [&](const auto& step) { return step->id() == id; });
  if (found == steps.end()) throw Error("there is no step \"" + id + "\"", "", "Check the step's id");
  return found;
}

}  // namespace

std::shared_ptr<const Step> Document::find(const StepId& id) const {
  const auto found = std::find_if(steps.begin(), steps.end(), [&](const auto& step) { return step->id() == id; });
  return found == steps.end() ? nullptr : *found;
}

Document Document::withStep(Step step) const {
  return withStepAt(steps.size(), std::move(step));
}

Document Document::withStepAt(std::size_t index, Step step) const {
  if (find(step.id())) throw Error("there is already a step \"" + step.id() + "\"", "", "Choose another id");
  Document result = *this;
  const auto place = result.steps.begin() + static_cast<std::ptrdiff_t>(std::min(index, steps.size()));
  result.steps.insert(place, std::make_shared<const Step>(std::move(step)));
  return result;
}

Document Document::withReplaced(const Step& step) const {
  Document result = *this;
  *position(result.steps, step.id()) = std::make_shared<const Step>(step);
  return result;
}

Document Document::withoutStep(const StepId& id) const {
  Document result = *this;
  result.steps.erase(position(result.steps, id));
  return result;
}

Document Document::withDimension(const std::string& name, Expression expression) const {
  Document result = *this;
  const auto row = std::find_if(result.dimensions.begin(), result.dimensions.end(),
                                [&](const DimensionRow& dimension) { return dimension.name == name; });
  if (row != result.dimensions.end())
    row->expression = std::move(expression);
  else
    result.dimensions.push_back({name, std::move(expression)});
  return result;
}

Document Document::withBody(const BodyId& body, BodySettings settings) const {
  Document result = *this;
  result.bodies[body] = std::move(settings);
  return result;
}

StepId Document::freeId(const std::string& kind) const {
  for (std::size_t number = 1;; ++number) {
    StepId id = kind + std::to_string(number);
    if (!find(id)) return id;
  }
}

}  // namespace kervo
