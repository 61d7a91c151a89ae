#include "geom/surface/region_plans.h"

#include <GeomAdaptor_Surface.hxx>
#include <algorithm>

#include "geom/kernel/convert.h"
#include "geom/kernel/elementary.h"
#include "geom/surface/fitted_surface.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

class Planner {
 public:
  Planner(const Mesh& mesh, const MeshRegions& regions, const RegionBorders& borders)
      : mesh_(mesh),
        regions_(regions),
        borders_(borders),
        nextCorner_(static_cast<std::uint32_t>(mesh.points().size())) {
    result_.regions.resize(regions.regions.size());
    result_.breaks.resize(borders.borders.size());
  }

  RegionPlans result() {
    UnmadeRegions::forEach(regions_.regions.size(), [&](std::size_t i) {
      if (!regions_.regions[i].surface.IsNull()) plan(static_cast<std::uint32_t>(i));
    });
    return std::move(result_);
  }

 private:
  const Point& cornerOf(std::uint32_t triangle, std::size_t i) const {
    return mesh_.points()[mesh_.triangles()[triangle][i]];
  }

  /// The region's borders as loops, with it on their left as seen from outside.
  std::vector<BorderLoop> loopsOf(std::uint32_t region) const {
    std::multimap<std::uint32_t, BorderUse> begins;
    std::size_t left = 0;
    for (std::size_t i = 0; i < borders_.borders.size(); ++i) {
      const RegionBorder& border = borders_.borders[i];
      if (border.left == region) begins.emplace(border.from, BorderUse{i, true}), ++left;
      if (border.right == region) begins.emplace(border.to, BorderUse{i, false}), ++left;
    }
    std::vector<BorderLoop> loops;
    while (left > 0) {
      BorderLoop& loop = loops.emplace_back();
      const std::uint32_t start = begins.begin()->first;
      for (std::uint32_t at = start; loop.empty() || at != start; --left) {
        const auto next = begins.find(at);
        if (next == begins.end()) throw UnmadeRegion{region};
        loop.push_back(next->second);
        const RegionBorder& border = borders_.borders[next->second.border];
        at = next->second.forward ? border.to : border.from;
        begins.erase(next);
      }
    }
    return loops;
  }

  /// Whether a ray from a sphere's centre, or a tip, meets the region.
  bool covers(std::uint32_t region, const Handle(Geom_ElementarySurface) & surface, const gp_Pnt& pole) const {
    const GeomAdaptor_Surface adaptor(surface);
    const Point place = fromPnt(pole);
    if (adaptor.GetType() == GeomAbs_Cone) {
      constexpr double atTip = 1e-2;
      for (const std::uint32_t triangle : regions_.regions[region].triangles)
        for (std::size_t i = 0; i < 3; ++i)
          if (distance(cornerOf(triangle, i), place) < atTip) return true;
      return false;
    }
    const Point centre = fromPnt(adaptor.Sphere().Location());
    const Vector way = place - centre;
    for (const std::uint32_t triangle : regions_.regions[region].triangles) {
      const Vector a = cornerOf(triangle, 0) - centre, b = cornerOf(triangle, 1) - centre,
                   c = cornerOf(triangle, 2) - centre;
      const double whole = dot(a, cross(b, c)), u = dot(way, cross(b, c)), v = dot(a, cross(way, c)),
                   w = dot(a, cross(b, way));
      if (u * whole >= 0 && v * whole >= 0 && w * whole >= 0) return true;
    }
    return false;
  }

  /// The surface with axes to be tried: those of a sphere may be any.
  std::vector<Handle(Geom_ElementarySurface)> withAxes(std::uint32_t region,
                                                       const std::vector<BorderLoop>& loops) const {
    const Handle(Geom_ElementarySurface)& given = regions_.regions[region].surface;
    const GeomAdaptor_Surface adaptor(given);
    if (adaptor.GetType() != GeomAbs_Sphere) return {given};
    const Point centre = fromPnt(adaptor.Sphere().Location());
    std::vector<Vector> poles;
    for (const BorderLoop& loop : loops) {
      std::vector<Point> points;
      Vector mean;
      for (const BorderUse& use : loop)
        for (int i = 0; i <= 16; ++i) {
          const RegionBorder& border = borders_.borders[use.border];
          points.push_back(fromPnt(border.curve->Value(border.first + (border.last - border.first) * i / 16)));
          mean = mean + (points.back() - centre);
        }
      if (const auto circle = fittedCircle(points); circle && circle->off < tolerance::looseEdge)
        poles.push_back(circle->axes.normal);
      if (length(mean) > tolerance::smallestSize) {
        poles.push_back(normalized(mean));
        const Plane across = Plane::through(centre, mean);
        for (const Vector& way : {across.x, across.y, across.x + across.y, across.x - across.y}) poles.push_back(way);
      }
    }
    for (const Vector& way : {Vector{0, 0, 1}, Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{1, 1, 1}}) poles.push_back(way);
    std::vector<Handle(Geom_ElementarySurface)> result;
    for (const Vector& pole : poles) {
      const Handle(Geom_ElementarySurface) turned = Handle(Geom_ElementarySurface)::DownCast(given->Copy());
      turned->SetPosition(gp_Ax3(toPnt(centre), toDir(pole), toDir(Plane::through(centre, pole).x)));
      result.push_back(turned);
    }
    return result;
  }

  /// Whether the surface's own normal shows into the body.
  bool flipsOf(std::uint32_t region) const {
    const GeomAdaptor_Surface adaptor(regions_.regions[region].surface);
    double largest = 0, side = 1;
    for (const std::uint32_t triangle : regions_.regions[region].triangles) {
      const Point &a = cornerOf(triangle, 0), &b = cornerOf(triangle, 1), &c = cornerOf(triangle, 2);
      const Vector across = cross(b - a, c - a);
      if (length(across) <= largest) continue;
      largest = length(across);
      const gp_Pnt2d at = parametersOn(adaptor, toPnt(a + ((b - a) + (c - a)) * (1.0 / 3))).value_or(gp_Pnt2d());
      gp_Pnt point;
      gp_Vec du, dv;
      adaptor.D1(at.X(), at.Y(), point, du, dv);
      side = dot(fromVec(du.Crossed(dv)), across);
    }
    return side < 0;
  }

  void plan(std::uint32_t region) {
    PlannedRegion& planned = result_.regions[region];
    planned.loops = loopsOf(region);
    planned.flips = flipsOf(region);
    if (GeomAdaptor_Surface(regions_.regions[region].surface).GetType() == GeomAbs_Plane) return;
    if (planned.flips)
      for (BorderLoop& loop : planned.loops) {
        std::reverse(loop.begin(), loop.end());
        for (BorderUse& use : loop) use.forward = !use.forward;
      }
    for (const Handle(Geom_ElementarySurface) & surface : withAxes(region, planned.loops)) {
      planned.plan =
          planOf(surface, planned.loops, borders_, [&](const gp_Pnt& pole) { return covers(region, surface, pole); });
      if (!planned.plan) continue;
      for (BorderPlace& place : planned.plan->crossings) {
        if (!place.corner) {
          place.corner = nextCorner_;
          result_.breaks[place.border].emplace_back(place.at, nextCorner_++);
        }
        planned.plan->corners.push_back(place.corner.value_or(nextCorner_));
      }
      return;
    }
    throw UnmadeRegion{region};
  }

  const Mesh& mesh_;
  const MeshRegions& regions_;
  const RegionBorders& borders_;
  std::uint32_t nextCorner_;
  RegionPlans result_;
};

}  // namespace

RegionPlans plansOf(const Mesh& mesh, const MeshRegions& regions, const RegionBorders& borders) {
  return Planner(mesh, regions, borders).result();
}

}  // namespace kervo
