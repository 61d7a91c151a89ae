#include "geom/mesh/mesh_offset.h"

#include <CGAL/AABB_traits.h>
#include <CGAL/AABB_tree.h>
#include <CGAL/AABB_triangle_primitive.h>
#include <CGAL/Simple_cartesian.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <unordered_map>

#include "base/error.h"
#include "base/parallel.h"
#include "base/quantity.h"
#include "base/say.h"
#include "geom/mesh/mesh_edges.h"
#include "geom/mesh/mesh_size.h"

namespace kervo {

namespace {

using Space = CGAL::Simple_cartesian<double>;
using Triangles = std::vector<Space::Triangle_3>;
using Primitive = CGAL::AABB_triangle_primitive<Space, Triangles::const_iterator>;
using Tree = CGAL::AABB_tree<CGAL::AABB_traits<Space, Primitive>>;

}  // namespace

struct MeshDistance::Inside {
  explicit Inside(const Mesh& of) : mesh(of), edges(of.points().size(), of.triangles()), atPoints(of.points().size()) {}

  Point point(std::uint32_t triangle, std::size_t corner) const {
    return mesh.points()[mesh.triangles()[triangle][corner]];
  }

  Mesh mesh;
  MeshEdges edges;
  Triangles triangles;
  Tree tree;
  std::vector<Vector> normals;   ///< of triangles, unit length
  std::vector<Vector> atPoints;  ///< of all triangles round a point, by their angles there
};

MeshDistance::MeshDistance(const Mesh& mesh) : inside_(std::make_unique<Inside>(mesh)) {
  const auto count = static_cast<std::uint32_t>(mesh.triangles().size());
  const auto at = [](Point point) { return Space::Point_3(point.x, point.y, point.z); };
  for (std::uint32_t t = 0; t < count; ++t) {
    const std::array<Point, 3> corners{inside_->point(t, 0), inside_->point(t, 1), inside_->point(t, 2)};
    inside_->triangles.emplace_back(at(corners[0]), at(corners[1]), at(corners[2]));
    const Vector across = cross(corners[1] - corners[0], corners[2] - corners[0]);
    inside_->normals.push_back(length(across) > 0 ? normalized(across) : Vector());
    for (std::size_t i = 0; i < 3; ++i) {
      const Vector a = corners[(i + 1) % 3] - corners[i], b = corners[(i + 2) % 3] - corners[i];
      Vector& sum = inside_->atPoints[mesh.triangles()[t][i]];
      sum = sum + inside_->normals.back() * std::atan2(length(cross(a, b)), dot(a, b));
    }
  }
  inside_->tree.rebuild(inside_->triangles.cbegin(), inside_->triangles.cend());
  inside_->tree.build();
  inside_->tree.accelerate_distance_queries();
}

MeshDistance::~MeshDistance() = default;

// Which side it is on is told by the normal where it is nearest; over edges and corners by the sum of the normals round
// them, weighted by angles. Source: J. A. Bærentzen, H. Aanæs, "Signed distance computation using the angle weighted
// pseudonormal", IEEE Transactions on Visualization and Computer Graphics 11 (2005).
double MeshDistance::inside(Point place, Hint& hint) const {
  const Space::Point_3 query(place.x, place.y, place.z);
  const auto [nearest, primitive] =
      hint.known ? inside_->tree.closest_point_and_primitive(query, {Space::Point_3(hint.at.x, hint.at.y, hint.at.z),
                                                                     inside_->triangles.cbegin() + hint.triangle})
                 : inside_->tree.closest_point_and_primitive(query);
  const auto t = static_cast<std::uint32_t>(primitive - inside_->triangles.cbegin());
  hint = {{nearest.x(), nearest.y(), nearest.z()}, t, true};
  const Mesh::Triangle& corners = inside_->mesh.triangles()[t];
  const Point on{nearest.x(), nearest.y(), nearest.z()};
  const std::array<Point, 3> at{inside_->point(t, 0), inside_->point(t, 1), inside_->point(t, 2)};
  // On a corner, on an edge, or amid the triangle. Near an edge its normal is right as well.
  constexpr double near = 1e-6;
  Vector normal = inside_->normals[t];
  double closest = near;
  bool corner = false;
  for (std::size_t i = 0; i < 3; ++i)
    if (distance(on, at[i]) < closest) {
      closest = distance(on, at[i]);
      normal = inside_->atPoints[corners[i]];
      corner = true;
    }
  for (std::size_t i = 0; i < 3 && !corner; ++i) {
    const Vector edge = at[(i + 1) % 3] - at[i];
    const double off = length(edge) > 0 ? length(cross(edge, on - at[i])) / length(edge) : 0;
    if (off >= closest || !inside_->edges.joins(corners[i], corners[(i + 1) % 3])) continue;
    closest = off;
    normal = inside_->normals[t] + inside_->normals[inside_->edges.triangleOf(corners[(i + 1) % 3], corners[i])];
  }
  const Vector way = place - on;
  return dot(way, normal) > 0 ? -length(way) : length(way);
}

namespace {

/// A place on the grid.
using Knot = std::array<int, 3>;

struct HashOfKnots {
  std::size_t operator()(const std::array<std::uint64_t, 2>& edge) const {
    constexpr std::uint64_t spread = 0x9E3779B97F4A7C15ULL;
    return static_cast<std::size_t>((edge[0] * spread) ^ (edge[1] + spread + (edge[0] << 6U) + (edge[0] >> 2U)));
  }
};

/// Where the distance is `by`, on a grid, by marching through tetrahedra: closed, and never through itself.
class LevelSurface {
 public:
  LevelSurface(const Mesh& mesh, double by, Progress& progress) : distance_(mesh), by_(by), progress_(progress) {
    cell_ = std::abs(by) / cellsInDistance;
    Box box = mesh.box().enlarged(by < 0 ? -by + cell_ : cell_);
    const Vector size = box.high - box.low;
    // As fine as wanted, unless that would be too many.
    const double blocks = size.x * size.y * size.z / std::pow(cell_ * perBlock, 3);
    if (blocks > mostBlocks)
      throw Error(say("a wall of %1 mm is too thin for a mesh of that size", formatNumber(std::abs(by), 6)), "",
                  say("Make it thicker, or cut the body into pieces first"));
    origin_ = box.low;
    for (std::size_t i = 0; i < 3; ++i) {
      const std::array<double, 3> sizes{size.x, size.y, size.z};
      count_[i] = std::max(1, static_cast<int>(std::ceil(sizes[i] / (cell_ * perBlock))));
    }
  }

  Mesh result() {
    const std::size_t blocks =
        static_cast<std::size_t>(count_[0]) * static_cast<std::size_t>(count_[1]) * static_cast<std::size_t>(count_[2]);
    std::vector<std::vector<Corner>> corners(blocks);
    std::atomic<std::size_t> done = 0;
    inParallel(blocks, [&](std::size_t block) {
      progress_.throwIfStopped();
      corners[block] = march(block);
      ++done;
    });
    std::vector<Point> points;
    std::vector<Mesh::Triangle> triangles;
    std::unordered_map<std::array<std::uint64_t, 2>, std::uint32_t, HashOfKnots> numbers;
    for (const std::vector<Corner>& block : corners)
      for (std::size_t i = 0; i + 2 < block.size(); i += 3) {
        Mesh::Triangle triangle{};
        for (std::size_t k = 0; k < 3; ++k) {
          const auto [its, isNew] = numbers.try_emplace(block[i + k].edge, static_cast<std::uint32_t>(points.size()));
          if (isNew) points.push_back(block[i + k].place);
          triangle[k] = its->second;
        }
        triangles.push_back(triangle);
      }
    return triangles.empty() ? Mesh() : Mesh(std::move(points), std::move(triangles));
  }

  double inside(Point place) const { return distance_.inside(place); }

 private:
  /// A corner of a triangle, on an edge between two knots.
  struct Corner {
    std::array<std::uint64_t, 2> edge;
    Point place;
  };

  static constexpr double cellsInDistance = 3;
  static constexpr int perBlock = 8;
  static constexpr double mostBlocks = 400'000;

  Point placeOf(const Knot& knot) const { return origin_ + Vector{knot[0] * cell_, knot[1] * cell_, knot[2] * cell_}; }
  std::uint64_t numberOf(const Knot& knot) const {
    const auto across = static_cast<std::uint64_t>(count_[0]) * perBlock + 1,
               deep = static_cast<std::uint64_t>(count_[1]) * perBlock + 1;
    return static_cast<std::uint64_t>(knot[0]) +
           across * (static_cast<std::uint64_t>(knot[1]) + deep * static_cast<std::uint64_t>(knot[2]));
  }
  /// Above zero inside of what is wanted; never zero.
  double valueAt(Point place, MeshDistance::Hint& hint) const {
    const double value = distance_.inside(place, hint) - by_;
    return value == 0 ? 1e-300 : value;
  }

  /// Of the knots of a block.
  struct Values {
    static constexpr int side = perBlock + 1;

    explicit Values(const Knot& from)
        : first(from), all(static_cast<std::size_t>(side) * side * side, 0.0), exact(all.size(), false) {}
    std::size_t numberOf(int x, int y, int z) const {
      const int number = x + side * (y + side * z);
      return static_cast<std::size_t>(number);
    }
    double& at(int x, int y, int z) { return all[numberOf(x, y, z)]; }

    Knot first;
    std::vector<double> all;
    std::vector<bool> exact;
    MeshDistance::Hint hint;
  };

  /// The values of a cube of knots: exact where the surface may be near, elsewhere only their sides. False if it is not
  /// in the cube: a distance changes by no more than the way one goes.
  bool evaluate(Values& values, const Knot& from, int size) const {
    constexpr int smallest = 2;
    const double half = cell_ * size / 2;
    const Point corner = placeOf({values.first[0] + from[0], values.first[1] + from[1], values.first[2] + from[2]});
    const double middle = valueAt(corner + Vector{half, half, half}, values.hint);
    const bool near = std::abs(middle) <= half * std::sqrt(3.0);
    if (near && size > smallest) {
      const int less = size / 2;
      for (int i = 0; i < 8; ++i)
        evaluate(values, {from[0] + less * (i & 1), from[1] + less * ((i >> 1) & 1), from[2] + less * ((i >> 2) & 1)},
                 less);
      return true;
    }
    for (int z = from[2]; z <= from[2] + size; ++z)
      for (int y = from[1]; y <= from[1] + size; ++y)
        for (int x = from[0]; x <= from[0] + size; ++x) {
          const std::size_t number = values.numberOf(x, y, z);
          if (values.exact[number]) continue;
          // Those that other blocks have too are asked for without a hint, so that all find the very same.
          const auto outer = [](int at) { return at == 0 || at == perBlock; };
          MeshDistance::Hint none;
          MeshDistance::Hint& hint = outer(x) || outer(y) || outer(z) ? none : values.hint;
          const Knot knot{values.first[0] + x, values.first[1] + y, values.first[2] + z};
          values.all[number] = near ? valueAt(placeOf(knot), hint) : middle;
          values.exact[number] = near;
        }
    return near;
  }

  /// Three corners a triangle.
  std::vector<Corner> march(std::size_t block) const {
    const auto across = static_cast<std::size_t>(count_[0]), deep = static_cast<std::size_t>(count_[1]);
    const Knot first{static_cast<int>(block % across) * perBlock, static_cast<int>(block / across % deep) * perBlock,
                     static_cast<int>(block / (across * deep)) * perBlock};
    std::vector<Corner> corners;
    Values values(first);
    if (!evaluate(values, {0, 0, 0}, perBlock)) return corners;
    for (int z = 0; z < perBlock; ++z)
      for (int y = 0; y < perBlock; ++y)
        for (int x = 0; x < perBlock; ++x) {
          std::array<Knot, 8> knots{};
          std::array<double, 8> value{};
          bool in = false, out = false;
          for (int i = 0; i < 8; ++i) {
            const int dx = i & 1, dy = (i >> 1) & 1, dz = (i >> 2) & 1;
            const auto n = static_cast<std::size_t>(i);
            knots[n] = {first[0] + x + dx, first[1] + y + dy, first[2] + z + dz};
            value[n] = values.at(x + dx, y + dy, z + dz);
            (value[n] > 0 ? in : out) = true;
          }
          if (in && out) cut(knots, value, values.hint, corners);
        }
    return corners;
  }

  /// The six tetrahedra round the cube's diagonal; those of neighbours fit.
  void cut(const std::array<Knot, 8>& knots, const std::array<double, 8>& value, MeshDistance::Hint& hint,
           std::vector<Corner>& corners) const {
    static constexpr std::array<std::array<std::size_t, 4>, 6> tetrahedra{
        {{0, 1, 3, 7}, {0, 3, 2, 7}, {0, 2, 6, 7}, {0, 6, 4, 7}, {0, 4, 5, 7}, {0, 5, 1, 7}}};
    for (const auto& tetrahedron : tetrahedra) {
      std::vector<std::size_t> in, out;
      for (const std::size_t i : tetrahedron) (value[i] > 0 ? in : out).push_back(i);
      if (in.empty() || out.empty()) continue;
      const auto between = [&](std::size_t a, std::size_t b) { return cornerBetween(knots, value, a, b, hint); };
      if (in.size() == 1 || out.size() == 1) {
        const std::size_t one = in.size() == 1 ? in[0] : out[0];
        const std::vector<std::size_t>& others = in.size() == 1 ? out : in;
        add({between(one, others[0]), between(one, others[1]), between(one, others[2])}, knots, in, out, corners);
      } else {
        const Corner a = between(in[0], out[0]), b = between(in[0], out[1]), c = between(in[1], out[1]),
                     d = between(in[1], out[0]);
        add({a, b, c}, knots, in, out, corners);
        add({a, c, d}, knots, in, out, corners);
      }
    }
  }

  /// Turned so that it looks from inside to outside. Told by the knots, not by the triangle, which may be very small.
  void add(std::array<Corner, 3> triangle, const std::array<Knot, 8>& knots, const std::vector<std::size_t>& in,
           const std::vector<std::size_t>& out, std::vector<Corner>& corners) const {
    // With the corners amid their edges, the triangle has a clear side.
    const auto amid = [&](const Corner& corner) {
      Vector sum;
      int count = 0;
      for (const Knot& knot : knots)
        if (numberOf(knot) == corner.edge[0] || numberOf(knot) == corner.edge[1]) {
          sum = sum + Vector{double(knot[0]), double(knot[1]), double(knot[2])};
          ++count;
        }
      return sum * (1.0 / count);
    };
    const Vector a = amid(triangle[0]), b = amid(triangle[1]), c = amid(triangle[2]);
    Vector outwards;
    for (const std::size_t o : out)
      for (const std::size_t i : in)
        outwards = outwards + Vector{double(knots[o][0] - knots[i][0]), double(knots[o][1] - knots[i][1]),
                                     double(knots[o][2] - knots[i][2])};
    if (dot(cross(b - a, c - a), outwards) < 0) std::swap(triangle[1], triangle[2]);
    corners.insert(corners.end(), triangle.begin(), triangle.end());
  }

  /// Where the distance is right, by false position from the knots' values.
  Corner cornerBetween(const std::array<Knot, 8>& knots, const std::array<double, 8>& value, std::size_t a,
                       std::size_t b, MeshDistance::Hint& hint) const {
    // Always from the same end, so that neighbours find the very same place.
    if (numberOf(knots[b]) < numberOf(knots[a])) std::swap(a, b);
    const Point from = placeOf(knots[a]), to = placeOf(knots[b]);
    double low = 0, high = 1, atLow = value[a], atHigh = value[b], at = 0.5;
    constexpr int mostSteps = 8;
    const double enough = 1e-3 * std::abs(by_) / 4;
    for (int i = 0; i < mostSteps; ++i) {
      at = low + (high - low) * atLow / (atLow - atHigh);
      const double found = valueAt(from + (to - from) * at, hint);
      if (std::abs(found) < enough) break;
      if ((found > 0) == (atLow > 0)) {
        low = at;
        atLow = found;
        atHigh /= 2;
      } else {
        high = at;
        atHigh = found;
        atLow /= 2;
      }
    }
    // Clear of the knots, so that no triangle has two corners in one place.
    constexpr double least = 1e-4;
    at = std::clamp(at, least, 1 - least);
    return {{numberOf(knots[a]), numberOf(knots[b])}, from + (to - from) * at};
  }

  MeshDistance distance_;
  double by_;
  Progress& progress_;
  double cell_ = 0;
  Point origin_;
  std::array<int, 3> count_{};
};

}  // namespace

Mesh offsetMesh(const Mesh& mesh, double by, Progress& progress) {
  if (!mesh.watertight()) throw Error(say("the mesh is not closed: it has no inside"), "", say("Repair it first"));
  LevelSurface level(mesh, by, progress);
  const Mesh fine = level.result();
  if (fine.empty()) return {};
  // Fewer triangles where it is flat, off by no more than it may be.
  constexpr double share = 2e-3;
  const Mesh coarse = reduced(fine, share * std::abs(by), progress);
  double off = 0;
  for (const Mesh::Triangle& corners : coarse.triangles()) {
    const std::vector<Point>& points = coarse.points();
    const Point middle = (points[corners[0]] + points[corners[1]] + points[corners[2]]) * (1.0 / 3);
    off = std::max(off, std::abs(level.inside(middle) - by));
  }
  Mesh::Extra extra = coarse.extra();
  extra.tolerance = mesh.tolerance() + off;
  return coarse.with(std::move(extra));
}

}  // namespace kervo
