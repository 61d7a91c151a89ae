#include "view/mark_walk.h"

#include <algorithm>

#include "view/cut_faces.h"

namespace kervo {

namespace {

/// Whether something of a part is not hidden by sections, judged by its points.
bool isSeen(Pick::Kind kind, std::size_t number, const Hidden& hidden, const BodyMesh& mesh) {
  if (hidden.empty()) return true;
  const auto anySeen = [&](const std::vector<float>& points, BodyMesh::Range range) {
    for (std::size_t i = range.first; i < range.first + range.count; ++i)
      if (!hidden.at({points[3 * i], points[3 * i + 1], points[3 * i + 2]})) return true;
    return false;
  };
  if (kind == Pick::Kind::Face) return anySeen(mesh.points, mesh.faceVertices[number]);
  if (kind == Pick::Kind::Edge) return anySeen(mesh.edgePoints, mesh.edges[number]);
  if (kind == Pick::Kind::Corner) return anySeen(mesh.corners, {static_cast<std::uint32_t>(number), 1});
  return anySeen(mesh.points, {0, static_cast<std::uint32_t>(mesh.points.size() / 3)});
}

}  // namespace

std::vector<Pick> allPicks(const Scene& scene, const PickFilter& filter) {
  std::vector<Pick> all;
  const auto add = [&](Pick::Kind kind, const auto& countOf) {
    for (const SceneBody& body : scene.bodies) {
      if (!body.pickable || body.isGuide() != (kind == Pick::Kind::Guide)) continue;
      const Hidden hidden = body.isGuide() ? Hidden() : hiddenOf(scene, body);
      for (std::size_t i = 0; i < countOf(body); ++i) {
        const auto pick = pickOfDrawn(kind, static_cast<int>(i), body);
        if (pick && pick->kind == kind && isSeen(kind, i, hidden, body.picture->mesh)) all.push_back(*pick);
      }
    }
  };
  const auto one = [](const SceneBody&) { return std::size_t{1}; };
  if (filter.bodies) {
    add(Pick::Kind::Body, one);
    if (filter.guides) add(Pick::Kind::Guide, one);
    return all;
  }
  // Meshes have no faces: they are picked as a whole.
  if (filter.faces) add(Pick::Kind::Body, [](const SceneBody& body) { return body.picture->form.mesh() ? 1U : 0U; });
  if (filter.faces) add(Pick::Kind::Face, [](const SceneBody& body) { return body.picture->faces.size(); });
  if (filter.edges) add(Pick::Kind::Edge, [](const SceneBody& body) { return body.picture->edges.size(); });
  if (filter.corners)
    add(Pick::Kind::Corner, [](const SceneBody& body) { return body.picture->mesh.corners.size() / 3; });
  if (filter.guides) add(Pick::Kind::Guide, one);
  return all;
}

std::optional<Pick> nextPick(const Scene& scene, const PickFilter& filter, const std::optional<Pick>& from,
                             int direction) {
  const std::vector<Pick> all = allPicks(scene, filter);
  if (all.empty()) return std::nullopt;
  const auto now = from ? std::find(all.begin(), all.end(), *from) : all.end();
  if (now == all.end()) return direction > 0 ? all.front() : all.back();
  const auto count = static_cast<std::ptrdiff_t>(all.size());
  return all[static_cast<std::size_t>((now - all.begin() + direction + count) % count)];
}

Point middleOf(const Pick& pick, const SceneBody& body) {
  const BodyMesh& mesh = body.picture->mesh;
  const std::vector<std::size_t> parts = drawnParts(pick, body);
  const std::size_t index = parts.empty() ? mesh.triangleCount() : parts.front();
  if (pick.kind == Pick::Kind::Corner && 3 * index + 2 < mesh.corners.size())
    return {mesh.corners[3 * index], mesh.corners[3 * index + 1], mesh.corners[3 * index + 2]};
  if (pick.kind == Pick::Kind::Edge && index < body.picture->edges.size()) return body.picture->edges[index].middle();
  Box box = mesh.box;
  if (pick.kind == Pick::Kind::Face && index < mesh.faceVertices.size()) {
    box = {};
    const BodyMesh::Range range = mesh.faceVertices[index];
    for (std::size_t i = 0; i < range.count; ++i) {
      const float* p = &mesh.points[3 * (range.first + i)];
      box.add(Point{p[0], p[1], p[2]});
    }
  }
  return box.empty() ? Point() : box.centre();
}

}  // namespace kervo
