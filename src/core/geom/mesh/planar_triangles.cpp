// Border points of a curve lie on a circle or nearly so, the worst case for a Delaunay triangulation, and there are
// many. Only one every eighth of a turn is therefore triangulated with the others; the triangle beyond each chord then
// gets the points between as a fan. Where an arc does not fit into its triangle, its points are triangulated after all.
#include "geom/mesh/planar_triangles.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_face_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>

#include <algorithm>
#include <cmath>
#include <span>

namespace kervo {

namespace {

using Plane2 = CGAL::Exact_predicates_inexact_constructions_kernel;
using Vertices = CGAL::Triangulation_vertex_base_with_info_2<int, Plane2>;

struct FaceMark {
  enum class Parity : signed char { Unknown, Even, Odd };
  Parity parity = Parity::Unknown;  ///< of the borders between it and the outside
  bool fanned = false;              ///< an arc reaches into it
  bool inside() const { return parity == Parity::Odd; }
};
using Faces =
    CGAL::Constrained_triangulation_face_base_2<Plane2, CGAL::Triangulation_face_base_with_info_2<FaceMark, Plane2>>;
using Triangulation =
    CGAL::Constrained_Delaunay_triangulation_2<Plane2, CGAL::Triangulation_data_structure_2<Vertices, Faces>,
                                               CGAL::No_constraint_intersection_tag>;

/// By how much a curve turns along one chord, in radians, and how many of its segments that are at the most.
constexpr double turnOfChord = 0.8;
constexpr std::size_t mostSegments = 16;

/// A part of a line that is triangulated as one straight segment.
struct Chord {
  std::span<const int> nodes;  ///< with both ends
  bool isArc() const { return nodes.size() > 2; }
};

class Border {
 public:
  Border(const std::vector<PlanePoint>& points, const std::vector<std::vector<int>>& lines)
      : points_(points), lines_(lines) {}

  std::optional<std::vector<Triangle>> triangles() {
    addChords(mostSegments);
    if (triangulate())
      if (auto result = withArcs()) return result;
    // Chords may cross where the lines do not.
    addChords(1);
    if (!triangulate()) return std::nullopt;
    return withArcs();
  }

 private:
  /// A chord's nodes, the way round that has the arc to its left, and the triangle that it lies in.
  struct Arc {
    std::vector<int> nodes;
    Triangulation::Face_handle face;
    int apex = -1;
  };

  /// Nothing if a line crosses the chord of another.
  std::optional<std::vector<Triangle>> withArcs() {
    while (true) {
      markInside();
      std::vector<Arc> arcs;
      std::vector<Chord> fit, unfit;
      for (const Chord& chord : chords_) {
        if (!chord.isArc()) continue;
        std::optional<Arc> arc = fitted(chord);
        (arc ? fit : unfit).push_back(chord);
        if (arc) arcs.push_back(std::move(*arc));
      }
      if (unfit.empty()) return collected(arcs);
      // This ends: there are fewer arcs each time.
      for (const Chord& chord : unfit)
        if (!refine(chord)) return std::nullopt;
      chords_ = std::move(fit);
    }
  }

  void addChords(std::size_t most) {
    chords_.clear();
    for (const std::vector<int>& line : lines_) {
      const std::size_t segments = line.size() - 1;
      const std::size_t each = std::clamp<std::size_t>(segmentsATurn(line), 1, most);
      // At least three, so that a closed line stays one.
      const std::size_t count = std::min(segments, std::max<std::size_t>(3, (segments + each - 1) / each));
      for (std::size_t i = 0; i < count; ++i) {
        const std::size_t from = i * segments / count, to = (i + 1) * segments / count;
        chords_.push_back({std::span(line).subspan(from, to - from + 1)});
      }
    }
  }

  /// How many segments turn as far as a chord may, judged by the two in the middle.
  std::size_t segmentsATurn(const std::vector<int>& line) const {
    if (line.size() < 3) return 1;
    const std::size_t middle = line.size() / 2;
    const PlanePoint &p = points_[index(line[middle - 1])], &q = points_[index(line[middle])],
                     &r = points_[index(line[middle + 1])];
    const double along = (q.u - p.u) * (r.u - q.u) + (q.v - p.v) * (r.v - q.v);
    const double across = (q.u - p.u) * (r.v - q.v) - (q.v - p.v) * (r.u - q.u);
    const double turned = std::abs(std::atan2(across, along));
    return turned < turnOfChord / mostSegments ? mostSegments : static_cast<std::size_t>(turnOfChord / turned);
  }

  /// False if chords cross, or points are equal.
  bool triangulate() {
    handles_.assign(points_.size(), {});
    std::vector<char> used(points_.size(), 0);
    std::vector<std::pair<Plane2::Point_2, int>> numbered;
    for (const Chord& chord : chords_)
      for (const int node : {chord.nodes.front(), chord.nodes.back()})
        if (!std::exchange(used[index(node)], 1)) numbered.emplace_back(place(node), node);
    triangulation_.clear();
    triangulation_.insert(numbered.begin(), numbered.end());
    // Equal points share a vertex, which has the number of one of them.
    if (triangulation_.number_of_vertices() != numbered.size()) return false;
    for (auto vertex = triangulation_.finite_vertices_begin(); vertex != triangulation_.finite_vertices_end(); ++vertex)
      handles_[index(vertex->info())] = vertex;
    for (const Chord& chord : chords_)
      if (!constrain(chord.nodes.front(), chord.nodes.back())) return false;
    return triangulation_.dimension() == 2;
  }

  bool constrain(int from, int to) {
    try {
      triangulation_.insert_constraint(handle(from), handle(to));
      return true;
    } catch (const Triangulation::Intersection_of_constraints_exception&) {
      return false;
    }
  }

  /// Makes the chord a line through all its nodes. False if that crosses another, or runs through a point.
  bool refine(const Chord& chord) {
    Triangulation::Face_handle face;
    int side = 0;
    if (!triangulation_.is_edge(handle(chord.nodes.front()), handle(chord.nodes.back()), face, side)) return false;
    triangulation_.remove_constrained_edge(face, side);
    for (std::size_t i = 1; i < chord.nodes.size(); ++i) {
      const int from = chord.nodes[i - 1], to = chord.nodes[i];
      if (i + 1 < chord.nodes.size()) {
        const std::size_t before = triangulation_.number_of_vertices();
        handles_[index(to)] = triangulation_.insert(place(to), handle(from)->face());
        if (triangulation_.number_of_vertices() == before) return false;
        handle(to)->info() = to;
      }
      if (!constrain(from, to)) return false;
    }
    return true;
  }

  void markInside() {
    using Parity = FaceMark::Parity;
    for (auto face = triangulation_.all_faces_begin(); face != triangulation_.all_faces_end(); ++face)
      face->info() = FaceMark();
    std::vector<Triangulation::Face_handle> open{triangulation_.infinite_face()};
    triangulation_.infinite_face()->info().parity = Parity::Even;
    while (!open.empty()) {
      const Triangulation::Face_handle face = open.back();
      open.pop_back();
      for (int side = 0; side < 3; ++side) {
        const Triangulation::Face_handle next = face->neighbor(side);
        if (next->info().parity != Parity::Unknown) continue;
        const bool border = triangulation_.is_constrained({face, side});
        next->info().parity = border == face->info().inside() ? Parity::Even : Parity::Odd;
        open.push_back(next);
      }
    }
  }

  /// Nothing if the arc does not lie in the triangle beside its chord, or another one is there.
  std::optional<Arc> fitted(const Chord& chord) {
    Arc arc{{chord.nodes.begin(), chord.nodes.end()}, {}, -1};
    std::vector<int>& nodes = arc.nodes;
    if (turn(nodes.front(), nodes.back(), nodes[nodes.size() / 2]) < 0) std::reverse(nodes.begin(), nodes.end());
    for (std::size_t i = 1; i + 1 < nodes.size(); ++i)
      if (!(turn(nodes.front(), nodes.back(), nodes[i]) > 0)) return std::nullopt;
    int apexAt = 0;
    if (!triangulation_.is_edge(handle(nodes.front()), handle(nodes.back()), arc.face, apexAt)) return std::nullopt;
    if (arc.face->vertex(triangulation_.ccw(apexAt)) != handle(nodes.front())) {
      // That one lies to the right.
      const Triangulation::Face_handle left = arc.face->neighbor(apexAt);
      apexAt = triangulation_.mirror_index(arc.face, apexAt);
      arc.face = left;
    }
    if (!triangulation_.is_infinite(arc.face)) {
      if (std::exchange(arc.face->info().fanned, true)) return std::nullopt;
      arc.apex = arc.face->vertex(apexAt)->info();
      for (std::size_t i = 1; i < nodes.size(); ++i)
        if (!(turn(arc.apex, nodes[i - 1], nodes[i]) > 0)) return std::nullopt;
    }
    if (!arc.face->info().inside())
      for (std::size_t i = 1; i + 1 < nodes.size(); ++i)
        if (!(turn(nodes.front(), nodes[i + 1], nodes[i]) > 0)) return std::nullopt;
    return arc;
  }

  /// A triangle inside loses what lies between its arc and the chord; beside one outside the region gains that.
  std::vector<Triangle> collected(const std::vector<Arc>& arcs) {
    std::vector<Triangle> result;
    result.reserve(2 * points_.size());
    for (const auto& [nodes, face, apex] : arcs) {
      if (face->info().inside())
        for (std::size_t i = 1; i < nodes.size(); ++i) result.push_back({apex, nodes[i - 1], nodes[i]});
      else
        for (std::size_t i = 1; i + 1 < nodes.size(); ++i) result.push_back({nodes.front(), nodes[i + 1], nodes[i]});
    }
    for (auto face = triangulation_.finite_faces_begin(); face != triangulation_.finite_faces_end(); ++face)
      if (face->info().inside() && !face->info().fanned)
        result.push_back({face->vertex(0)->info(), face->vertex(1)->info(), face->vertex(2)->info()});
    return result;
  }

  static std::size_t index(int node) { return static_cast<std::size_t>(node); }
  Triangulation::Vertex_handle handle(int node) const { return handles_[index(node)]; }
  Plane2::Point_2 place(int node) const { return {points_[index(node)].u, points_[index(node)].v}; }

  /// Twice the area of the triangle: positive where c lies to the left of the way from a to b.
  double turn(int a, int b, int c) const {
    const PlanePoint &p = points_[index(a)], &q = points_[index(b)], &r = points_[index(c)];
    return (q.u - p.u) * (r.v - p.v) - (r.u - p.u) * (q.v - p.v);
  }

  const std::vector<PlanePoint>& points_;
  const std::vector<std::vector<int>>& lines_;
  std::vector<Chord> chords_;
  Triangulation triangulation_;
  std::vector<Triangulation::Vertex_handle> handles_;
};

}  // namespace

std::optional<std::vector<Triangle>> planarTriangles(const std::vector<PlanePoint>& points,
                                                     const std::vector<std::vector<int>>& lines) {
  return Border(points, lines).triangles();
}

}  // namespace kervo
