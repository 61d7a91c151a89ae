#include "drawing/region_names.h"

#include <algorithm>
#include <cctype>
#include <map>

namespace kervo {

namespace {

/// "a.b+" and "c-" of "a.b+.c-#2": ids may have dots of their own.
std::vector<std::string> stretches(const std::string& region) {
  std::vector<std::string> result;
  const std::string name = region.substr(0, region.find('#'));
  std::size_t from = 0;
  for (std::size_t i = 0; i < name.size(); ++i)
    if ((name[i] == '+' || name[i] == '-') && (i + 1 == name.size() || name[i + 1] == '.')) {
      result.push_back(name.substr(from, i + 1 - from));
      from = i + 2;
    }
  return result;
}

/// With * for the numbers of copies: what stands between two colons and is a number.
std::string starred(const std::string& curve) {
  std::string result;
  for (std::size_t i = 0; i < curve.size(); ++i) {
    result += curve[i];
    if (curve[i] != ':') continue;
    std::size_t end = i + 1;
    while (end < curve.size() && std::isdigit(static_cast<unsigned char>(curve[end])) != 0) ++end;
    if (end > i + 1 && end < curve.size() && curve[end] == ':') {
      result += '*';
      i = end - 1;
    }
  }
  return result;
}

bool isStarred(const std::string& stretch) {
  return stretch.find(":*:") != std::string::npos;
}

std::vector<std::string> kinds(const std::string& region) {
  std::vector<std::string> result;
  for (const std::string& stretch : stretches(region)) result.push_back(starred(stretch));
  std::sort(result.begin(), result.end());
  result.erase(std::unique(result.begin(), result.end()), result.end());
  return result;
}

}  // namespace

std::string patternOf(const std::string& region) {
  std::string result;
  for (const std::string& kind : kinds(region)) result += (result.empty() ? "" : ".") + kind;
  return result;
}

std::vector<std::size_t> regionsMeant(const std::string& pick, const std::vector<Region>& regions) {
  std::vector<std::size_t> exact, all, fewer;
  const bool isPattern = isStarred(pick);
  const std::vector<std::string> wanted = kinds(pick);
  for (std::size_t i = 0; i < regions.size(); ++i) {
    const std::string& name = regions[i].name();
    if (name == pick) exact.push_back(i);
    if (!isPattern) continue;
    const std::vector<std::string> has = kinds(name);
    if (has == wanted) {
      all.push_back(i);
      continue;
    }
    // Only stretches with copies may be missing.
    std::vector<std::string> missing;
    std::set_difference(wanted.begin(), wanted.end(), has.begin(), has.end(), std::back_inserter(missing));
    const bool within = std::includes(wanted.begin(), wanted.end(), has.begin(), has.end());
    if (within && std::all_of(missing.begin(), missing.end(), isStarred)) fewer.push_back(i);
  }
  if (!exact.empty()) return exact;
  return all.empty() ? fewer : all;
}

bool mayBeNone(const std::string& pick, const DrawingResult& drawing) {
  const std::vector<std::string> wanted = stretches(pick);
  return !wanted.empty() && std::all_of(wanted.begin(), wanted.end(), [&](const std::string& stretch) {
    return isStarred(stretch) &&
           std::any_of(drawing.copies.begin(), drawing.copies.end(),
                       [&](const std::string& copies) { return stretch.starts_with(copies + ":*:"); });
  });
}

std::vector<std::string> picksOf(const std::vector<std::string>& chosen, const std::vector<Region>& regions) {
  const auto isChosen = [&](const std::string& name) {
    return std::find(chosen.begin(), chosen.end(), name) != chosen.end();
  };
  std::map<std::string, bool> whole;  // by pattern: are all of them chosen
  for (const Region& region : regions) {
    const auto [entry, isNew] = whole.try_emplace(patternOf(region.name()), true);
    entry->second = entry->second && isChosen(region.name());
  }
  std::vector<std::string> picks;
  for (const std::string& name : chosen) {
    const std::string pattern = patternOf(name);
    const auto found = whole.find(pattern);
    const std::string pick = isStarred(pattern) && found != whole.end() && found->second ? pattern : name;
    if (std::find(picks.begin(), picks.end(), pick) == picks.end()) picks.push_back(pick);
  }
  return picks;
}

}  // namespace kervo
