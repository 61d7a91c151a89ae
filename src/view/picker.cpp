#include "view/picker.h"

#include <QLineF>
#include <SelectMgr_SelectionManager.hxx>
#include <SelectMgr_ViewerSelector.hxx>
#include <algorithm>
#include <map>
#include <set>

#include "view/kernel_camera.h"
#include "view/seen_parts.h"
#include "view/selectable_body.h"

namespace kervo {

namespace {

/// The kernel's selector with its camera and picks made reachable.
class Selector : public SelectMgr_ViewerSelector {
 public:
  void pickAt(QPointF pixel, int tolerance, const Camera& camera) {
    SetPixelTolerance(tolerance);
    auto& volumes = mySelectingVolumeMgr;
    // The volume's kind comes first: before that the others throw.
    volumes.InitPointSelectingVolume(gp_Pnt2d(pixel.x(), pixel.y()));
    use(camera);
    volumes.SetPixelTolerance(tolerance);
    volumes.BuildSelectingVolume();
    TraverseSensitives();
  }

  void pickIn(QRectF pixels, bool touching, const Camera& camera) {
    auto& volumes = mySelectingVolumeMgr;
    volumes.InitBoxSelectingVolume(gp_Pnt2d(pixels.left(), pixels.top()), gp_Pnt2d(pixels.right(), pixels.bottom()));
    use(camera);
    volumes.AllowOverlapDetection(touching);
    volumes.BuildSelectingVolume();
    TraverseSensitives();
    volumes.AllowOverlapDetection(false);
  }

 private:
  void use(const Camera& camera) {
    mySelectingVolumeMgr.SetCamera(camera.kernel().camera);
    mySelectingVolumeMgr.SetWindowSize(camera.viewport().width(), camera.viewport().height());
  }
};

}  // namespace

class Picker::Selection {
 public:
  Selection() : selector(new Selector), manager(new SelectMgr_SelectionManager(selector)) {}

  void show(const Scene& scene) {
    std::map<SelectMgr_SelectableObject*, Handle(SelectMgr_SelectableObject)> wanted;
    bodies.clear();
    guides.clear();
    for (const SceneBody& body : scene.bodies) {
      if (!body.pickable) continue;
      // A trial's pictures are shown before picks are prepared; the scene is set again then.
      const std::shared_ptr<const PickTrees> trees = body.picture->pickTrees();
      if (!trees) continue;
      const Handle(SelectMgr_SelectableObject)& selectable = trees->object;
      wanted.emplace(selectable.get(), selectable);
      (body.isGuide() ? guides : bodies).emplace(selectable.get(), body.id);
    }
    for (const auto& [pointer, object] : shown)
      if (!wanted.count(pointer)) manager->Remove(object);
    for (const auto& [pointer, object] : wanted) {
      if (shown.count(pointer)) continue;
      for (int mode = 0; mode < SelectableBody::modeCount; ++mode) {
        manager->Load(object, mode);
        manager->Activate(object, mode);
      }
    }
    shown = std::move(wanted);
  }

  std::optional<Pick> pick(int rank) const {
    const Handle(PartOwner) owner = Handle(PartOwner)::DownCast(selector->Picked(rank));
    if (owner.IsNull()) return std::nullopt;
    const SelectMgr_SelectableObject* object = owner->Selectable().get();
    if (const auto body = bodies.find(object); body != bodies.end())
      return Pick{owner->kind, body->second, owner->index};
    if (const auto guide = guides.find(object); guide != guides.end()) return Pick{Pick::Kind::Guide, guide->second, 0};
    return std::nullopt;
  }

  /// Whether what was found there is a face, be it of a body or of a plane.
  bool isFace(int rank) const {
    const Handle(PartOwner) owner = Handle(PartOwner)::DownCast(selector->Picked(rank));
    return !owner.IsNull() && owner->kind == Pick::Kind::Face;
  }

  Handle(Selector) selector;
  Handle(SelectMgr_SelectionManager) manager;
  std::map<SelectMgr_SelectableObject*, Handle(SelectMgr_SelectableObject)> shown;
  std::map<const SelectMgr_SelectableObject*, BodyId> bodies, guides;
};

Picker::Picker() : selection_(std::make_unique<Selection>()) {}
Picker::~Picker() {
  // Objects remember who selects them, and would not be picked by another picker.
  selection_->show({});
}

void Picker::setScene(const Scene& scene) {
  scene_ = scene;
  selection_->show(scene);
}

std::vector<Picker::Found> Picker::foundAt(QPointF pixel, double tolerance, const Camera& camera) const {
  std::vector<Found> found;
  if (selection_->shown.empty()) return found;
  selection_->selector->pickAt(pixel, static_cast<int>(std::lround(tolerance)), camera);
  for (int rank = 1; rank <= selection_->selector->NbPicked(); ++rank) {
    const auto pick = selection_->pick(rank);
    if (!pick) continue;
    const gp_Pnt point = selection_->selector->PickedPoint(rank);
    found.push_back({*pick, {point.X(), point.Y(), point.Z()}, selection_->isFace(rank)});
  }
  // Of a triangle that lies only beside the pixel the kernel gives any point, perhaps far away and nearer to the eye
  // than all else.
  const auto beside = [&](const Found& each) {
    return each.face && QLineF(camera.project(each.point), pixel).length() > tolerance + 1;
  };
  if (!scene_.cuts) std::erase_if(found, beside);
  return found;
}

namespace {

bool isMesh(const Scene& scene, const BodyId& id) {
  const SceneBody* body = scene.find(id);
  return body && body->picture->form.mesh();
}

}  // namespace

std::vector<Picker::Found> Picker::withCuts(std::vector<Found> found, QPointF pixel, double tolerance,
                                            const Camera& camera) const {
  if (!scene_.cuts) return found;
  std::vector<Found> seen;
  for (Found& each : found) {
    const SceneBody* body = scene_.find(each.pick.body);
    const Hidden hidden = body && !body->isGuide() ? hiddenOf(scene_, *body) : Hidden();
    if (body && !hidden.empty()) {
      const auto place = seenPlace(each.pick, body->picture->mesh, hidden, pixel, tolerance, camera);
      if (!place) continue;
      each.point = *place;
    } else if (each.face && QLineF(camera.project(each.point), pixel).length() > tolerance + 1) {
      continue;
    }
    if (body && body->opened) {
      const auto meant = pickOfDrawn(each.pick.kind, each.pick.index, *body);
      if (!meant) continue;
      each.pick = *meant;
    }
    seen.push_back(each);
  }
  const auto [from, direction] = camera.sight(pixel);
  if (const auto met = scene_.cuts->along(from, direction)) {
    const CutFace& face = scene_.cuts->faces()[met->face];
    const SceneBody& body = scene_.bodies[face.body];
    if (body.pickable) seen.push_back({{Pick::Kind::Cut, body.id, face.number}, met->point, true});
  }
  // What is smaller lies a little before the faces around it.
  const double before = tolerance * camera.pixelSize();
  const auto depth = [&, way = direction, start = from](const Found& each) {
    return dot(each.point - start, way) - (each.face ? 0 : before);
  };
  std::stable_sort(seen.begin(), seen.end(), [&](const Found& a, const Found& b) { return depth(a) < depth(b); });
  return seen;
}

std::vector<Hit> Picker::at(QPointF pixel, double tolerance, const Camera& camera) const {
  std::vector<Found> found = foundAt(pixel, tolerance, camera);
  found = withCuts(std::move(found), pixel, tolerance, camera);
  // Datums are clear: through the inside of a plane all else is picked first.
  std::vector<Hit> hits, throughs;
  std::set<BodyId> seen;
  // An edge or corner behind the first face is hidden by it.
  bool behindFace = false;
  for (auto& [pick, point, face] : found) {
    if (behindFace && !face) continue;
    if (pick.kind == Pick::Kind::Guide) {
      if (filter_.guides && seen.insert(pick.body).second) (face ? throughs : hits).push_back({pick, point});
      continue;
    }
    behindFace = behindFace || face;
    // The triangles of a mesh are no faces that anything could be done with: it is picked as a whole.
    const bool mesh = pick.kind == Pick::Kind::Face && isMesh(scene_, pick.body);
    if (filter_.bodies || (mesh && filter_.faces)) {
      if (!seen.insert(pick.body).second) continue;
      pick = Pick{Pick::Kind::Body, pick.body, 0};
    } else if ((pick.kind == Pick::Kind::Face && !filter_.faces) || (pick.kind == Pick::Kind::Edge && !filter_.edges) ||
               (pick.kind == Pick::Kind::Corner && !filter_.corners)) {
      continue;
    }
    // Nobody looks through a cut face.
    if (pick.kind == Pick::Kind::Cut && !filter_.cuts) break;
    hits.push_back({pick, point});
  }
  hits.insert(hits.end(), throughs.begin(), throughs.end());
  return hits;
}

Picker::Boxed Picker::boxed(QRectF pixels, bool touching, const Camera& camera) const {
  Boxed result;
  selection_->selector->pickIn(pixels.normalized(), touching, camera);
  std::map<BodyId, int> facesIn, edgesIn;
  for (int rank = 1; rank <= selection_->selector->NbPicked(); ++rank) {
    const auto pick = selection_->pick(rank);
    if (!pick) continue;
    if (pick->kind == Pick::Kind::Face) ++facesIn[pick->body];
    if (pick->kind == Pick::Kind::Guide && !selection_->isFace(rank)) ++edgesIn[pick->body];
    if (pick->kind == Pick::Kind::Face && isMesh(scene_, pick->body)) continue;
    const bool wanted = pick->kind == Pick::Kind::Face
                            ? filter_.faces
                            : pick->kind == Pick::Kind::Edge && filter_.edges && !filter_.faces;
    if (wanted) result.parts.push_back(*pick);
  }
  const auto countOf = [&](const SelectMgr_SelectableObject* pointer, SelectableBody::Mode mode) {
    const auto& object = selection_->shown.at(const_cast<SelectMgr_SelectableObject*>(pointer));
    return object->Selection(mode)->Entities().Length();
  };
  // Of bodies that sections cut only what is seen counts.
  std::map<BodyId, int> facesSeen;
  for (const SceneBody& body : scene_.bodies) {
    const Hidden hidden = body.pickable && !body.isGuide() ? hiddenOf(scene_, body) : Hidden();
    if (hidden.empty() && !body.opened) continue;
    std::erase_if(result.parts, [&](const Pick& pick) { return pick.body == body.id; });
    facesIn.erase(body.id);
    facesSeen[body.id] = 0;
    const auto addDrawn = [&](Pick::Kind kind, std::size_t number) {
      const auto meant = pickOfDrawn(kind, static_cast<int>(number), body);
      if (!meant || meant->kind != kind) return;
      if (std::find(result.parts.begin(), result.parts.end(), *meant) == result.parts.end())
        result.parts.push_back(*meant);
    };
    const BodyMesh& mesh = body.picture->mesh;
    for (std::size_t face = 0; face < mesh.faceTriangles.size(); ++face) {
      const FaceSeen seen = seenIn(mesh, face, hidden, pixels.normalized(), camera);
      if (!seen.any) continue;
      ++facesSeen[body.id];
      if (touching ? !seen.touches : !seen.inside) continue;
      ++facesIn[body.id];
      if (filter_.faces) addDrawn(Pick::Kind::Face, face);
    }
    if (!filter_.edges || filter_.faces) continue;
    for (std::size_t edge = 0; edge < mesh.edges.size(); ++edge)
      if (edgeSeenIn(mesh, edge, hidden, pixels.normalized(), touching, camera)) addDrawn(Pick::Kind::Edge, edge);
  }
  for (const auto& [pointer, guide] : selection_->guides) {
    const auto found = edgesIn.find(guide);
    if (found == edgesIn.end()) continue;
    if (touching || found->second == countOf(pointer, SelectableBody::Edges))
      result.guides.push_back({Pick::Kind::Guide, guide, 0});
  }
  for (const auto& [pointer, body] : selection_->bodies) {
    const auto found = facesIn.find(body);
    if (found == facesIn.end()) continue;
    const auto seenOf = facesSeen.find(body);
    const int all = seenOf == facesSeen.end() ? countOf(pointer, SelectableBody::Faces) : seenOf->second;
    result.touchedBodies.push_back({Pick::Kind::Body, body, 0});
    if (!touching && found->second == all) result.wholeBodies.push_back({Pick::Kind::Body, body, 0});
  }
  return result;
}

std::vector<Pick> Picker::in(QRectF pixels, Inclusion inclusion, const Camera& camera) const {
  if (selection_->shown.empty()) return {};
  const bool touching = inclusion == Inclusion::Touching, anything = filter_ == PickFilter{};
  const Boxed found = boxed(pixels, touching, camera);
  if (filter_.bodies) return touching ? found.touchedBodies : found.wholeBodies;
  if (!anything) return found.parts;
  const std::vector<Pick> whole = touching ? boxed(pixels, false, camera).wholeBodies : found.wholeBodies;
  std::vector<Pick> result = whole.empty() ? found.parts : touching ? found.touchedBodies : whole;
  result.insert(result.end(), found.guides.begin(), found.guides.end());
  return result;
}

}  // namespace kervo
