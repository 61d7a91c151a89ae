#include "geom/mesh/cgal_mesh.h"

#include <algorithm>
#include <optional>

namespace kervo {

std::optional<CgalMesh> toCgal(const Mesh& mesh) {
  CgalMesh result;
  if (mesh.empty()) return result;
  const std::size_t triangles = mesh.triangles().size();
  result.reserve(static_cast<CgalMesh::size_type>(mesh.points().size()),
                 static_cast<CgalMesh::size_type>(3 * triangles / 2 + 1), static_cast<CgalMesh::size_type>(triangles));
  for (const Point& point : mesh.points()) result.add_vertex({point.x, point.y, point.z});
  CgalPaints paints = result.add_property_map<CgalMesh::Face_index, Paint>(paintsName, 0).first;
  for (std::size_t t = 0; t < triangles; ++t) {
    const Mesh::Triangle& corners = mesh.triangles()[t];
    const auto face = result.add_face(CgalMesh::Vertex_index(corners[0]), CgalMesh::Vertex_index(corners[1]),
                                      CgalMesh::Vertex_index(corners[2]));
    if (face == CgalMesh::null_face()) return std::nullopt;
    if (!mesh.paints().empty()) paints[face] = mesh.paints()[t];
  }
  return result;
}

Mesh fromCgal(const CgalMesh& mesh, double tolerance) {
  std::vector<std::uint32_t> number(mesh.num_vertices() + mesh.number_of_removed_vertices());
  std::vector<Point> points;
  points.reserve(mesh.number_of_vertices());
  for (const auto vertex : mesh.vertices()) {
    if (mesh.is_isolated(vertex)) continue;
    number[vertex] = static_cast<std::uint32_t>(points.size());
    const auto& at = mesh.point(vertex);
    points.push_back({at.x(), at.y(), at.z()});
  }
  const auto paints = mesh.property_map<CgalMesh::Face_index, Paint>(paintsName);
  std::vector<Mesh::Triangle> triangles;
  triangles.reserve(mesh.number_of_faces());
  Mesh::Extra extra{{}, tolerance};
  for (const auto face : mesh.faces()) {
    Mesh::Triangle triangle{};
    std::size_t i = 0;
    for (const auto vertex : mesh.vertices_around_face(mesh.halfedge(face)))
      if (i < 3) triangle[i++] = number[vertex];
    triangles.push_back(triangle);
    if (paints.second) extra.paints.push_back(paints.first[face]);
  }
  if (std::all_of(extra.paints.begin(), extra.paints.end(), [](Paint paint) { return paint == 0; }))
    extra.paints.clear();
  return {std::move(points), std::move(triangles), std::move(extra)};
}

}  // namespace kervo
