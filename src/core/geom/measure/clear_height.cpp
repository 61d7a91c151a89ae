#include "geom/measure/clear_height.h"

#include <Poly_Triangulation.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "geom/display/face_meshes.h"
#include "geom/kernel/convert.h"
#include "geom/planes.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// A triangle from above: places in the plane, and heights over it.
struct Tile {
  std::array<PlanePoint, 3> at;  ///< counter-clockwise
  std::array<double, 3> height;

  double heightAt(PlanePoint p) const {
    const double area = cross(at[1] - at[0], at[2] - at[0]);
    const double b = cross(p - at[0], at[2] - at[0]) / area, c = cross(at[1] - at[0], p - at[0]) / area;
    return height[0] + b * (height[1] - height[0]) + c * (height[2] - height[0]);
  }
};

/// Those triangles of a shape that lean by less than the angle of this cosine, and look up (or down).
std::vector<Tile> tilesOf(const Shape& shape, const Plane& ground, bool lookUp, double leastCosine,
                          Progress& progress) {
  std::vector<Tile> result;
  const ShapeMeshes meshes = meshFaces(shape, {1, 0.2}, progress);
  const Skeleton& skeleton = skeletonOf(shape);
  for (std::size_t n = 0; n < meshes.faces.size(); ++n) {
    const auto& mesh = meshes.faces[n];
    if (mesh.IsNull()) continue;
    for (int i = 1; i <= mesh->NbTriangles(); ++i) {
      std::array<int, 3> corners{};
      mesh->Triangle(i).Get(corners[0], corners[1], corners[2]);
      std::array<Vector, 3> in;
      for (std::size_t k = 0; k < 3; ++k)
        in[k] = ground.coordinates(fromPnt(mesh->Node(corners[k]).Transformed(meshes.places[n].Transformation())));
      const bool reversed = skeleton.faces[n].Orientation() == TopAbs_REVERSED;
      const Vector across = cross(in[1] - in[0], in[2] - in[0]) * (reversed ? -1 : 1);
      const double size = length(across);
      if (size < tolerance::point * tolerance::point || std::abs(across.z) < leastCosine * size ||
          (across.z > 0) != lookUp)
        continue;
      if ((across.z < 0) != reversed) std::swap(in[1], in[2]);
      result.push_back(
          {{PlanePoint{in[0].x, in[0].y}, {in[1].x, in[1].y}, {in[2].x, in[2].y}}, {in[0].z, in[1].z, in[2].z}});
    }
  }
  return result;
}

/// What two triangles have in common in the plane.
std::vector<PlanePoint> commonOf(const Tile& a, const Tile& b) {
  std::vector<PlanePoint> polygon(a.at.begin(), a.at.end());
  for (std::size_t side = 0; side < 3 && !polygon.empty(); ++side) {
    const PlanePoint from = b.at[side], along = b.at[(side + 1) % 3] - from;
    std::vector<PlanePoint> inside;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
      const PlanePoint p = polygon[i], q = polygon[(i + 1) % polygon.size()];
      const double left = cross(along, p - from), next = cross(along, q - from);
      if (left >= 0) inside.push_back(p);
      if ((left < 0) != (next < 0)) inside.push_back(p + (q - p) * (left / (left - next)));
    }
    polygon = std::move(inside);
  }
  return polygon;
}

double areaOf(const std::vector<PlanePoint>& polygon) {
  double twice = 0;
  for (std::size_t i = 2; i < polygon.size(); ++i) twice += cross(polygon[i - 1] - polygon[0], polygon[i] - polygon[0]);
  return std::abs(twice) / 2;
}

/// Tiles by the cells of a grid that they lie in.
class TileGrid {
 public:
  TileGrid(const std::vector<Tile>& tiles, double cell) : cell_(cell) {
    for (std::size_t i = 0; i < tiles.size(); ++i)
      forEachCell(tiles[i], [&](std::pair<long, long> cell) { cells_[cell].push_back(i); });
  }

  /// The numbers of those that may lie over a tile, each once.
  std::vector<std::size_t> near(const Tile& tile) const {
    std::vector<std::size_t> result;
    forEachCell(tile, [&](std::pair<long, long> cell) {
      if (const auto found = cells_.find(cell); found != cells_.end())
        result.insert(result.end(), found->second.begin(), found->second.end());
    });
    std::sort(result.begin(), result.end());
    result.erase(std::unique(result.begin(), result.end()), result.end());
    return result;
  }

 private:
  template <class Visit>
  void forEachCell(const Tile& tile, Visit&& visit) const {
    const auto [u0, u1] = std::minmax({tile.at[0].u, tile.at[1].u, tile.at[2].u});
    const auto [v0, v1] = std::minmax({tile.at[0].v, tile.at[1].v, tile.at[2].v});
    const auto cellOf = [&](double at) { return static_cast<long>(std::floor(at / cell_)); };
    for (long i = cellOf(u0); i <= cellOf(u1); ++i)
      for (long j = cellOf(v0); j <= cellOf(v1); ++j) visit({i, j});
  }

  double cell_;
  std::map<std::pair<long, long>, std::vector<std::size_t>> cells_;
};

}  // namespace

std::optional<ClearHeight> clearHeight(const Shape& walked, const std::vector<Shape>& above, Vector up,
                                       Progress& progress) {
  const Plane ground = Plane::through({}, up);
  const double walkable = std::cos(50 * M_PI / 180);
  const std::vector<Tile> floors = tilesOf(walked, ground, true, walkable, progress);
  if (floors.empty()) return std::nullopt;
  std::vector<Tile> ceilings;
  for (const Shape& shape : above)
    for (const Tile& tile : tilesOf(shape, ground, false, tolerance::parallel, progress)) ceilings.push_back(tile);
  constexpr double cells = 40;
  const TileGrid grid(ceilings, std::max(walked.roughBox().diagonal() / cells, 1.0));
  std::optional<ClearHeight> least;
  for (const Tile& floor : floors) {
    progress.throwIfStopped();
    for (const std::size_t number : grid.near(floor)) {
      const Tile& ceiling = ceilings[number];
      const std::vector<PlanePoint> common = commonOf(floor, ceiling);
      // A border in common is not above.
      if (common.size() < 3 || areaOf(common) < tolerance::samplePoint * tolerance::samplePoint) continue;
      for (const PlanePoint& at : common) {
        const double low = floor.heightAt(at), high = ceiling.heightAt(at);
        if (high - low < tolerance::samplePoint || (least && high - low >= least->height)) continue;
        least = ClearHeight{high - low, ground.at(at.u, at.v, low), ground.at(at.u, at.v, high)};
      }
    }
  }
  return least;
}

}  // namespace kervo
