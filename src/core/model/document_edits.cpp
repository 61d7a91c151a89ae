#include "model/document_edits.h"

#include <algorithm>
#include <set>

#include "base/error.h"
#include "base/say.h"

namespace kervo {

namespace {

bool uses(const Expression& expression, const std::string& name) {
  const auto& names = expression.names();
  return std::find(names.begin(), names.end(), name) != names.end();
}

/// Whether a row of that name uses the other name, perhaps by way of more rows.
bool comesFrom(const Document& document, const std::string& row, const std::string& name, std::set<std::string>& seen) {
  if (row == name) return true;
  if (!seen.insert(row).second) return false;
  for (const DimensionRow& each : document.made.dimensions)
    if (each.name == row)
      for (const std::string& used : each.expression.names())
        if (comesFrom(document, used, name, seen)) return true;
  for (const Level& each : document.made.levels)
    if (heightOfLevel(each.name) == row)
      for (const std::string& used : each.height.names())
        if (comesFrom(document, used, name, seen)) return true;
  return false;
}

/// Whether a step names what the other one makes or measures.
bool reads(const Document& document, const Step& reader, const Step& other) {
  const std::string measured = other.kind().measures(other);
  std::set<StepId> steps;
  for (const Field* field : reader.kind().fields()) {
    // What is picked in a field that does not matter now is read by nobody.
    if (!matters(reader, *field)) continue;
    field->addSteps(steps, reader.value(*field));
    if (measured.empty()) continue;
    for (const NumberPart& part : field->numbers(reader.value(*field)))
      for (const std::string& name : part.expression.names())
        if (std::set<std::string> seen; comesFrom(document, name, measured, seen)) return true;
  }
  return steps.contains(other.id());
}

}  // namespace

std::vector<StepId> stepsThatRead(const Document& document, const StepId& id) {
  std::vector<StepId> result;
  const auto step = document.find(id);
  if (!step) return result;
  for (const auto& other : document.made.steps)
    if (other->id() != id && reads(document, *other, *step)) result.push_back(other->id());
  return result;
}

Document withStepMoved(const Document& document, const StepId& id, std::size_t index) {
  const auto step = document.find(id);
  Document result = document.withoutStep(id);
  result.seen = document.seen;
  index = std::min(index, result.made.steps.size());
  for (std::size_t i = 0; i < result.made.steps.size(); ++i) {
    const Step& other = *result.made.steps[i];
    if (i >= index && reads(document, *step, other))
      throw Error(
          say("\"%1\" cannot stand before \"%2\", which it uses", document.nameOf(*step), document.nameOf(other)),
          say("Cut list"),
          say("Move \"%1\" first, or let \"%2\" use something else", document.nameOf(other), document.nameOf(*step)));
    if (i < index && reads(document, other, *step))
      throw Error(
          say("\"%1\" cannot stand after \"%2\", which uses it", document.nameOf(*step), document.nameOf(other)),
          say("Cut list"), say("Move \"%1\" first", document.nameOf(other)));
  }
  result.made.steps.insert(result.made.steps.begin() + static_cast<std::ptrdiff_t>(index), step);
  return result;
}

Document withDimensionRenamed(const Document& document, const std::string& from, const std::string& to) {
  if (from == to) return document;
  const auto isMeasured = [&](const std::string& name) {
    return std::any_of(document.made.steps.begin(), document.made.steps.end(),
                       [&](const auto& step) { return step->kind().measures(*step) == name; });
  };
  if (const std::string reason = whyNotAName(to); !reason.empty())
    throw Error(say("\"%1\" cannot be renamed: %2", from, reason), say("Dimensions"), say("Choose another name"));
  for (const DimensionRow& row : document.made.dimensions)
    if (row.name == to || isMeasured(to))
      throw Error(say("there is already a dimension \"%1\"", to), say("Dimensions"), say("Choose another name"));
  Document result = withNameChanged(document, from, to);
  for (DimensionRow& row : result.made.dimensions)
    if (row.name == from) row.name = to;
  for (auto& step : result.made.steps)
    if (step->kind().measures(*step) == from)
      step = std::make_shared<const Step>(step->with(*step->kind().nameOfMeasured(), to));
  return result;
}

Step withNameChanged(const Step& step, const std::string& from, const std::string& to) {
  Step result = step;
  for (const Field* field : step.kind().fields()) {
    const FieldValue value =
        field->withNumbers(step.value(*field), [&](const Expression& old) { return old.renamed(from, to); });
    if (!(value == step.value(*field))) result = result.with(*field, value);
  }
  return result;
}

Document withNameChanged(const Document& document, const std::string& from, const std::string& to) {
  Document result = document;
  for (DimensionRow& row : result.made.dimensions) row.expression = row.expression.renamed(from, to);
  for (Level& level : result.made.levels) level.height = level.height.renamed(from, to);
  if (result.seen.wallLimit) result.seen.wallLimit = result.seen.wallLimit->renamed(from, to);
  const auto rename = [&](std::shared_ptr<const Step>& step) {
    Step renamed = withNameChanged(*step, from, to);
    if (renamed.values() != step->values()) step = std::make_shared<const Step>(std::move(renamed));
  };
  for (auto& step : result.made.steps) rename(step);
  for (SectionStep& section : result.seen.sections) rename(section.step);
  return result;
}

std::vector<std::string> usesOfDimension(const Document& document, const std::string& name) {
  std::vector<std::string> result;
  for (const DimensionRow& row : document.made.dimensions)
    if (uses(row.expression, name)) result.push_back(say("dimension %1", row.name));
  for (const Level& level : document.made.levels)
    if (uses(level.height, name)) result.push_back(say("level %1", level.name));
  const auto add = [&](const Step& step) {
    for (const Field* field : step.kind().fields()) {
      const std::vector<NumberPart> parts = field->numbers(step.value(*field));
      if (std::any_of(parts.begin(), parts.end(), [&](const NumberPart& part) { return uses(part.expression, name); }))
        result.push_back(say("step %1, %2", document.nameOf(step), field->place()));
    }
  };
  for (const auto& step : document.made.steps) add(*step);
  for (const SectionStep& section : document.seen.sections) add(*section.step);
  if (document.seen.wallLimit && uses(*document.seen.wallLimit, name)) result.push_back(say("the wall limit"));
  return result;
}

Document withoutDimension(const Document& document, const std::string& name) {
  std::string users;
  for (const std::string& use : usesOfDimension(document, name)) users += (users.empty() ? "" : "; ") + use;
  if (!users.empty())
    throw Error(say("the dimension \"%1\" is in use", name), users, say("Write something else there first"));
  Document result = document;
  std::erase_if(result.made.dimensions, [&](const DimensionRow& row) { return row.name == name; });
  return result;
}

namespace {

/// What became of `now`'s entry if `from` changed to `to`: the change where there is one.
template <class Key, class Value>
void change(std::map<Key, Value>& now, const std::map<Key, Value>& from, const std::map<Key, Value>& to) {
  for (const auto& [key, value] : from)
    if (!to.contains(key)) now.erase(key);
  for (const auto& [key, value] : to)
    if (const auto before = from.find(key); before == from.end() || !(before->second == value))
      now.insert_or_assign(key, value);
}

template <class Value>
void change(std::optional<Value>& now, const std::optional<Value>& from, const std::optional<Value>& to) {
  if (!(from == to)) now = to;
}

}  // namespace

namespace {

/// A list as it is now, with those entries changed, removed and added that differ between two others, and in the order
/// of the later one where that differs.
template <class Entry, class IdOf>
void changeList(std::vector<Entry>& now, const std::vector<Entry>& from, const std::vector<Entry>& to, IdOf&& idOf) {
  const auto find = [&](auto& list, const auto& id) {
    return std::find_if(list.begin(), list.end(), [&](const auto& each) { return idOf(each) == id; });
  };
  for (const Entry& entry : from)
    if (find(to, idOf(entry)) == to.end())
      std::erase_if(now, [&](const Entry& each) { return idOf(each) == idOf(entry); });
  for (std::size_t i = 0; i < to.size(); ++i) {
    if (const auto before = find(from, idOf(to[i])); before != from.end() && *before == to[i]) continue;
    if (const auto here = find(now, idOf(to[i])); here != now.end())
      *here = to[i];
    else
      now.insert(now.begin() + static_cast<std::ptrdiff_t>(std::min(i, now.size())), to[i]);
  }
  const auto order = [&](const std::vector<Entry>& list, const std::vector<Entry>& among) {
    std::vector<std::size_t> places;
    for (const Entry& entry : list)
      if (const auto place = find(among, idOf(entry)); place != among.end())
        places.push_back(static_cast<std::size_t>(place - among.begin()));
    return places;
  };
  const std::vector<std::size_t> places = order(to, from);
  if (std::is_sorted(places.begin(), places.end())) return;
  std::stable_sort(now.begin(), now.end(), [&](const Entry& a, const Entry& b) {
    return find(to, idOf(a)) - to.begin() < find(to, idOf(b)) - to.begin();
  });
}

void change(std::vector<SectionStep>& now, const std::vector<SectionStep>& from, const std::vector<SectionStep>& to) {
  changeList(now, from, to, [](const SectionStep& section) { return section.step->id(); });
}

void change(std::vector<Material>& now, const std::vector<Material>& from, const std::vector<Material>& to) {
  changeList(now, from, to, [](const Material& material) { return material.name; });
}

void change(std::vector<SavedView>& now, const std::vector<SavedView>& from, const std::vector<SavedView>& to) {
  changeList(now, from, to, [](const SavedView& view) { return view.id; });
}

}  // namespace

SeenHalf withChange(SeenHalf now, const SeenHalf& from, const SeenHalf& to) {
  change(now.steps, from.steps, to.steps);
  change(now.onLevels, from.onLevels, to.onLevels);
  if (!(from.levels == to.levels)) now.levels = to.levels;
  change(now.sections, from.sections, to.sections);
  change(now.views, from.views, to.views);
  change(now.materials, from.materials, to.materials);
  change(now.wallLimit, from.wallLimit, to.wallLimit);
  std::set<BodyId> bodies;
  for (const auto* half : {&from, &to})
    for (const auto& [id, look] : half->bodies) bodies.insert(id);
  const auto lookIn = [](const SeenHalf& half, const BodyId& id) {
    const auto found = half.bodies.find(id);
    return found == half.bodies.end() ? BodyLook() : found->second;
  };
  for (const BodyId& id : bodies) {
    const BodyLook before = lookIn(from, id), after = lookIn(to, id);
    if (before == after) continue;
    BodyLook& look = now.bodies[id];
    change(look.name, before.name, after.name);
    change(look.color, before.color, after.color);
    change(look.layer, before.layer, after.layer);
    change(look.level, before.level, after.level);
    change(look.within, before.within, after.within);
    change(look.visible, before.visible, after.visible);
    change(look.faded, before.faded, after.faded);
    change(look.material, before.material, after.material);
    change(look.density, before.density, after.density);
    if (look == BodyLook()) now.bodies.erase(id);
  }
  return now;
}

bool onlyShowOrHide(const SeenHalf& from, const SeenHalf& to) {
  SeenHalf shown = from;
  for (const auto& [id, look] : to.bodies) {
    shown.bodies[id].visible = look.visible;
    shown.bodies[id].faded = look.faded;
  }
  for (auto& [id, look] : shown.bodies) {
    if (to.bodies.contains(id)) continue;
    look.visible.reset();
    look.faded.reset();
  }
  std::erase_if(shown.bodies,
                [&](const auto& body) { return body.second == BodyLook() && !to.bodies.contains(body.first); });
  shown.levels = to.levels;
  // Switching a section is showing and hiding too.
  for (SectionStep& section : shown.sections)
    for (const SectionStep& other : to.sections)
      if (other.step->id() == section.step->id() && other.step->on() != section.step->on())
        section.step = std::make_shared<const Step>(section.step->switched(other.step->on()));
  return shown == to;
}

}  // namespace kervo
