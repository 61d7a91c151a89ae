#include "app/opener.h"

#include <algorithm>

namespace kervo::app {

namespace {

const SectionCut* cutOf(const StepReport& section) {
  return section.result ? section.result->section.get() : nullptr;
}

/// The closed bodies that cut a body while those sections are on.
std::vector<OpenedBy> openersOf(const Openable& body, const std::vector<StepReport>& sections, const SectionSet& on) {
  std::vector<OpenedBy> by;
  for (const StepReport& section : sections) {
    const SectionCut* cut = cutOf(section);
    if (!cut || !cut->clip.body || std::find(on.begin(), on.end(), section.id) == on.end()) continue;
    const auto& cutter = cut->clip.body;
    if (cut->cuts(body.id, body.layer)) by.push_back({section.id, *cutter, cut->clip.outside});
  }
  return by;
}

std::vector<SectionSet> allSets(const std::vector<StepReport>& sections, const std::vector<SectionSet>& sets) {
  std::vector<SectionSet> result(1);
  for (const StepReport& section : sections)
    if (section.state != StepState::Off) result.front().push_back(section.id);
  result.insert(result.end(), sets.begin(), sets.end());
  return result;
}

std::vector<StepId> sectionsOf(const std::vector<OpenedBy>& by) {
  std::vector<StepId> result;
  for (const OpenedBy& each : by) result.push_back(each.section);
  return result;
}

}  // namespace

const Opened* Openings::find(const BodyId& body, const BodyPicture* whole, const std::vector<StepId>& on) const {
  const auto here = bodies.find({body, whole});
  if (here == bodies.end()) return nullptr;
  // Of all that were made for sets of sections, the one with all of those that are on.
  const Opened* best = nullptr;
  for (const Opened& each : here->second) {
    const bool fits = std::all_of(each.by.begin(), each.by.end(), [&](const StepId& section) {
      return std::find(on.begin(), on.end(), section) != on.end();
    });
    if (fits && (!best || each.by.size() > best->by.size())) best = &each;
  }
  return best && best->picture ? best : nullptr;
}

Opener::Known& Opener::opened(const Openable& body, const std::vector<OpenedBy>& by, Progress& progress) {
  const auto here = std::find_if(known_.begin(), known_.end(),
                                 [&](const auto& each) { return each->whole == body.picture && each->by == by; });
  if (here != known_.end()) return **here;
  auto made = std::make_unique<Known>(Known{body.picture, by, nullptr, std::nullopt});
  try {
    made->opened = openedPicture(*body.picture, by, progress);
  } catch (const Error& error) {
    progress.throwIfStopped();
    made->error = error;
  }
  known_.push_back(std::move(made));
  return *known_.back();
}

Opener::KnownOverlap* Opener::overlap(const std::shared_ptr<const OpenedPicture>& opened, const Openable& other,
                                      bool find, Progress& progress) {
  const auto here = std::find_if(overlaps_.begin(), overlaps_.end(), [&](const auto& each) {
    return each->opened == opened && each->other == other.picture;
  });
  if (here != overlaps_.end()) return here->get();
  if (!find) return nullptr;
  overlaps_.push_back(std::make_unique<KnownOverlap>(
      KnownOverlap{opened, other.picture, overlapsOf(*opened, *other.picture, other.id, progress)}));
  return overlaps_.back().get();
}

Openings Opener::open(const std::vector<Openable>& bodies, const std::vector<StepReport>& sections,
                      const std::vector<SectionSet>& sets, bool overlaps, Progress& progress) {
  Openings result;
  for (const SectionSet& set : allSets(sections, sets))
    for (const Openable& body : bodies) {
      const std::vector<OpenedBy> by = openersOf(body, sections, set);
      if (by.empty()) continue;
      std::vector<Opened>& here = result.bodies[{body.id, body.picture.get()}];
      const std::vector<StepId> names = sectionsOf(by);
      if (std::any_of(here.begin(), here.end(), [&](const Opened& each) { return each.by == names; })) continue;
      Known& known = opened(body, by, progress);
      known.used = true;
      here.push_back({names, known.opened});
      if (const auto& error = known.error) {
        result.failed.emplace(body.id, *error);
        continue;
      }
      for (const Openable& other : bodies) {
        // Each two of them once, where one section cuts both.
        if (!(body.id < other.id) || openersOf(other, sections, set).empty()) continue;
        try {
          KnownOverlap* both = overlap(known.opened, other, overlaps, progress);
          if (!both) continue;
          both->used = true;
          for (const OpenedOverlap& each : both->overlaps) here.back().overlaps.push_back(each);
        } catch (const Error& error) {
          progress.throwIfStopped();
          result.failed.emplace(body.id, error);
        }
      }
    }
  return result;
}

void Opener::forgetUnused() {
  std::erase_if(known_, [](const auto& each) { return !each->used; });
  std::erase_if(overlaps_, [](const auto& each) { return !each->used; });
  for (const auto& each : known_) each->used = false;
  for (const auto& each : overlaps_) each->used = false;
}

}  // namespace kervo::app
