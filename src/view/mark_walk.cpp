#include "view/mark_walk.h"

#include <algorithm>

namespace kervo {

std::vector<Pick> allPicks(const Scene& scene, const PickFilter& filter) {
  std::vector<Pick> all;
  const auto add = [&](Pick::Kind kind, const auto& countOf) {
    for (const SceneBody& body : scene.bodies)
      for (std::size_t i = 0; body.pickable && body.isGuide() == (kind == Pick::Kind::Guide) && i < countOf(body); ++i)
        all.push_back({kind, body.id, static_cast<int>(i)});
  };
  const auto one = [](const SceneBody&) { return std::size_t{1}; };
  if (filter.bodies) {
    add(Pick::Kind::Body, one);
    if (filter.guides) add(Pick::Kind::Guide, one);
    return all;
  }
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
  const auto index = static_cast<std::size_t>(pick.index);
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
