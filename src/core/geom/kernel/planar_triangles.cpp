#include "geom/kernel/planar_triangles.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_face_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>

namespace kervo {

namespace {

using Plane2 = CGAL::Exact_predicates_inexact_constructions_kernel;
using Vertices = CGAL::Triangulation_vertex_base_with_info_2<int, Plane2>;
using Faces =
    CGAL::Constrained_triangulation_face_base_2<Plane2, CGAL::Triangulation_face_base_with_info_2<signed char, Plane2>>;
using Triangulation =
    CGAL::Constrained_Delaunay_triangulation_2<Plane2, CGAL::Triangulation_data_structure_2<Vertices, Faces>,
                                               CGAL::No_constraint_intersection_tag>;

constexpr signed char unknown = -1;

/// Marks every face with the parity of the borders between it and the outside.
void markInside(Triangulation& triangulation) {
  for (auto face = triangulation.all_faces_begin(); face != triangulation.all_faces_end(); ++face)
    face->info() = unknown;
  std::vector<Triangulation::Face_handle> open{triangulation.infinite_face()};
  triangulation.infinite_face()->info() = 0;
  while (!open.empty()) {
    const Triangulation::Face_handle face = open.back();
    open.pop_back();
    for (int side = 0; side < 3; ++side) {
      const Triangulation::Face_handle next = face->neighbor(side);
      if (next->info() != unknown) continue;
      const bool border = triangulation.is_constrained({face, side});
      next->info() = static_cast<signed char>(border ? 1 - face->info() : face->info());
      open.push_back(next);
    }
  }
}

}  // namespace

std::optional<std::vector<std::array<int, 3>>> planarTriangles(const std::vector<PlanePoint>& points,
                                                               const std::vector<std::pair<int, int>>& segments) {
  Triangulation triangulation;
  std::vector<std::pair<Plane2::Point_2, int>> numbered;
  numbered.reserve(points.size());
  for (std::size_t i = 0; i < points.size(); ++i)
    numbered.emplace_back(Plane2::Point_2(points[i].u, points[i].v), static_cast<int>(i));
  triangulation.insert(numbered.begin(), numbered.end());
  // Equal points share a vertex, which has the number of one of them.
  if (triangulation.number_of_vertices() != points.size()) return std::nullopt;
  std::vector<Triangulation::Vertex_handle> handles(points.size());
  for (auto vertex = triangulation.finite_vertices_begin(); vertex != triangulation.finite_vertices_end(); ++vertex)
    handles[static_cast<std::size_t>(vertex->info())] = vertex;
  try {
    for (const auto& [from, to] : segments)
      triangulation.insert_constraint(handles[static_cast<std::size_t>(from)], handles[static_cast<std::size_t>(to)]);
  } catch (const Triangulation::Intersection_of_constraints_exception&) {
    return std::nullopt;
  }
  if (triangulation.dimension() != 2) return std::nullopt;
  markInside(triangulation);
  std::vector<std::array<int, 3>> triangles;
  triangles.reserve(triangulation.number_of_faces());
  for (auto face = triangulation.finite_faces_begin(); face != triangulation.finite_faces_end(); ++face)
    if (face->info() == 1)
      triangles.push_back({face->vertex(0)->info(), face->vertex(1)->info(), face->vertex(2)->info()});
  return triangles;
}

}  // namespace kervo
