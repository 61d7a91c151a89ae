#include "geom/surface/mesh_regions.h"

#include <GeomAdaptor_Surface.hxx>
#include <Geom_Plane.hxx>
#include <algorithm>
#include <cmath>
#include <map>
#include <queue>
#include <set>

#include "geom/kernel/convert.h"
#include "geom/kernel/elementary.h"
#include "geom/mesh/mesh_edges.h"
#include "geom/surface/fitted_surface.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Triangles that turn by less lie in one plane, radians.
constexpr double flatAngle = 0.009;
/// So many flat parts make a round one, and a surface is sought through so many: few beside a border, more where a few
/// may lie on several surfaces.
constexpr std::size_t fewestParts = 4;
constexpr std::size_t partsToFit[] = {6, 16, 48};
constexpr int enoughFailures = 2;
constexpr std::uint32_t none = ~std::uint32_t{0};

/// A connected flat part.
struct Part {
  std::vector<std::uint32_t> triangles;
  Vector normal;
  double area = 0;
  bool thin = false;                    ///< too narrow to tell where it faces
  std::set<std::uint32_t> smooth = {};  ///< parts beside it at a small angle
  std::uint32_t region = none;
  int failures = 0;  ///< how often no surface was found beside it
};

class Regions {
 public:
  Regions(const Mesh& mesh, const FacetRule& rule)
      : mesh_(mesh), rule_(rule), edges_(mesh.points().size(), mesh.triangles()) {
    // Files of meshes hold coordinates in single precision.
    constexpr double closely = 20, single = 1.2e-7;
    double largest = 0;
    for (const Point& point : {mesh.box().low, mesh.box().high})
      largest = std::max({largest, std::abs(point.x), std::abs(point.y), std::abs(point.z)});
    flat_ = std::max(rule.tolerance / closely, single * largest);
    for (const Mesh::Triangle& triangle : mesh.triangles()) {
      const Point &a = at(triangle, 0), &b = at(triangle, 1), &c = at(triangle, 2);
      const Vector across = cross(b - a, c - a);
      const double longest = std::max({length(b - a), length(c - b), length(a - c)});
      areas_.push_back(length(across) / 2);
      thin_.push_back(length(across) <= flat_ * longest);
      normals_.push_back(length(across) > 0 ? across * (1 / length(across)) : Vector{});
    }
  }

  MeshRegions result(Progress& progress) {
    makeParts();
    joinParts();
    while (takeRound(progress)) {
    }
    takeFlat();
    while (takeThin()) {
    }
    settleBorders();
    takeRest();
    std::vector<std::uint32_t> of(mesh_.triangles().size());
    for (std::uint32_t i = 0; i < regions_.size(); ++i)
      for (const std::uint32_t triangle : regions_[i].triangles) of[triangle] = i;
    return {std::move(regions_), std::move(of)};
  }

 private:
  const Point& at(const Mesh::Triangle& triangle, std::size_t corner) const { return mesh_.points()[triangle[corner]]; }
  const Mesh::Triangle& triangle(std::uint32_t number) const { return mesh_.triangles()[number]; }
  std::uint32_t beside(std::uint32_t number, std::size_t edge) const {
    return edges_.triangleOf(triangle(number)[(edge + 1) % 3], triangle(number)[edge]);
  }

  void makeParts() {
    std::vector<std::uint32_t> order(areas_.size());
    for (std::uint32_t i = 0; i < order.size(); ++i) order[i] = i;
    std::stable_sort(order.begin(), order.end(),
                     [&](std::uint32_t a, std::uint32_t b) { return areas_[a] > areas_[b]; });
    partOf_.assign(areas_.size(), none);
    const double together = std::cos(flatAngle);
    for (const std::uint32_t seed : order) {
      if (partOf_[seed] != none) continue;
      const auto number = static_cast<std::uint32_t>(parts_.size());
      Part& part = parts_.emplace_back();
      part.thin = thin_[seed];
      part.normal = normals_[seed];
      const Point on = at(triangle(seed), 0);
      std::vector<std::uint32_t> open{seed};
      partOf_[seed] = number;
      while (!open.empty()) {
        const std::uint32_t now = open.back();
        open.pop_back();
        part.triangles.push_back(now);
        part.area += areas_[now];
        for (std::size_t edge = 0; edge < 3 && !part.thin; ++edge) {
          const std::uint32_t next = beside(now, edge);
          if (partOf_[next] != none || (!thin_[next] && dot(normals_[next], part.normal) < together)) continue;
          const bool inPlane = std::all_of(triangle(next).begin(), triangle(next).end(), [&](std::uint32_t corner) {
            return std::abs(dot(mesh_.points()[corner] - on, part.normal)) <= flat_;
          });
          if (!inPlane) continue;
          partOf_[next] = number;
          open.push_back(next);
        }
      }
    }
  }

  void joinParts() {
    const double small = std::cos(rule_.angle);
    for (std::uint32_t i = 0; i < areas_.size(); ++i)
      for (std::size_t edge = 0; edge < 3; ++edge) {
        const std::uint32_t one = partOf_[i], other = partOf_[beside(i, edge)];
        if (one == other) continue;
        if (parts_[one].thin || parts_[other].thin || dot(parts_[one].normal, parts_[other].normal) >= small)
          parts_[one].smooth.insert(other);
      }
  }

  /// Free parts round a seed; first those that are about as large, or as they come.
  std::vector<std::uint32_t> around(std::uint32_t seed, std::size_t most, bool alike) const {
    std::vector<std::uint32_t> found;
    std::set<std::uint32_t> seen{seed};
    using Open = std::tuple<double, std::size_t, std::uint32_t>;
    std::priority_queue<Open, std::vector<Open>, std::greater<>> open;
    open.emplace(0, 0, seed);
    while (!open.empty() && found.size() < most) {
      const std::uint32_t now = std::get<2>(open.top());
      open.pop();
      found.push_back(now);
      for (const std::uint32_t next : parts_[now].smooth) {
        if (parts_[next].region != none || !seen.insert(next).second) continue;
        const double ratio = std::abs(std::log(parts_[next].area / parts_[seed].area + tolerance::rounding));
        open.emplace(alike ? ratio : 0.0, seen.size(), next);
      }
    }
    return found;
  }

  std::vector<SurfaceSample> samplesOf(const std::vector<std::uint32_t>& parts) const {
    std::vector<SurfaceSample> samples;
    std::size_t triangles = 0;
    for (const std::uint32_t part : parts) triangles += parts_[part].triangles.size();
    constexpr std::size_t most = 600;
    const std::size_t step = 1 + triangles / most;
    std::size_t count = 0;
    for (const std::uint32_t part : parts)
      for (const std::uint32_t number : parts_[part].triangles)
        if (!thin_[number] && count++ % step == 0)
          for (std::size_t i = 0; i < 3; ++i) samples.push_back({at(triangle(number), i), normals_[number]});
    return samples;
  }

  /// Surfaces that end everywhere are taken at once; of the others, which may be parts of larger ones, the largest come
  /// first. False if there was none.
  bool takeRound(Progress& progress) {
    std::vector<Grown> others;
    std::vector<bool> covered(parts_.size());
    bool any = false;
    for (std::uint32_t seed = 0; seed < parts_.size(); ++seed) {
      if (seed % 64 == 0) progress.throwIfStopped();
      progress.report(static_cast<double>(seed) / static_cast<double>(parts_.size()));
      const Part& part = parts_[seed];
      if (covered[seed] || part.region != none || part.smooth.empty() || part.failures > enoughFailures) continue;
      std::optional<Grown> grown = farthestFrom(seed);
      if (!grown) continue;
      if (endsEverywhere(*grown)) {
        take(*grown);
        any = true;
        continue;
      }
      for (const std::uint32_t each : grown->parts) covered[each] = true;
      others.push_back(std::move(*grown));
    }
    std::stable_sort(others.begin(), others.end(), [](const Grown& a, const Grown& b) { return a.area > b.area; });
    for (Grown& grown : others) {
      if (parts_[grown.parts.front()].region != none) continue;
      grown.parts = reachedFrom(grown.parts.front(), grown.surface, grown.within);
      if (grown.parts.size() < fewestParts) continue;
      take(grown);
      any = true;
    }
    return any;
  }

  struct Grown {
    Handle(Geom_ElementarySurface) surface;
    std::vector<std::uint32_t> parts;  ///< the seed first
    double area = 0;
    double within = 0;  ///< mm, of its points from the surface at most
    double off = 0;     ///< mm, of those it was fitted to
  };

  /// How far points may be from a surface that was fitted so well. Where surfaces touch, those of the one are not far
  /// from the other either.
  double within(double off) const {
    constexpr double loosely = 4;
    return std::clamp(loosely * off, std::min(flat_, rule_.tolerance), rule_.tolerance);
  }

  /// The surface through the parts round a seed that reaches farthest.
  std::optional<Grown> farthestFrom(std::uint32_t seed) {
    std::optional<Grown> best;
    for (const auto& [most, alike] : {std::pair{partsToFit[0], true},
                                      {partsToFit[0], false},
                                      {partsToFit[1], true},
                                      {partsToFit[1], false},
                                      {partsToFit[2], true},
                                      {partsToFit[2], false}}) {
      const std::vector<std::uint32_t> parts = around(seed, most, alike);
      if (parts.size() < fewestParts) return std::nullopt;
      for (const FittedSurface& fit : fittedToFacets(samplesOf(parts), rule_.tolerance, rule_.angle)) {
        std::optional<Grown> grown = grownFrom(seed, fit);
        if (grown && (!best || isBetter(*grown, *best))) best = std::move(grown);
      }
      if (best && endsEverywhere(*best)) break;
      if (parts.size() < most) break;
    }
    if (!best)
      for (const std::uint32_t part : around(seed, partsToFit[0], false)) ++parts_[part].failures;
    return best;
  }

  /// It reaches farther, or as far and fits much better.
  static bool isBetter(const Grown& one, const Grown& other) {
    constexpr double same = 1e-6, muchBetter = 0.1;
    if (one.area > other.area * (1 + same)) return true;
    return one.area >= other.area * (1 - same) && one.off < muchBetter * other.off && other.off > tolerance::samePlace;
  }

  /// Nothing free goes on from it at a small angle.
  bool endsEverywhere(const Grown& grown) const {
    const std::set<std::uint32_t> own(grown.parts.begin(), grown.parts.end());
    for (const std::uint32_t part : grown.parts)
      for (const std::uint32_t next : parts_[part].smooth)
        if (parts_[next].region == none && !own.contains(next)) return false;
    return true;
  }

  std::optional<Grown> grownFrom(std::uint32_t seed, FittedSurface fit) const {
    Grown result;
    constexpr int mostRounds = 12;
    for (int round = 0; round < mostRounds; ++round) {
      std::vector<std::uint32_t> grown = reachedFrom(seed, fit.surface, within(fit.off));
      if (grown.size() < fewestParts) return std::nullopt;
      const bool same = grown.size() == result.parts.size();
      result.surface = fit.surface;
      result.within = within(fit.off);
      result.off = fit.off;
      result.parts = std::move(grown);
      if (same) break;
      const std::vector<FittedSurface> again = fittedToFacets(samplesOf(result.parts), rule_.tolerance, rule_.angle);
      const auto alike = std::find_if(again.begin(), again.end(), [&](const FittedSurface& each) {
        return each.surface->DynamicType() == fit.surface->DynamicType();
      });
      if (alike == again.end()) break;
      fit = *alike;
    }
    for (const std::uint32_t part : result.parts) result.area += parts_[part].area;
    return result;
  }

  void take(const Grown& grown) {
    MeshRegion region;
    region.surface = grown.surface;
    Vector outwards;
    for (const std::uint32_t part : grown.parts) {
      parts_[part].region = static_cast<std::uint32_t>(regions_.size());
      region.triangles.insert(region.triangles.end(), parts_[part].triangles.begin(), parts_[part].triangles.end());
      outwards = outwards + parts_[part].normal * parts_[part].area;
    }
    if (const auto plane = Handle(Geom_Plane)::DownCast(region.surface); !plane.IsNull())
      if (const gp_Dir normal = plane->Axis().Direction(); dot(fromDir(normal), outwards) < 0)
        region.surface = new Geom_Plane(plane->Location(), normal.Reversed());
    region.off = offOf(region);
    regions_.push_back(std::move(region));
  }

  /// All free parts that are connected with the seed by parts on the surface.
  std::vector<std::uint32_t> reachedFrom(std::uint32_t seed, const Handle(Geom_ElementarySurface) & surface,
                                         double within) const {
    std::vector<std::uint32_t> found;
    if (!liesOn(parts_[seed], surface, within)) return found;
    std::set<std::uint32_t> seen{seed};
    found.push_back(seed);
    for (std::size_t i = 0; i < found.size(); ++i)
      for (const std::uint32_t next : parts_[found[i]].smooth)
        if (parts_[next].region == none && seen.insert(next).second && liesOn(parts_[next], surface, within))
          found.push_back(next);
    return found;
  }

  bool liesOn(const Part& part, const Handle(Geom_ElementarySurface) & surface, double within) const {
    const GeomAdaptor_Surface adaptor(surface);
    for (const std::uint32_t number : part.triangles) {
      Point middle;
      for (std::size_t i = 0; i < 3; ++i) {
        const Point& corner = at(triangle(number), i);
        if (distanceTo(adaptor, corner) > within) return false;
        middle = middle + corner * (1.0 / 3);
      }
      if (thin_[number]) continue;
      const gp_Pnt2d place = parametersOn(adaptor, toPnt(middle)).value_or(gp_Pnt2d());
      gp_Pnt point;
      gp_Vec du, dv;
      adaptor.D1(place.X(), place.Y(), point, du, dv);
      const gp_Vec normal = du.Crossed(dv);
      if (normal.Magnitude() < tolerance::direction) continue;
      if (std::abs(dot(normalized(fromVec(normal)), normals_[number])) < std::cos(rule_.angle)) return false;
    }
    return true;
  }

  static double distanceTo(const GeomAdaptor_Surface& surface, const Point& point) {
    const gp_Pnt2d place = parametersOn(surface, toPnt(point)).value_or(gp_Pnt2d());
    return surface.Value(place.X(), place.Y()).Distance(toPnt(point));
  }

  double offOf(const MeshRegion& region) const { return farthestOf(region.triangles, region.surface); }

  double farthestOf(const std::vector<std::uint32_t>& triangles, const Handle(Geom_ElementarySurface) & surface) const {
    const GeomAdaptor_Surface adaptor(surface);
    double off = 0;
    for (const std::uint32_t number : triangles)
      for (std::size_t i = 0; i < 3; ++i) off = std::max(off, distanceTo(adaptor, at(triangle(number), i)));
    return off;
  }

  /// A single triangle that bends as little towards others like it is no face of its own.
  bool isRest(const Part& part) const {
    if (part.triangles.size() > 1) return false;
    if (part.thin) return true;
    return std::count_if(part.smooth.begin(), part.smooth.end(), [&](std::uint32_t other) {
             return parts_[other].region == none && parts_[other].triangles.size() == 1;
           }) >= 2;
  }

  void takeFlat() {
    std::vector<std::uint32_t> flat;
    for (std::uint32_t i = 0; i < parts_.size(); ++i)
      if (parts_[i].region == none && !isRest(parts_[i])) flat.push_back(i);
    for (const std::uint32_t i : flat) {
      Part& part = parts_[i];
      part.region = static_cast<std::uint32_t>(regions_.size());
      MeshRegion region;
      region.triangles = part.triangles;
      region.surface = planeOf(part);
      region.off = offOf(region);
      regions_.push_back(std::move(region));
    }
  }

  /// What is too narrow to be anything itself belongs to a surface beside it that it lies on.
  bool takeThin() {
    bool any = false;
    for (Part& part : parts_) {
      if (part.region != none || !part.thin) continue;
      std::uint32_t nearest = none;
      double least = rule_.tolerance;
      for (const std::uint32_t other : part.smooth) {
        const std::uint32_t region = parts_[other].region;
        if (region == none) continue;
        const double off = farthestOf(part.triangles, regions_[region].surface);
        if (off <= least) nearest = region, least = off;
      }
      if (nearest == none) continue;
      part.region = nearest;
      regions_[nearest].triangles.insert(regions_[nearest].triangles.end(), part.triangles.begin(),
                                         part.triangles.end());
      any = true;
    }
    return any;
  }

  /// Through all of its points, with its front outside.
  Handle(Geom_ElementarySurface) planeOf(const Part& part) const {
    const std::vector<SurfaceSample> samples = samplesOf({static_cast<std::uint32_t>(&part - parts_.data())});
    Vector normal = part.normal;
    Point middle;
    for (const SurfaceSample& sample : samples) middle = middle + sample.at * (1 / static_cast<double>(samples.size()));
    if (const Handle(Geom_Plane) fitted = Handle(Geom_Plane)::DownCast(fittedPlane(samples)); !fitted.IsNull()) {
      const Vector found = fromDir(fitted->Axis().Direction());
      if (std::abs(dot(found, normal)) > std::cos(flatAngle)) normal = dot(found, normal) > 0 ? found : -found;
    }
    return new Geom_Plane(toPnt(middle), toDir(normal));
  }

  /// Where surfaces touch, the one that grew first has taken triangles that lie on the other one: each triangle at a
  /// border goes over to a surface beside it that is nearer by far.
  void settleBorders() {
    std::vector<std::uint32_t> of(areas_.size(), none);
    for (std::uint32_t i = 0; i < regions_.size(); ++i)
      for (const std::uint32_t number : regions_[i].triangles) of[number] = i;
    std::vector<GeomAdaptor_Surface> surfaces;
    for (const MeshRegion& region : regions_) surfaces.emplace_back(region.surface);
    const auto off = [&](std::uint32_t number, std::uint32_t region) {
      double farthest = 0;
      for (std::size_t i = 0; i < 3; ++i)
        farthest = std::max(farthest, distanceTo(surfaces[region], at(triangle(number), i)));
      return farthest;
    };
    constexpr double byFar = 0.5, certain = 0.1;
    std::vector<std::uint32_t> open(areas_.size());
    for (std::uint32_t i = 0; i < open.size(); ++i) open[i] = i;
    std::vector<char> moves(areas_.size());
    constexpr char mostMoves = 4;
    std::set<std::uint32_t> changed;
    for (std::size_t i = 0; i < open.size(); ++i) {
      const std::uint32_t now = open[i];
      if (of[now] == none || moves[now] >= mostMoves) continue;
      for (std::size_t edge = 0; edge < 3; ++edge) {
        const std::uint32_t other = of[beside(now, edge)];
        if (other == none || other == of[now]) continue;
        const double here = off(now, of[now]);
        if (here <= certain * flat_ || off(now, other) >= byFar * here) continue;
        changed.insert({of[now], other});
        of[now] = other;
        ++moves[now];
        for (std::size_t each = 0; each < 3; ++each) open.push_back(beside(now, each));
        break;
      }
    }
    if (changed.empty()) return;
    for (const std::uint32_t region : changed) regions_[region].triangles.clear();
    for (std::uint32_t number = 0; number < of.size(); ++number)
      if (of[number] != none && changed.contains(of[number])) regions_[of[number]].triangles.push_back(number);
    for (const std::uint32_t region : changed) refit(regions_[region]);
    std::erase_if(regions_, [](const MeshRegion& region) { return region.triangles.empty(); });
  }

  /// The same kind of surface through a region's triangles as they are now.
  void refit(MeshRegion& region) const {
    if (region.triangles.empty()) return;
    std::vector<SurfaceSample> samples;
    constexpr std::size_t most = 600;
    for (std::size_t i = 0; i < region.triangles.size(); i += 1 + region.triangles.size() / most)
      for (std::size_t k = 0; k < 3; ++k)
        samples.push_back({at(triangle(region.triangles[i]), k), normals_[region.triangles[i]]});
    if (!region.surface->IsKind(STANDARD_TYPE(Geom_Plane)))
      for (const FittedSurface& fit : fittedToFacets(samples, rule_.tolerance, rule_.angle))
        if (fit.surface->DynamicType() == region.surface->DynamicType()) region.surface = fit.surface;
    region.off = offOf(region);
  }

  void takeRest() {
    std::vector<bool> seen(parts_.size());
    for (std::uint32_t i = 0; i < parts_.size(); ++i) {
      if (parts_[i].region != none || seen[i]) continue;
      MeshRegion region;
      std::vector<std::uint32_t> open{parts_[i].triangles.front()};
      seen[i] = true;
      while (!open.empty()) {
        const std::uint32_t now = open.back();
        open.pop_back();
        region.triangles.push_back(now);
        for (std::size_t edge = 0; edge < 3; ++edge) {
          const std::uint32_t next = partOf_[beside(now, edge)];
          if (parts_[next].region != none || seen[next]) continue;
          seen[next] = true;
          open.insert(open.end(), parts_[next].triangles.begin(), parts_[next].triangles.end());
        }
      }
      regions_.push_back(std::move(region));
    }
  }

  const Mesh& mesh_;
  const FacetRule& rule_;
  MeshEdges edges_;
  std::vector<Vector> normals_;
  std::vector<double> areas_;
  std::vector<bool> thin_;
  double flat_ = 0;  ///< mm: points nearer to a plane lie in it
  std::vector<Part> parts_;
  std::vector<std::uint32_t> partOf_;
  std::vector<MeshRegion> regions_;
};

}  // namespace

MeshRegions regionsOf(const Mesh& mesh, const FacetRule& rule, Progress& progress) {
  return Regions(mesh, rule).result(progress);
}

}  // namespace kervo
