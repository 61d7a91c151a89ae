#include "model/selected.h"

#include <algorithm>
#include <cmath>

namespace kervo {

std::optional<CutterPick> Picked::cutter() const {
  if (what == What::Body || (what == What::Face && bodyKind == BodyKind::Surface)) return CutterPick::ofBody(body);
  if (what != What::Face) return std::nullopt;
  return plane ? CutterPick::of(PlanePick::onFace(face)) : CutterPick::of(face);
}

bool Selected::anyOf(Picked::What what) const {
  return std::any_of(picks.begin(), picks.end(), [&](const Picked& pick) { return pick.what == what; });
}

namespace {
template <class T>
void addOnce(std::vector<T>& list, const T& value) {
  if (std::find(list.begin(), list.end(), value) == list.end()) list.push_back(value);
}
}  // namespace

std::vector<BodyId> Selected::bodies() const {
  std::vector<BodyId> result;
  for (const Picked& pick : picks) addOnce(result, pick.body);
  return result;
}

std::vector<BodyId> Selected::wholeBodies() const {
  std::vector<BodyId> result;
  for (const Picked& pick : picks)
    if (pick.what == Picked::What::Body) result.push_back(pick.body);
  return result;
}

const Picked* Selected::planarFace() const {
  for (const Picked& pick : picks)
    if (pick.what == Picked::What::Face && pick.plane) return &pick;
  return nullptr;
}

std::optional<PlanePick> Selected::plane() const {
  if (stepOf(Makes::Plane)) return PlanePick::ofStep(step);
  if (const Picked* face = planarFace()) return PlanePick::onFace(face->face);
  return std::nullopt;
}

std::vector<FaceReference> Selected::faces() const {
  std::vector<FaceReference> result;
  for (const Picked& pick : picks)
    if (pick.what == Picked::What::Face) result.push_back(pick.face);
  return result;
}

std::vector<EdgeReference> Selected::edges() const {
  std::vector<EdgeReference> result;
  for (const Picked& pick : picks)
    for (const EdgeReference& edge : pick.edges) addOnce(result, edge);
  return result;
}

Expression Selected::inUnit(double millimetres) const {
  return Expression(formatNumber(std::round(millimetres / unit.factor * 1e6) / 1e6) + " " + std::string(unit.name));
}

}  // namespace kervo
