#include "model/uses.h"

#include <algorithm>

#include "fields/bodies_field.h"
#include "model/step_kind.h"

namespace kervo {

namespace {

UsesNode stepNode(const StepId& id) {
  return {UsesNode::What::Step, id.text()};
}

}  // namespace

Uses Uses::of(const Document& document) {
  Uses result;
  std::set<std::string> names;
  for (const DimensionRow& row : document.made.dimensions) names.insert(row.name);
  for (const Level& level : document.made.levels) names.insert(heightOfLevel(level.name));
  std::map<std::string, StepId> measured;
  for (const auto& step : document.made.steps)
    if (const std::string name = step->kind().measures(*step); !name.empty()) measured.emplace(name, step->id());
  const auto link = [&](const UsesNode& user, const UsesNode& used) {
    if (user == used) return;
    result.uses_[user].insert(used);
    result.users_[used].insert(user);
  };
  const auto readNames = [&](const UsesNode& user, const Expression& expression) {
    for (const std::string& name : expression.names())
      if (names.contains(name))
        link(user, {UsesNode::What::Dimension, name});
      else if (const auto by = measured.find(name); by != measured.end())
        link(user, stepNode(by->second));
  };
  std::set<StepId> before, making;
  const auto addStep = [&](const Step& step) {
    const UsesNode node = stepNode(step.id());
    result.nodes_.push_back(node);
    for (const Field* field : step.kind().fields()) {
      if (!matters(step, *field)) continue;
      std::set<StepId> steps;
      field->addSteps(steps, step.value(*field));
      for (const StepId& used : steps)
        if (before.contains(used)) link(node, stepNode(used));
      const auto* bodies = step.value(*field).asIf<BodyPick>();
      if (bodies && bodies->all)
        for (const StepId& used : making) result.unnamed_[node].insert(stepNode(used));
      for (const NumberPart& part : field->numbers(step.value(*field))) readNames(node, part.expression);
    }
    before.insert(step.id());
    if (step.kind().makes() == Makes::Bodies) making.insert(step.id());
  };
  for (const auto& step : document.made.steps) addStep(*step);
  for (const SectionStep& section : document.seen.sections) addStep(*section.step);
  for (const DimensionRow& row : document.made.dimensions) {
    const UsesNode node{UsesNode::What::Dimension, row.name};
    result.nodes_.push_back(node);
    readNames(node, row.expression);
  }
  for (const Level& level : document.made.levels) {
    const UsesNode node{UsesNode::What::Dimension, heightOfLevel(level.name)};
    result.nodes_.push_back(node);
    readNames(node, level.height);
  }
  return result;
}

const std::set<UsesNode>& Uses::usedBy(const UsesNode& node) const {
  static const std::set<UsesNode> none;
  const auto found = uses_.find(node);
  return found == uses_.end() ? none : found->second;
}

std::vector<UsesNode> Uses::reached(const UsesNode& from, const std::map<UsesNode, std::set<UsesNode>>& along) const {
  std::set<UsesNode> seen{from};
  std::vector<UsesNode> open{from};
  while (!open.empty()) {
    const UsesNode now = open.back();
    open.pop_back();
    if (const auto found = along.find(now); found != along.end())
      for (const UsesNode& next : found->second)
        if (seen.insert(next).second) open.push_back(next);
  }
  std::vector<UsesNode> result;
  for (const UsesNode& node : nodes_)
    if (node != from && seen.contains(node)) result.push_back(node);
  return result;
}

std::vector<UsesNode> Uses::dependents(const UsesNode& node) const {
  return reached(node, users_);
}

std::vector<UsesNode> Uses::sources(const UsesNode& node) const {
  return reached(node, uses_);
}

std::vector<UsesNode> Uses::namedIn(const UsesNode& node) const {
  std::vector<UsesNode> result;
  const auto found = users_.find(node);
  for (const UsesNode& each : nodes_)
    if (found != users_.end() && found->second.contains(each)) result.push_back(each);
  return result;
}

std::vector<UsesNode> Uses::worksOn(const UsesNode& node) const {
  std::vector<UsesNode> result;
  for (const auto& [user, all] : unnamed_)
    if (all.contains(node)) result.push_back(user);
  return result;
}

}  // namespace kervo
