#include "geom/mesh/mesh_repair.h"

#include <CGAL/Polygon_mesh_processing/border.h>
#include <CGAL/Polygon_mesh_processing/orient_polygon_soup.h>
#include <CGAL/Polygon_mesh_processing/orientation.h>
#include <CGAL/Polygon_mesh_processing/polygon_soup_to_polygon_mesh.h>
#include <CGAL/Polygon_mesh_processing/repair_self_intersections.h>
#include <CGAL/Polygon_mesh_processing/self_intersections.h>
#include <CGAL/Polygon_mesh_processing/triangulate_hole.h>

#include <algorithm>
#include <iterator>

#include "geom/mesh/cgal_mesh.h"
#include "geom/mesh/mesh_pieces.h"
#include "geom/mesh/welded.h"

namespace kervo {

namespace {

namespace processing = CGAL::Polygon_mesh_processing;

/// All triangles beside each other in one direction; points where surfaces touch are doubled.
CgalMesh oriented(const Mesh& mesh, bool& turned) {
  std::vector<CgalSpace::Point_3> points;
  points.reserve(mesh.points().size());
  for (const Point& point : mesh.points()) points.emplace_back(point.x, point.y, point.z);
  std::vector<std::vector<std::size_t>> polygons;
  polygons.reserve(mesh.triangles().size());
  for (const Mesh::Triangle& triangle : mesh.triangles()) polygons.push_back({triangle[0], triangle[1], triangle[2]});
  processing::orient_polygon_soup(points, polygons);
  for (std::size_t t = 0; t < polygons.size() && !turned; ++t) {
    // Points may have been doubled, so places are compared.
    const auto same = [&](std::size_t shift) {
      for (std::size_t i = 0; i < 3; ++i) {
        const Point& old = mesh.points()[mesh.triangles()[t][(i + shift) % 3]];
        if (points[polygons[t][i]] != CgalSpace::Point_3(old.x, old.y, old.z)) return false;
      }
      return true;
    };
    turned = !same(0) && !same(1) && !same(2);
  }
  CgalMesh result;
  processing::polygon_soup_to_polygon_mesh(points, polygons, result);
  CgalPaints paints = result.add_property_map<CgalMesh::Face_index, Paint>(paintsName, 0).first;
  if (!mesh.paints().empty())
    for (std::size_t t = 0; t < polygons.size(); ++t)
      paints[CgalMesh::Face_index(static_cast<CgalMesh::size_type>(t))] = mesh.paints()[t];
  return result;
}

void fillHoles(CgalMesh& mesh, MeshRepaired& report, Progress& progress) {
  std::vector<CgalMesh::Halfedge_index> borders;
  processing::extract_boundary_cycles(mesh, std::back_inserter(borders));
  report.holes = borders.size();
  for (const CgalMesh::Halfedge_index border : borders) {
    progress.throwIfStopped();
    std::vector<CgalMesh::Face_index> made;
    processing::triangulate_hole(mesh, border, std::back_inserter(made));
    if (made.empty()) ++report.holesLeft;
  }
}

std::size_t countCrossings(const CgalMesh& mesh) {
  if (!processing::does_self_intersect(mesh)) return 0;
  std::vector<std::pair<CgalMesh::Face_index, CgalMesh::Face_index>> pairs;
  processing::self_intersections(mesh, std::back_inserter(pairs));
  return pairs.size();
}

Mesh largestPart(const Mesh& mesh, std::size_t& gone) {
  const std::vector<Mesh> parts = piecesOf(mesh);
  if (parts.size() < 2) return mesh;
  gone = parts.size() - 1;
  return *std::max_element(parts.begin(), parts.end(),
                           [](const Mesh& a, const Mesh& b) { return a.area() < b.area(); });
}

}  // namespace

MeshRepaired repaired(const Mesh& mesh, const MeshWishes& wishes, Progress& progress) {
  MeshRepaired report;
  Welded clean = welded(mesh, wishes.weldWithin, true);
  report.weldedPoints = clean.points;
  report.degenerate = clean.degenerate;
  report.doubles = clean.doubles;
  progress.report(0.1);
  progress.throwIfStopped();
  if (clean.mesh.empty()) return report;
  CgalMesh working = oriented(clean.mesh, report.turned);
  // Triangles that looked the other way were no part of what is round them before.
  if (wishes.keepLargest)
    if (auto largest = toCgal(largestPart(fromCgal(working, 0), report.partsGone))) working = *std::move(largest);
  progress.report(0.3);
  progress.throwIfStopped();
  if (wishes.fillHoles) fillHoles(working, report, progress);
  progress.report(0.5);
  report.crossings = report.crossingsLeft = countCrossings(working);
  progress.report(0.7);
  progress.throwIfStopped();
  if (wishes.removeCrossings && report.crossings > 0) {
    processing::experimental::remove_self_intersections(working);
    report.crossingsLeft = countCrossings(working);
  }
  if (CGAL::is_closed(working) && !processing::is_outward_oriented(working)) {
    processing::orient_to_bound_a_volume(working);
    report.turned = true;
  }
  if (working.has_garbage()) working.collect_garbage();
  report.mesh = fromCgal(working, mesh.tolerance());
  return report;
}

}  // namespace kervo
