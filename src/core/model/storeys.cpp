#include "model/storeys.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/plane_field.h"
#include "model/document.h"
#include "model/document_edits.h"

namespace kervo {

namespace {

constexpr const char* planHeight = "1.2 m";  // where plans are cut by custom: through windows and doors

void switchSection(SectionStep& section, bool on) {
  if (section.step->on() != on) section.step = std::make_shared<const Step>(section.step->switched(on));
}

/// The drawings whose plane is at the height of a level.
std::vector<Step> drawingsAt(const Document& document, const std::string& level) {
  std::vector<Step> result;
  for (const auto& step : document.made.steps) {
    if (step->kind().makes() != Makes::Drawing) continue;
    const bool at = std::any_of(step->values().begin(), step->values().end(), [&](const FieldValue& value) {
      const auto* plane = value.asIf<PlanePick>();
      return plane && !plane->height.empty() && plane->height.front().text() == heightOfLevel(level);
    });
    if (at) result.push_back(*step);
  }
  return result;
}

Document withDrawingCopied(const Document& document, const Step& drawing, const std::string& from,
                           const std::string& to) {
  const StepId id = document.freeId(drawing.kind().key());
  Document result = document.withStep(withNameChanged(drawing, heightOfLevel(from), heightOfLevel(to)).withId(id));
  if (const auto name = document.seen.steps.find(drawing.id()); name != document.seen.steps.end())
    result = result.withStepNamed(id, say("%1, %2", name->second, to));
  result.seen.onLevels.insert_or_assign(id, to);
  return result;
}

}  // namespace

std::optional<std::string> levelOfPlan(const Document& document, const Step& section) {
  for (const FieldValue& value : section.values()) {
    const auto* plane = value.asIf<PlanePick>();
    if (!plane || plane->height.empty()) continue;
    for (const Level& level : document.made.levels)
      if (plane->height.front().text() == heightOfLevel(level.name)) return level.name;
  }
  return std::nullopt;
}

std::optional<std::string> planShown(const Document& document) {
  for (const SectionStep& section : document.seen.sections)
    if (section.step->on())
      if (const auto level = levelOfPlan(document, *section.step)) return level;
  return std::nullopt;
}

Document withPlanOf(const Document& document, const std::string& level, const StepKind& sections) {
  Document result = withWorkingLevel(document, level);
  bool found = false;
  for (SectionStep& section : result.seen.sections) {
    const bool plan = !found && levelOfPlan(result, *section.step) == level;
    found = found || plan;
    switchSection(section, plan);
  }
  if (found) return result;
  Step step(result.freeId(sections.key()), sections, {});
  step = step.with("plane", PlanePick::atHeight(Expression(heightOfLevel(level))));
  step = step.with("offset", Expression(planHeight));
  const StepId id = step.id();
  return result.withStep(std::move(step)).withStepNamed(id, say("Plan of %1", level));
}

Document withoutPlan(const Document& document) {
  Document result = document;
  for (SectionStep& section : result.seen.sections)
    if (levelOfPlan(result, *section.step)) switchSection(section, false);
  return result;
}

std::vector<std::string> levelsBeside(const std::vector<LevelNow>& levels, const std::string& level) {
  const std::vector<LevelNow> sorted = levelsByHeight(levels);
  const auto here =
      std::find_if(sorted.begin(), sorted.end(), [&](const LevelNow& each) { return each.name == level; });
  std::vector<std::string> result;
  if (here == sorted.end() || !here->height) return result;
  if (here != sorted.begin()) result.push_back((here - 1)->name);
  if (here + 1 != sorted.end() && (here + 1)->height) result.push_back((here + 1)->name);
  return result;
}

Document withLevelCopied(const Document& document, const Model& model, const std::string& from, const Level& to,
                         const StepKind& placing) {
  if (!findLevel(document.made.levels, from)) throw Error(say("there is no level named \"%1\"", from), say("Levels"));
  if (findLevel(document.made.levels, to.name))
    throw Error(say("there is already a level \"%1\"", to.name), say("Levels"), say("Choose another name"));
  std::vector<BodyId> bodies;
  for (const Body& body : model.bodies)
    if (body.level == from) bodies.push_back(body.id);
  const std::vector<Step> drawings = drawingsAt(document, from);
  if (bodies.empty() && drawings.empty())
    throw Error(say("nothing is on the level \"%1\"", from), say("Levels"),
                say("Put bodies on it, or add an empty level"));
  Document result = withLevel(document, to);
  for (const Step& drawing : drawings) result = withDrawingCopied(result, drawing, from, to.name);
  if (bodies.empty()) return result;
  Step step(result.freeId(placing.key()), placing, {});
  step = step.with("bodies", BodyPick::only(bodies));
  step = step.with("z", Expression(heightOfLevel(to.name) + " - " + heightOfLevel(from)));
  step = step.with("copy", true);
  const StepId id = step.id();
  result = result.withStep(std::move(step)).withStepNamed(id, say("Copy of %1", from));
  result.seen.onLevels.insert_or_assign(id, to.name);
  return result;
}

}  // namespace kervo
