#include "model/saved_view.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "model/document.h"

namespace kervo {

namespace {

auto placeOf(auto& views, const std::string& id) {
  const auto found = std::find_if(views.begin(), views.end(), [&](const SavedView& view) { return view.id == id; });
  if (found == views.end()) throw Error(say("there is no view \"%1\"", id), "", say("Check the view's id"));
  return found;
}

std::string freeViewId(const std::vector<SavedView>& views) {
  for (std::size_t number = 1;; ++number) {
    std::string id = "view" + std::to_string(number);
    if (std::none_of(views.begin(), views.end(), [&](const SavedView& view) { return view.id == id; })) return id;
  }
}

}  // namespace

SavedView viewOf(const Document& document, const ViewCamera& camera, std::string style, std::string name) {
  SavedView view{freeViewId(document.seen.views), std::move(name), camera, std::move(style)};
  for (const auto& [body, look] : document.seen.bodies) {
    if (look.visible) view.visible[body] = *look.visible;
    if (look.faded) view.faded[body] = *look.faded;
  }
  for (const SectionStep& section : document.seen.sections)
    if (section.step->on()) view.sections.push_back(section.step->id());
  if (document.seen.levels.show != LevelSight::Show::All) view.levels = document.seen.levels;
  return view;
}

Document asSeen(const Document& document, const SavedView& view) {
  Document result = document;
  for (auto& [body, look] : result.seen.bodies) {
    look.visible.reset();
    look.faded.reset();
  }
  for (const auto& [body, visible] : view.visible) result.seen.bodies[body].visible = visible;
  for (const auto& [body, faded] : view.faded) result.seen.bodies[body].faded = faded;
  std::erase_if(result.seen.bodies, [](const auto& body) { return body.second == BodyLook(); });
  if (view.levels.show == LevelSight::Show::All)
    result.seen.levels.show = LevelSight::Show::All;
  else
    result.seen.levels = view.levels;
  for (SectionStep& section : result.seen.sections) {
    const bool on = std::find(view.sections.begin(), view.sections.end(), section.step->id()) != view.sections.end();
    if (section.step->on() != on) section.step = std::make_shared<const Step>(section.step->switched(on));
  }
  return result;
}

Document withView(const Document& document, SavedView view) {
  Document result = document;
  auto& views = result.seen.views;
  const auto same = std::find_if(views.begin(), views.end(), [&](const SavedView& each) { return each.id == view.id; });
  if (same == views.end())
    views.push_back(std::move(view));
  else
    *same = std::move(view);
  return result;
}

Document withoutView(const Document& document, const std::string& id) {
  Document result = document;
  result.seen.views.erase(placeOf(result.seen.views, id));
  return result;
}

Document withViewMoved(const Document& document, const std::string& id, std::size_t index) {
  Document result = document;
  auto& views = result.seen.views;
  const auto place = placeOf(views, id);
  SavedView view = *place;
  views.erase(place);
  views.insert(views.begin() + static_cast<std::ptrdiff_t>(std::min(index, views.size())), std::move(view));
  return result;
}

}  // namespace kervo
