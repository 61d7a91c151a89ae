#include "model/selected.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kervo {

std::optional<PlanePick> Picked::asPlane() const {
  if (!standard.empty()) return PlanePick::standard(standard);
  if (!plane) return std::nullopt;
  return what == What::Datum ? PlanePick::ofStep(body.step()) : PlanePick::onFace(face);
}

std::optional<PlanePick> Picked::asPlaneToDrawOn() const {
  if (plane || what != What::Face) return asPlane();
  return PlanePick::tangent(face, place);
}

std::optional<CutterPick> Picked::cutter() const {
  if (what == What::Drawing) return CutterPick::of(RegionPick{body.step()});
  if (what == What::Body || (what == What::Face && bodyKind == BodyKind::Surface)) return CutterPick::ofBody(body);
  if (const auto cutting = asPlane()) return CutterPick::of(*cutting);
  return what == What::Face ? std::optional(CutterPick::of(face)) : std::nullopt;
}

bool Selected::anyInOpening() const {
  return std::any_of(picks.begin(), picks.end(), [](const Picked& pick) { return pick.opening.has_value(); });
}

std::vector<FaceReference> Selected::facesOfOpenings() const {
  std::set<std::pair<BodyId, int>> known;
  std::vector<FaceReference> faces;
  for (const Picked& pick : picks)
    if (pick.what == Picked::What::Face && (!pick.opening || known.emplace(pick.body, *pick.opening).second))
      faces.push_back(pick.face);
  return faces;
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
  for (const Picked& pick : picks)
    if (pick.what != Picked::What::Datum && pick.what != Picked::What::Drawing) addOnce(result, pick.body);
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
  for (const Picked& pick : picks)
    if (pick.what == Picked::What::Datum && pick.plane) return pick.asPlane();
  if (const Picked* face = planarFace()) return face->asPlane();
  return std::nullopt;
}

std::optional<PlanePick> Selected::planeForNew() const {
  if (picks.empty() && !level.empty()) return PlanePick::atHeight(Expression(heightOfLevel(level)));
  return plane();
}

std::optional<PlanePick> Selected::planeToDrawOn() const {
  if (const auto known = planeForNew()) return known;
  for (const Picked& pick : picks)
    if (const auto tangent = pick.asPlaneToDrawOn()) return tangent;
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

std::vector<PointReference> Selected::points() const {
  std::vector<PointReference> result;
  for (const Picked& pick : picks) result.insert(result.end(), pick.points.begin(), pick.points.end());
  return result;
}

Expression Selected::inUnit(double millimetres) const {
  return Expression(formatNumber(std::round(millimetres / unit.factor * 1e6) / 1e6) + " " + std::string(unit.name));
}

}  // namespace kervo
