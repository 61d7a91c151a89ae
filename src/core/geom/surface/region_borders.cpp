#include "geom/surface/region_borders.h"

#include <Eigen/Dense>
#include <ElCLib.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Ellipse.hxx>
#include <Geom_Line.hxx>
#include <IntAna_QuadQuadGeo.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

#include "geom/kernel/convert.h"
#include "geom/kernel/elementary.h"
#include "geom/mesh/mesh_edges.h"
#include "geom/surface/fitted_surface.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
using Surfaces = std::vector<Handle(Geom_ElementarySurface)>;

double distanceTo(const Handle(Geom_ElementarySurface) & surface, const gp_Pnt& point) {
  const GeomAdaptor_Surface adaptor(surface);
  const gp_Pnt2d at = parametersOn(adaptor, point).value_or(gp_Pnt2d());
  return adaptor.Value(at.X(), at.Y()).Distance(point);
}

double offFrom(const Surfaces& surfaces, const gp_Pnt& point) {
  double off = 0;
  for (const auto& surface : surfaces) off = std::max(off, distanceTo(surface, point));
  return off;
}

/// The nearest place on all surfaces, by the shortest steps. Surfaces that touch there count as one.
gp_Pnt placedOn(const Surfaces& surfaces, gp_Pnt point) {
  constexpr int mostSteps = 12;
  for (int step = 0; step < mostSteps; ++step) {
    Eigen::MatrixXd rows(static_cast<Eigen::Index>(surfaces.size()), 3);
    Eigen::VectorXd off(static_cast<Eigen::Index>(surfaces.size()));
    for (std::size_t i = 0; i < surfaces.size(); ++i) {
      const GeomAdaptor_Surface adaptor(surfaces[i]);
      const gp_Pnt2d at = parametersOn(adaptor, point).value_or(gp_Pnt2d());
      gp_Pnt foot;
      gp_Vec du, dv;
      adaptor.D1(at.X(), at.Y(), foot, du, dv);
      gp_Vec normal = du.Crossed(dv);
      if (normal.Magnitude() < tolerance::direction) normal = gp_Vec(foot, point);
      if (normal.Magnitude() < tolerance::direction) normal = gp_Vec(0, 0, 1);
      normal.Normalize();
      const auto row = static_cast<Eigen::Index>(i);
      rows.row(row) << normal.X(), normal.Y(), normal.Z();
      off(row) = gp_Vec(point, foot).Dot(normal);
    }
    Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd> solver;
    constexpr double touching = 1e-3;
    solver.setThreshold(touching);
    solver.compute(rows);
    const Eigen::VectorXd move = solver.solve(off);
    point.Translate(gp_Vec(move(0), move(1), move(2)));
    if (move.norm() < tolerance::point * 1e-3) break;
  }
  return point;
}

/// A curve with the range that runs along points.
struct Run {
  Handle(Geom_Curve) curve;
  double first = 0, last = 0;
};

double farthestOf(const Handle(Geom_Curve) & curve, const std::vector<gp_Pnt>& points) {
  double off = 0;
  for (const gp_Pnt& point : points) {
    double at = 0;
    if (const auto line = Handle(Geom_Line)::DownCast(curve); !line.IsNull())
      at = ElCLib::Parameter(line->Lin(), point);
    else if (const auto circle = Handle(Geom_Circle)::DownCast(curve); !circle.IsNull())
      at = ElCLib::Parameter(circle->Circ(), point);
    else if (const auto ellipse = Handle(Geom_Ellipse)::DownCast(curve); !ellipse.IsNull())
      at = ElCLib::Parameter(ellipse->Elips(), point);
    off = std::max(off, curve->Value(at).Distance(point));
  }
  return off;
}

/// A conic that runs the way of the points, from the first to the last of them, or all round.
Run along(const Handle(Geom_Conic) & conic, const std::vector<gp_Pnt>& points, bool closed) {
  const auto parameter = [&](const gp_Pnt& point) {
    const auto circle = Handle(Geom_Circle)::DownCast(conic);
    return circle.IsNull() ? ElCLib::Parameter(Handle(Geom_Ellipse)::DownCast(conic)->Elips(), point)
                           : ElCLib::Parameter(circle->Circ(), point);
  };
  // The way between neighbours is short.
  double way = 0;
  for (std::size_t i = 1; i < points.size(); ++i) {
    const double step = parameter(points[i]) - parameter(points[i - 1]);
    way += step - turn * std::round(step / turn);
  }
  if (way < 0) {
    conic->Reverse();
    way = -way;
  }
  const double first = parameter(points.front());
  return {Handle(Geom_Curve)(conic), first, first + (closed ? turn : way)};
}

/// The analytic curves in which a plane meets another surface.
std::vector<Handle(Geom_Curve)> meetingOf(const Surfaces& surfaces) {
  std::vector<Handle(Geom_Curve)> curves;
  if (surfaces.size() != 2) return curves;
  GeomAdaptor_Surface one(surfaces[0]), other(surfaces[1]);
  if (one.GetType() != GeomAbs_Plane) std::swap(one, other);
  if (one.GetType() != GeomAbs_Plane) return curves;
  IntAna_QuadQuadGeo found;
  constexpr double angular = 1e-9;
  switch (other.GetType()) {
    case GeomAbs_Cylinder:
      found.Perform(one.Plane(), other.Cylinder(), angular, tolerance::point);
      break;
    case GeomAbs_Cone:
      found.Perform(one.Plane(), other.Cone(), angular, tolerance::point);
      break;
    case GeomAbs_Sphere:
      found.Perform(one.Plane(), other.Sphere());
      break;
    default:
      return curves;
  }
  if (!found.IsDone()) return curves;
  const int count = found.NbSolutions();
  if (found.TypeInter() == IntAna_Circle)
    for (int i = 1; i <= count; ++i) curves.push_back(new Geom_Circle(found.Circle(i)));
  if (found.TypeInter() == IntAna_Ellipse)
    for (int i = 1; i <= count; ++i) curves.push_back(new Geom_Ellipse(found.Ellipse(i)));
  return curves;
}

std::optional<Run> straight(const std::vector<gp_Pnt>& points, double tolerance) {
  const double whole = points.front().Distance(points.back());
  if (whole < tolerance::smallestSize) return std::nullopt;
  const Handle(Geom_Line) line = new Geom_Line(points.front(), gp_Dir(gp_Vec(points.front(), points.back())));
  if (farthestOf(line, points) > tolerance) return std::nullopt;
  return Run{Handle(Geom_Curve)(line), 0, whole};
}

/// Whether it lies on the surfaces between its points as well.
bool liesOn(const Run& run, const Surfaces& surfaces, double tolerance) {
  constexpr int places = 24;
  for (int i = 0; i <= places; ++i)
    if (offFrom(surfaces, run.curve->Value(run.first + (run.last - run.first) * i / places)) > tolerance) return false;
  return true;
}

class Finder {
 public:
  Finder(const Mesh& mesh, const MeshRegions& regions, double tolerance)
      : mesh_(mesh), regions_(regions), tolerance_(tolerance) {}

  RegionBorders result() {
    trace();
    UnmadeRegions::forEach(rows_.size(), [&](std::size_t i) {
      auto& [points, border] = rows_[i];
      if (surfacesOf(border).empty()) return;
      try {
        setCurve(points, border);
      } catch (const Standard_Failure&) {
        throw UnmadeRegion{oneOf(border)};
      }
      result_.borders.push_back(border);
    });
    return std::move(result_);
  }

 private:
  gp_Pnt pointOf(std::uint32_t number) const { return toPnt(mesh_.points()[number]); }

  /// A region beside it that has a surface.
  std::uint32_t oneOf(const RegionBorder& border) const {
    return regions_.regions[border.right].surface.IsNull() ? border.left : border.right;
  }

  Surfaces surfacesOf(const RegionBorder& border) const {
    Surfaces result;
    for (const std::uint32_t region : {border.left, border.right})
      if (const auto& surface = regions_.regions[region].surface; !surface.IsNull()) result.push_back(surface);
    return result;
  }

  /// Rows of edges between the same two regions, with the lower region on their left.
  void trace() {
    const MeshEdges edges(mesh_.points().size(), mesh_.triangles());
    using Sides = std::pair<std::uint32_t, std::uint32_t>;
    std::map<Sides, std::multimap<std::uint32_t, std::uint32_t>> steps;
    std::map<std::uint32_t, std::set<std::uint32_t>> around;
    std::map<std::uint32_t, int> meeting;
    for (std::uint32_t i = 0; i < mesh_.triangles().size(); ++i)
      for (std::size_t edge = 0; edge < 3; ++edge) {
        const std::uint32_t from = mesh_.triangles()[i][edge], to = mesh_.triangles()[i][(edge + 1) % 3];
        const std::uint32_t left = regions_.of[i], right = regions_.of[edges.triangleOf(to, from)];
        if (left == right) continue;
        around[from].insert(left);
        around[from].insert(right);
        if (left > right) continue;
        steps[{left, right}].emplace(from, to);
        ++meeting[from];
        ++meeting[to];
      }
    const auto isCorner = [&](std::uint32_t point) { return meeting[point] != 2 || around[point].size() != 2; };
    for (auto& [sides, ways] : steps) {
      const auto follow = [&, &ways = ways](std::uint32_t from) {
        std::vector<std::uint32_t> row{from};
        for (auto next = ways.find(from); next != ways.end(); next = ways.find(row.back())) {
          row.push_back(next->second);
          ways.erase(next);
          if (isCorner(row.back()) || row.back() == from) break;
        }
        return row;
      };
      std::vector<std::uint32_t> begins;
      for (const auto& [from, to] : ways)
        if (isCorner(from)) begins.push_back(from);
      for (const std::uint32_t from : begins) add(sides, follow(from));
      while (!ways.empty()) add(sides, follow(ways.begin()->first));
    }
    for (const auto& [point, regions] : around) {
      Surfaces surfaces;
      for (const std::uint32_t region : regions)
        if (const auto& surface = regions_.regions[region].surface; !surface.IsNull()) surfaces.push_back(surface);
      if (!surfaces.empty() && isCorner(point)) result_.corners[point] = placedOn(surfaces, pointOf(point));
    }
  }

  void add(const std::pair<std::uint32_t, std::uint32_t>& sides, std::vector<std::uint32_t> row) {
    RegionBorder border;
    border.left = sides.first;
    border.right = sides.second;
    border.from = row.front();
    border.to = row.back();
    rows_.emplace_back(std::move(row), border);
  }

  void setCurve(const std::vector<std::uint32_t>& row, RegionBorder& border) {
    const Surfaces surfaces = surfacesOf(border);
    const bool closed = border.from == border.to;
    border.ring = closed && !result_.corners.contains(border.from);
    std::vector<gp_Pnt> points;
    for (const std::uint32_t number : row) {
      const auto corner = result_.corners.find(number);
      points.push_back(corner != result_.corners.end() ? corner->second : placedOn(surfaces, pointOf(number)));
    }
    const std::optional<Run> run = found(points, surfaces, border.ring, closed);
    if (!run) throw UnmadeRegion{oneOf(border)};
    border.curve = run->curve;
    border.first = run->first;
    border.last = run->last;
    constexpr int places = 48;
    for (int i = 0; i <= places; ++i)
      border.off = std::max(
          border.off, offFrom(surfaces, border.curve->Value(border.first + (border.last - border.first) * i / places)));
    if (border.ring) result_.corners[border.from] = border.curve->Value(border.first);
  }

  std::optional<Run> found(const std::vector<gp_Pnt>& points, const Surfaces& surfaces, bool ring, bool closed) const {
    const double fits = std::min(tolerance_, tolerance::looseEdge / 2);
    if (!closed)
      if (const auto line = straight(points, fits); line && liesOn(*line, surfaces, fits)) return line;
    std::vector<Handle(Geom_Conic)> conics;
    for (const Handle(Geom_Curve) & curve : meetingOf(surfaces))
      if (const auto conic = Handle(Geom_Conic)::DownCast(curve); !conic.IsNull()) conics.push_back(conic);
    std::vector<Point> places;
    for (const gp_Pnt& point : points) places.push_back(fromPnt(point));
    if (closed) places.pop_back();
    if (const auto circle = fittedCircle(places); circle && circle->off <= fits)
      conics.push_back(new Geom_Circle(toAxes(circle->axes).Ax2(), circle->radius));
    for (const Handle(Geom_Conic) & conic : conics) {
      if (farthestOf(conic, points) > fits) continue;
      if (const auto circle = Handle(Geom_Circle)::DownCast(conic); !circle.IsNull() && ring) beginAlike(circle);
      Run run = along(conic, points, closed);
      if (ring) run = {run.curve, 0, turn};
      if (liesOn(run, surfaces, fits)) return run;
    }
    return through(points, surfaces, closed);
  }

  /// A circle that begins at the same side as others about its axis.
  static void beginAlike(const Handle(Geom_Circle) & circle) {
    const gp_Dir aside(0.48, 0.64, 0.6), other(0.8, -0.6, 0);
    const gp_Dir axis = circle->Axis().Direction();
    const gp_Dir reference = std::abs(axis.Dot(aside)) < 0.9 ? aside : other;
    circle->SetPosition(gp_Ax2(circle->Location(), axis, axis.Crossed(reference).Crossed(axis)));
  }

  /// A spline through points of both surfaces, more of them than the mesh has.
  static std::optional<Run> through(const std::vector<gp_Pnt>& row, const Surfaces& surfaces, bool closed) {
    constexpr std::size_t fewest = 32;
    const std::size_t between = std::max<std::size_t>(1, (fewest + row.size() - 2) / (row.size() - 1));
    std::vector<gp_Pnt> points{row.front()};
    for (std::size_t i = 1; i < row.size(); ++i) {
      for (std::size_t k = 1; k < between; ++k) {
        const double share = static_cast<double>(k) / static_cast<double>(between);
        points.push_back(placedOn(surfaces, row[i - 1].Translated(gp_Vec(row[i - 1], row[i]) * share)));
      }
      points.push_back(row[i]);
    }
    if (closed) points.pop_back();
    const auto count = static_cast<int>(points.size());
    const Handle(TColgp_HArray1OfPnt) array = new TColgp_HArray1OfPnt(1, count);
    for (int i = 0; i < count; ++i) array->SetValue(i + 1, points[static_cast<std::size_t>(i)]);
    GeomAPI_Interpolate interpolate(array, closed, tolerance::point);
    interpolate.Perform();
    if (!interpolate.IsDone()) return std::nullopt;
    const Handle(Geom_BSplineCurve) curve = interpolate.Curve();
    if (closed) curve->SetNotPeriodic();
    return Run{Handle(Geom_Curve)(curve), curve->FirstParameter(), curve->LastParameter()};
  }

  const Mesh& mesh_;
  const MeshRegions& regions_;
  double tolerance_;
  std::vector<std::pair<std::vector<std::uint32_t>, RegionBorder>> rows_;
  RegionBorders result_;
};

}  // namespace

RegionBorders bordersOf(const Mesh& mesh, const MeshRegions& regions, double tolerance) {
  return Finder(mesh, regions, tolerance).result();
}

}  // namespace kervo
