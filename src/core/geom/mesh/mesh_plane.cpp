// Points nearer to the plane than rounding lie in it. Triangles that cross it are divided along it; those that lie in
// it bound the side that they are seen from the other of. What then lacks a neighbour in the plane runs round the cut,
// which is filled with triangles once, and used for both sides.
#include "geom/mesh/mesh_plane.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <unordered_map>

#include "base/error.h"
#include "base/say.h"
#include "geom/mesh/mesh_edges.h"
#include "geom/mesh/mesh_pieces.h"
#include "geom/mesh/planar_triangles.h"

namespace kervo {

namespace {

class PlaneCut {
 public:
  /// `nearest`: mm within which a point is taken to lie in the plane.
  PlaneCut(const Mesh& mesh, const Plane& plane, double nearest) : mesh_(mesh), plane_(plane), points_(mesh.points()) {
    side_.reserve(points_.size());
    for (const Point& point : points_) {
      const double above = plane.signedDistance(point);
      side_.push_back(above > nearest ? 1 : above < -nearest ? -1 : 0);
    }
  }

  /// Nothing if the cut cannot be filled.
  std::optional<MeshHalves> run() {
    crossing_.reserve(4 * static_cast<std::size_t>(std::sqrt(static_cast<double>(mesh_.triangles().size()))));
    for (std::uint32_t t = 0; t < mesh_.triangles().size(); ++t) divide(t);
    MeshHalves halves;
    if (front_.triangles.empty() || back_.triangles.empty()) {
      (back_.triangles.empty() ? halves.front : halves.back) = mesh_;
      return halves;
    }
    if (mesh_.watertight() && !close()) return std::nullopt;
    halves.front = front_.mesh(points_, mesh_);
    halves.back = back_.mesh(points_, mesh_);
    if (mesh_.watertight() && !(halves.front.watertight() && halves.back.watertight())) return std::nullopt;
    return halves;
  }

 private:
  struct Half {
    std::vector<Mesh::Triangle> triangles;
    std::vector<Paint> paints;

    Mesh mesh(const std::vector<Point>& points, const Mesh& whole) const {
      const bool painted = !whole.paints().empty();
      const Mesh all(points, triangles, {painted ? paints : std::vector<Paint>(), whole.tolerance()});
      return someOf(all, std::vector<bool>(triangles.size(), true));
    }
  };

  void add(Half& half, const Mesh::Triangle& triangle, std::uint32_t from) {
    half.triangles.push_back(triangle);
    half.paints.push_back(mesh_.paints().empty() ? 0 : mesh_.paints()[from]);
  }

  void divide(std::uint32_t t) {
    const Mesh::Triangle& corners = mesh_.triangles()[t];
    const std::array<int, 3> side{side_[corners[0]], side_[corners[1]], side_[corners[2]]};
    const int high = std::max({side[0], side[1], side[2]}), low = std::min({side[0], side[1], side[2]});
    if (high == 0 && low == 0) {
      const Vector across = cross(points_[corners[1]] - points_[corners[0]], points_[corners[2]] - points_[corners[0]]);
      return add(dot(across, plane_.normal) > 0 ? back_ : front_, corners, t);
    }
    if (low >= 0) return add(front_, corners, t);
    if (high <= 0) return add(back_, corners, t);
    // One corner alone on its side, or in the plane with the other two beside it.
    for (std::size_t i = 0; i < 3; ++i) {
      const std::size_t j = (i + 1) % 3, k = (i + 2) % 3;
      if (side[i] == 0 && side[j] * side[k] < 0) {
        const std::uint32_t cut = crossingOf(corners[j], corners[k]);
        add(halfOf(side[j]), {corners[i], corners[j], cut}, t);
        add(halfOf(side[k]), {corners[i], cut, corners[k]}, t);
        return;
      }
      if (side[i] * side[j] < 0 && side[i] * side[k] < 0) {
        const std::uint32_t first = crossingOf(corners[i], corners[j]), second = crossingOf(corners[k], corners[i]);
        add(halfOf(side[i]), {corners[i], first, second}, t);
        add(halfOf(side[j]), {first, corners[j], corners[k]}, t);
        add(halfOf(side[j]), {first, corners[k], second}, t);
        return;
      }
    }
  }

  Half& halfOf(int side) { return side > 0 ? front_ : back_; }

  std::uint32_t crossingOf(std::uint32_t a, std::uint32_t b) {
    // The same place from both sides of the edge.
    if (a > b) std::swap(a, b);
    const auto [found, isNew] = crossing_.try_emplace(std::uint64_t{a} << 32U | b, 0U);
    if (isNew) {
      const double atA = plane_.signedDistance(points_[a]), atB = plane_.signedDistance(points_[b]);
      found->second = static_cast<std::uint32_t>(points_.size());
      points_.push_back(points_[a] + (points_[b] - points_[a]) * (atA / (atA - atB)));
      side_.push_back(0);
    }
    return found->second;
  }

  /// Fills the cut. Its border is what the front's triangles run along in the plane without a neighbour.
  bool close() {
    const auto border = borderOf(front_);
    if (border.empty()) return true;
    std::map<std::uint32_t, int> number;
    std::vector<PlanePoint> flat;
    std::vector<std::uint32_t> original;
    const auto numberOf = [&](std::uint32_t point) {
      const auto [found, isNew] = number.try_emplace(point, static_cast<int>(flat.size()));
      if (isNew) {
        const Point local = plane_.coordinates(points_[point]);
        flat.push_back({local.x, local.y});
        original.push_back(point);
      }
      return found->second;
    };
    std::vector<std::vector<int>> lines;
    for (const auto& [from, to] : border) lines.push_back({numberOf(from), numberOf(to)});
    const auto filling = planarTriangles(flat, lines);
    if (!filling) return false;
    for (const Triangle& triangle : *filling) {
      const auto at = [&](std::size_t k) { return original[static_cast<std::size_t>(triangle[k])]; };
      // Seen from below, the front's floor.
      front_.triangles.push_back({at(0), at(2), at(1)});
      back_.triangles.push_back({at(0), at(1), at(2)});
      front_.paints.push_back(0);
      back_.paints.push_back(0);
    }
    return true;
  }

  std::vector<std::pair<std::uint32_t, std::uint32_t>> borderOf(const Half& half) const {
    std::vector<std::pair<std::uint32_t, std::uint32_t>> result;
    std::unordered_multimap<std::uint64_t, bool> runs;
    const auto key = [](std::uint32_t a, std::uint32_t b) { return std::uint64_t{a} << 32U | b; };
    for (const Mesh::Triangle& triangle : half.triangles)
      for (std::size_t i = 0; i < 3; ++i) {
        const std::uint32_t a = triangle[i], b = triangle[(i + 1) % 3];
        if (side_[a] != 0 || side_[b] != 0) continue;
        if (const auto back = runs.find(key(b, a)); back != runs.end())
          runs.erase(back);
        else
          runs.emplace(key(a, b), true);
      }
    result.reserve(runs.size());
    for (const auto& [edge, once] : runs)
      result.emplace_back(static_cast<std::uint32_t>(edge >> 32U), static_cast<std::uint32_t>(edge));
    std::sort(result.begin(), result.end());
    return result;
  }

  const Mesh& mesh_;
  const Plane& plane_;
  std::vector<Point> points_;
  std::vector<int> side_;  ///< of each point: above 1, below -1, in the plane 0
  std::unordered_map<std::uint64_t, std::uint32_t> crossing_;
  Half front_, back_;
};

}  // namespace

MeshHalves splitByPlane(const Mesh& mesh, const Plane& plane) {
  if (mesh.empty()) return {};
  const double size = std::max(1e-3, mesh.box().diagonal() + length(mesh.box().centre() - plane.origin));
  // Points all but in the plane make slivers that rounding turns over; they are taken to lie in it then.
  for (const double nearest : {1e-12, 1e-9, 1e-7})
    if (auto halves = PlaneCut(mesh, plane, nearest * size).run()) return *std::move(halves);
  throw Error(say("the mesh runs through itself where the plane cuts it"), "",
              say("Repair the mesh, or move the plane a little"));
}

}  // namespace kervo
