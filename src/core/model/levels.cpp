#include "model/levels.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "model/document_edits.h"

namespace kervo {

namespace {

auto levelAt(auto& levels, const std::string& name) {
  const auto found = std::find_if(levels.begin(), levels.end(), [&](const Level& level) { return level.name == name; });
  if (found == levels.end())
    throw Error(say("there is no level named \"%1\"", name), say("Levels"), say("Add it, or correct the name"));
  return found;
}

void requireLevelName(const std::string& name) {
  if (const std::string reason = whyNotALevel(name); !reason.empty())
    throw Error(reason, say("Levels"), say("Choose another name"));
}

}  // namespace

const Level* findLevel(const std::vector<Level>& levels, const std::string& name) {
  const auto found = std::find_if(levels.begin(), levels.end(), [&](const Level& level) { return level.name == name; });
  return found == levels.end() ? nullptr : &*found;
}

std::vector<LevelNow> levelsByHeight(std::vector<LevelNow> levels) {
  std::stable_sort(levels.begin(), levels.end(), [](const LevelNow& a, const LevelNow& b) {
    return a.height && (!b.height || *a.height < *b.height);
  });
  return levels;
}

Document withLevel(const Document& document, Level level) {
  Document result = document;
  auto& levels = result.made.levels;
  const auto found =
      std::find_if(levels.begin(), levels.end(), [&](const Level& each) { return each.name == level.name; });
  if (found != levels.end()) {
    *found = std::move(level);
    return result;
  }
  requireLevelName(level.name);
  levels.push_back(std::move(level));
  return result;
}

Document withLevelRenamed(const Document& document, const std::string& from, const std::string& to) {
  if (from == to) return document;
  requireLevelName(to);
  if (findLevel(document.made.levels, to))
    throw Error(say("there is already a level \"%1\"", to), say("Levels"), say("Choose another name"));
  Document result = withNameChanged(document, heightOfLevel(from), heightOfLevel(to));
  levelAt(result.made.levels, from)->name = to;
  SeenHalf& seen = result.seen;
  if (seen.levels.working == from) seen.levels.working = to;
  for (SavedView& view : seen.views)
    if (view.levels.working == from) view.levels.working = to;
  for (auto& [step, level] : seen.onLevels)
    if (level == from) level = to;
  for (auto& [id, look] : seen.bodies)
    if (look.level == from) look.level = to;
  return result;
}

Document withoutLevel(const Document& document, const std::string& name) {
  std::string users;
  for (const std::string& use : usesOfDimension(document, heightOfLevel(name)))
    users += (users.empty() ? "" : "; ") + use;
  if (!users.empty())
    throw Error(say("the height of the level \"%1\" is in use", name), users, say("Write something else there first"));
  Document result = document;
  result.made.levels.erase(levelAt(result.made.levels, name));
  if (result.seen.levels.working == name) result.seen.levels = {};
  for (SavedView& view : result.seen.views)
    if (view.levels.working == name) view.levels = {};
  std::erase_if(result.seen.onLevels, [&](const auto& step) { return step.second == name; });
  for (auto& [id, look] : result.seen.bodies)
    if (look.level == name) look.level.reset();
  std::erase_if(result.seen.bodies, [](const auto& body) { return body.second == BodyLook(); });
  return result;
}

Document withWorkingLevel(const Document& document, const std::string& name) {
  Document result = document;
  if (!name.empty()) levelAt(document.made.levels, name);
  result.seen.levels.working = name;
  return result;
}

}  // namespace kervo
