#include "geom/mesh/mesh_pieces.h"

#include <algorithm>
#include <map>
#include <numeric>

#include "geom/mesh/mesh_edges.h"

namespace kervo {

namespace {

/// Which triangles are connected by edges, by union and find.
class Parts {
 public:
  explicit Parts(const Mesh& mesh) : parent_(mesh.triangles().size()) {
    std::iota(parent_.begin(), parent_.end(), 0U);
    const MeshEdges edges(mesh.points().size(), mesh.triangles());
    for (std::uint32_t t = 0; t < parent_.size(); ++t) {
      const Mesh::Triangle& corners = mesh.triangles()[t];
      for (std::size_t i = 0; i < 3; ++i) {
        const std::uint32_t from = corners[i], to = corners[(i + 1) % 3];
        if (edges.joins(from, to)) join(t, edges.triangleOf(to, from));
      }
    }
  }

  std::uint32_t rootOf(std::uint32_t triangle) {
    while (parent_[triangle] != triangle) triangle = parent_[triangle] = parent_[parent_[triangle]];
    return triangle;
  }

 private:
  void join(std::uint32_t a, std::uint32_t b) {
    a = rootOf(a), b = rootOf(b);
    parent_[std::max(a, b)] = std::min(a, b);
  }

  std::vector<std::uint32_t> parent_;
};

/// How often a ray from the point, in a direction that runs along no usual edge, leaves the mesh less enters it.
int crossings(const Mesh& mesh, Point from) {
  const Vector way = normalized(Vector{0.71237, 0.53219, 0.45711});
  int sum = 0;
  for (const Mesh::Triangle& triangle : mesh.triangles()) {
    const Point a = mesh.points()[triangle[0]], b = mesh.points()[triangle[1]], c = mesh.points()[triangle[2]];
    const Vector across = cross(b - a, c - a);
    const double slope = dot(across, way);
    if (slope == 0) continue;
    const double at = dot(a - from, across) / slope;
    if (at < 0) continue;
    const Point hit = from + way * at;
    const auto left = [&](Point p, Point q) { return dot(cross(q - p, hit - p), across) >= 0; };
    if (left(a, b) && left(b, c) && left(c, a)) sum += slope > 0 ? 1 : -1;
  }
  return sum;
}

bool within(const Box& box, const Box& outer) {
  return box.low.x >= outer.low.x && box.low.y >= outer.low.y && box.low.z >= outer.low.z &&
         box.high.x <= outer.high.x && box.high.y <= outer.high.y && box.high.z <= outer.high.z;
}

}  // namespace

bool inside(const Mesh& mesh, Point point) {
  return !mesh.empty() && crossings(mesh, point) > 0;
}

Mesh someOf(const Mesh& mesh, const std::vector<bool>& wanted) {
  if (mesh.empty()) return {};
  constexpr std::uint32_t none = ~0U;
  std::vector<std::uint32_t> number(mesh.points().size(), none);
  std::vector<Point> points;
  std::vector<Mesh::Triangle> triangles;
  Mesh::Extra extra{{}, mesh.tolerance()};
  for (std::size_t t = 0; t < mesh.triangles().size(); ++t) {
    if (!wanted[t]) continue;
    Mesh::Triangle triangle = mesh.triangles()[t];
    for (std::uint32_t& corner : triangle) {
      if (number[corner] == none) {
        number[corner] = static_cast<std::uint32_t>(points.size());
        points.push_back(mesh.points()[corner]);
      }
      corner = number[corner];
    }
    triangles.push_back(triangle);
    if (!mesh.paints().empty()) extra.paints.push_back(mesh.paints()[t]);
  }
  return {std::move(points), std::move(triangles), std::move(extra)};
}

Mesh together(const std::vector<Mesh>& meshes) {
  std::vector<Point> points;
  std::vector<Mesh::Triangle> triangles;
  Mesh::Extra extra;
  const bool painted = std::any_of(meshes.begin(), meshes.end(),
                                   [](const Mesh& mesh) { return !mesh.empty() && !mesh.paints().empty(); });
  for (const Mesh& mesh : meshes) {
    if (mesh.empty()) continue;
    const auto offset = static_cast<std::uint32_t>(points.size());
    points.insert(points.end(), mesh.points().begin(), mesh.points().end());
    for (const Mesh::Triangle& triangle : mesh.triangles())
      triangles.push_back({triangle[0] + offset, triangle[1] + offset, triangle[2] + offset});
    if (painted) {
      extra.paints.insert(extra.paints.end(), mesh.paints().begin(), mesh.paints().end());
      extra.paints.resize(triangles.size(), 0);
    }
    extra.tolerance = std::max(extra.tolerance, mesh.tolerance());
  }
  return {std::move(points), std::move(triangles), std::move(extra)};
}

std::vector<Mesh> piecesOf(const Mesh& mesh) {
  if (mesh.empty()) return {};
  Parts parts(mesh);
  std::map<std::uint32_t, std::vector<std::uint32_t>> byRoot;
  for (std::uint32_t t = 0; t < mesh.triangles().size(); ++t) byRoot[parts.rootOf(t)].push_back(t);
  if (byRoot.size() == 1) return {mesh};
  std::vector<Mesh> shells;
  std::vector<bool> wanted(mesh.triangles().size(), false);
  for (const auto& [root, triangles] : byRoot) {
    for (const std::uint32_t t : triangles) wanted[t] = true;
    shells.push_back(someOf(mesh, wanted));
    for (const std::uint32_t t : triangles) wanted[t] = false;
  }
  // Hollows go with the smallest part that they lie in.
  std::vector<std::vector<Mesh>> groups;
  std::vector<std::size_t> groupOf(shells.size());
  for (std::size_t i = 0; i < shells.size(); ++i)
    if (shells[i].volume() >= 0) {
      groupOf[i] = groups.size();
      groups.push_back({shells[i]});
    }
  for (const Mesh& hollow : shells) {
    if (hollow.volume() >= 0) continue;
    const Mesh* home = nullptr;
    std::size_t group = 0;
    for (std::size_t i = 0; i < shells.size(); ++i) {
      const Mesh& outer = shells[i];
      if (outer.volume() <= -hollow.volume() || !within(hollow.box(), outer.box())) continue;
      if (home && home->volume() <= outer.volume()) continue;
      if (!inside(outer, hollow.points().front())) continue;
      home = &outer;
      group = groupOf[i];
    }
    if (home)
      groups[group].push_back(hollow);
    else
      groups.push_back({hollow});
  }
  std::vector<Mesh> result;
  result.reserve(groups.size());
  for (const std::vector<Mesh>& group : groups) result.push_back(group.size() == 1 ? group.front() : together(group));
  return result;
}

}  // namespace kervo
