#include "geom/surface/turned_seams.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <ElSLib.hxx>
#include <Geom_SphericalSurface.hxx>
#include <numbers>

#include "geom/kernel/shape_body.h"
#include "geom/kernel/space_loops.h"
#include "geom/measure/border_quadrature.h"
#include "geom/measure/face_integrals.h"
#include "geom/surface/parameter_curve.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
/// Borders this near to a seam or pole count as meeting it.
constexpr double nearRadians = 3 * std::numbers::pi / 180;
/// A new seam has to keep this distance.
constexpr double clearRadians = 5 * std::numbers::pi / 180;
/// Ends of curves in the parameter plane that differ by more than this share of a period do not join.
constexpr double jump = 0.02;

TopoDS_Face forwardOf(const TopoDS_Face& face) {
  return TopoDS::Face(face.Oriented(TopAbs_FORWARD));
}

bool isRevolved(GeomAbs_SurfaceType type) {
  return type == GeomAbs_Sphere || type == GeomAbs_Cone || type == GeomAbs_Torus || type == GeomAbs_SurfaceOfRevolution;
}

/// Points along an edge's curve in space from its first parameter to its last.
std::vector<gp_Pnt> pointsAlong(const TopoDS_Edge& edge, int spans) {
  const BRepAdaptor_Curve curve(edge);
  const double first = curve.FirstParameter(), last = curve.LastParameter();
  std::vector<gp_Pnt> points;
  for (int i = 0; i <= spans; ++i) points.push_back(curve.Value(first + (last - first) * i / spans));
  return points;
}

bool hasSeamOrPoleInALoop(const TopoDS_Face& forward) {
  for (TopoDS_Iterator wires(forward); wires.More(); wires.Next()) {
    bool real = false, other = false;
    for (TopoDS_Iterator it(wires.Value()); it.More(); it.Next()) {
      const TopoDS_Edge edge = TopoDS::Edge(it.Value());
      (BRep_Tool::Degenerated(edge) || BRep_Tool::IsClosed(edge, forward) ? other : real) = true;
    }
    if (real && other) return true;
  }
  return false;
}

// --- Spheres ---------------------------------------------------------------------------------------------------

/// How near to the half circle from pole to pole through x a border comes, in radians. `border`: unit vectors.
double clearance(const gp_XYZ& pole, const gp_XYZ& x, const std::vector<gp_XYZ>& border, double enough) {
  const gp_XYZ y = pole.Crossed(x);
  double least = std::numbers::pi;
  for (const gp_XYZ& point : border) {
    const double distance = point.Dot(x) >= 0 ? std::asin(std::min(1.0, std::abs(point.Dot(y))))
                                              : std::acos(std::min(1.0, std::abs(point.Dot(pole))));
    least = std::min(least, distance);
    if (least <= enough) break;
  }
  return least;
}

std::vector<gp_XYZ> borderOnSphere(const std::vector<EdgeLoop>& loops, const gp_Sphere& sphere) {
  std::vector<gp_XYZ> border;
  for (const EdgeLoop& loop : loops)
    for (const TopoDS_Edge& edge : loop)
      for (const gp_Pnt& point : pointsAlong(edge, 48)) {
        gp_XYZ out = point.XYZ() - sphere.Location().XYZ();
        const double length = out.Modulus();
        if (length > 0) border.push_back(out / length);
      }
  return border;
}

/// Places for the seam, those that keep away from the border farthest first.
std::vector<gp_Ax3> placesForSeam(const gp_Sphere& sphere, const std::vector<gp_XYZ>& border) {
  constexpr int directions = 150, turns = 12;
  constexpr std::size_t kept = 6;
  std::vector<std::pair<double, gp_Ax3>> places;
  const double golden = std::numbers::pi * (3 - std::sqrt(5.0));
  for (int i = 0; i < directions; ++i) {
    const double z = 1 - (2.0 * i + 1) / directions, r = std::sqrt(1 - z * z);
    const gp_XYZ x(r * std::cos(golden * i), r * std::sin(golden * i), z);
    const gp_Ax2 across(gp_Pnt(0, 0, 0), gp_Dir(x));
    for (int k = 0; k < turns; ++k) {
      const double angle = std::numbers::pi * k / turns;
      const gp_XYZ pole = across.XDirection().XYZ() * std::cos(angle) + across.YDirection().XYZ() * std::sin(angle);
      const double least = places.size() < kept ? clearRadians : std::max(clearRadians, places.back().first);
      const double found = clearance(pole, x, border, least);
      if (found <= least) continue;
      gp_Ax3 axes(sphere.Location(), gp_Dir(pole), gp_Dir(x));
      if (!sphere.Position().Direct()) axes.YReverse();
      places.emplace_back(found, axes);
      std::sort(places.begin(), places.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
      if (places.size() > kept) places.pop_back();
    }
  }
  std::vector<gp_Ax3> result;
  for (const auto& place : places) result.push_back(place.second);
  return result;
}

/// The parameters on a sphere of points along an edge, u without jumps.
std::vector<gp_Pnt2d> parametersOn(const gp_Sphere& sphere, const BRepAdaptor_Curve& curve,
                                   const std::vector<double>& at) {
  std::vector<gp_Pnt2d> result;
  for (const double t : at) {
    double u = 0, v = 0;
    ElSLib::Parameters(sphere, curve.Value(t), u, v);
    if (!result.empty()) u += turn * std::round((result.back().X() - u) / turn);
    result.emplace_back(u, v);
  }
  return result;
}

/// The edge's curve in the parameters of a sphere; null if it cannot be found well enough.
Handle(Geom2d_Curve) curveOn(const gp_Sphere& sphere, const TopoDS_Edge& edge) {
  const BRepAdaptor_Curve curve(edge);
  return curveFollowing([&](const std::vector<double>& at) { return parametersOn(sphere, curve, at); },
                        [&](double t, const gp_Pnt2d& on) {
                          double u = 0, v = 0;
                          ElSLib::Parameters(sphere, curve.Value(t), u, v);
                          return ElSLib::Value(u, v, sphere).Distance(ElSLib::Value(on.X(), on.Y(), sphere));
                        },
                        curveKnots(curve), std::max(0.1 * tolerance::point, 1e-10 * sphere.Radius()));
}

/// ∮ −sin v du: the area that the loop encloses on a unit sphere if it runs counter-clockwise.
double areaEnclosed(const Handle(Geom2d_Curve) & curve, double first, double last) {
  constexpr int steps = 200;
  double sum = 0;
  gp_Pnt2d before = curve->Value(first);
  for (int i = 1; i <= steps; ++i) {
    const gp_Pnt2d next = curve->Value(first + (last - first) * i / steps);
    sum -= std::sin((before.Y() + next.Y()) / 2) * (next.X() - before.X());
    before = next;
  }
  return sum;
}

TopoDS_Wire wireOf(const EdgeLoop& loop) {
  TopoDS_Wire wire;
  const BRep_Builder builder;
  builder.MakeWire(wire);
  for (const TopoDS_Edge& edge : loop) builder.Add(wire, edge);
  wire.Closed(true);
  return wire;
}

std::optional<TopoDS_Face> onTurnedSphere(const TopoDS_Face& forward, const gp_Sphere& sphere,
                                          const std::vector<EdgeLoop>& loops, SeamPlace place) {
  for (const gp_Ax3& axes : placesForSeam(sphere, borderOnSphere(loops, sphere))) {
    const gp_Sphere turned(axes, sphere.Radius());
    std::vector<std::pair<TopoDS_Edge, Handle(Geom2d_Curve)>> curves;
    double area = 0;
    bool complete = true;
    for (const EdgeLoop& loop : loops)
      for (const TopoDS_Edge& edge : loop) {
        double first = 0, last = 0;
        BRep_Tool::Range(edge, first, last);
        curves.emplace_back(edge, curveOn(turned, edge));
        complete &= !curves.back().second.IsNull();
        if (!complete) break;
        const double sum = areaEnclosed(curves.back().second, first, last);
        area += edge.Orientation() == TopAbs_REVERSED ? -sum : sum;
      }
    if (!complete) continue;
    // The loops have no pole and no seam inside, so they enclose the patch, or all the rest of the sphere.
    if (area < 0 && place == SeamPlace::Beside) continue;
    const Handle(Geom_SphericalSurface) surface = new Geom_SphericalSurface(turned);
    const BRep_Builder builder;
    TopoDS_Face face;
    if (area > 0)
      builder.MakeFace(face, surface, BRep_Tool::Tolerance(forward));
    else
      face = forwardOf(BRepBuilderAPI_MakeFace(surface, tolerance::point).Face());
    for (const auto& [edge, curve] : curves) {
      double first = 0, last = 0;
      BRep_Tool::Range(edge, first, last);
      builder.UpdateEdge(edge, curve, surface, TopLoc_Location(), BRep_Tool::Tolerance(edge));
      builder.Range(edge, surface, TopLoc_Location(), first, last);
    }
    for (const EdgeLoop& loop : loops) builder.Add(face, wireOf(loop));
    return face;
  }
  return std::nullopt;
}

// --- Other surfaces of revolution --------------------------------------------------------------------------------

/// A loop in the parameter plane, without jumps.
struct ParameterLoop {
  std::vector<Handle(Geom2d_Curve)> curves;
  std::vector<gp_Pnt2d> points;
};

gp_Pnt2d shifted(const gp_Pnt2d& point, double byU) {
  return {point.X() + byU, point.Y()};
}

/// The loop's own curves, each moved by whole turns so that it begins where the one before it ends. Nothing if it does
/// not close like this.
std::optional<ParameterLoop> unrolled(const EdgeLoop& loop, const TopoDS_Face& forward) {
  ParameterLoop result;
  std::optional<gp_Pnt2d> start, end;
  for (const TopoDS_Edge& edge : loop) {
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, forward, first, last);
    if (curve.IsNull()) return std::nullopt;
    const bool reversed = edge.Orientation() == TopAbs_REVERSED;
    const gp_Pnt2d from = curve->Value(reversed ? last : first), to = curve->Value(reversed ? first : last);
    const double shift = end ? turn * std::round((end->X() - from.X()) / turn) : 0;
    if (end && shifted(from, shift).Distance(*end) > jump * turn) return std::nullopt;
    if (!start) start = from;
    end = shifted(to, shift);
    result.curves.push_back(Handle(Geom2d_Curve)::DownCast(curve->Translated(gp_Vec2d(shift, 0))));
    for (int i = 0; i <= 24; ++i) result.points.push_back(result.curves.back()->Value(first + (last - first) * i / 24));
  }
  if (!start || !end || start->Distance(*end) > jump * turn) return std::nullopt;
  return result;
}

/// A direction about the axis that the loops leave free, and how wide the gap round it is.
std::pair<double, double> widestGap(const std::vector<ParameterLoop>& loops) {
  constexpr int sectors = 720;
  std::vector<char> covered(sectors, 0);
  for (const ParameterLoop& loop : loops) {
    const auto [low, high] = std::minmax_element(loop.points.begin(), loop.points.end(),
                                                 [](const auto& a, const auto& b) { return a.X() < b.X(); });
    // What lies between is covered too: the patch, or a hole in it.
    const int from = static_cast<int>(std::floor(low->X() / turn * sectors)),
              to = static_cast<int>(std::floor(high->X() / turn * sectors));
    for (int i = from; i <= std::min(to, from + sectors); ++i)
      covered[static_cast<std::size_t>(((i % sectors) + sectors) % sectors)] = 1;
  }
  int widest = 0, at = 0, run = 0;
  for (int i = 0; i < 2 * sectors; ++i) {
    run = covered[static_cast<std::size_t>(i % sectors)] ? 0 : run + 1;
    if (run > widest) widest = run, at = i;
  }
  widest = std::min(widest, sectors);
  return {(at + 1 - widest / 2.0) * turn / sectors, widest * turn / sectors};
}

std::optional<TopoDS_Face> onTurnedAxis(const TopoDS_Face& forward, const std::vector<EdgeLoop>& loops) {
  std::vector<ParameterLoop> unrolledLoops;
  for (const EdgeLoop& loop : loops) {
    auto one = unrolled(loop, forward);
    if (!one) return std::nullopt;
    unrolledLoops.push_back(std::move(*one));
  }
  const auto [seam, width] = widestGap(unrolledLoops);
  if (width < 2 * clearRadians) return std::nullopt;
  TopLoc_Location place;
  const Handle(Geom_Surface) old = BRep_Tool::Surface(forward, place);
  const BRepAdaptor_Surface adaptor(forward, false);
  gp_Ax1 axis;
  switch (adaptor.GetType()) {
    case GeomAbs_Cone:
      axis = adaptor.Cone().Axis();
      break;
    case GeomAbs_Torus:
      axis = adaptor.Torus().Axis();
      break;
    default:
      axis = adaptor.AxeOfRevolution();
  }
  axis.Transform(place.Transformation().Inverted());
  // The direction in which u grows about the axis.
  gp_Pnt at;
  gp_Vec du, dv;
  const gp_Pnt2d& sample = unrolledLoops.front().points.front();
  old->D1(sample.X(), sample.Y(), at, du, dv);
  const double sense = gp_Vec(axis.Direction()).Dot(gp_Vec(axis.Location(), at).Crossed(du)) >= 0 ? 1 : -1;
  const Handle(Geom_Surface) surface = Handle(Geom_Surface)::DownCast(old->Rotated(axis, sense * seam));

  const BRep_Builder builder;
  TopoDS_Face face;
  builder.MakeFace(face, surface, place, BRep_Tool::Tolerance(forward));
  for (std::size_t i = 0; i < loops.size(); ++i) {
    const ParameterLoop& loop = unrolledLoops[i];
    const double into = -seam - turn * std::floor((loop.points.front().X() - seam) / turn);
    for (std::size_t k = 0; k < loops[i].size(); ++k) {
      const TopoDS_Edge& edge = loops[i][k];
      double first = 0, last = 0;
      BRep_Tool::Range(edge, forward, first, last);
      const Handle(Geom2d_Curve) curve = Handle(Geom2d_Curve)::DownCast(loop.curves[k]->Translated(gp_Vec2d(into, 0)));
      builder.UpdateEdge(edge, curve, surface, place, BRep_Tool::Tolerance(edge));
      builder.Range(edge, surface, place, first, last);
    }
    builder.Add(face, wireOf(loops[i]));
  }
  return face;
}

}  // namespace

bool bordersMeetSeam(const TopoDS_Face& face) {
  const TopoDS_Face forward = forwardOf(face);
  const BRepAdaptor_Surface surface(forward, false);
  if (!isRevolved(surface.GetType())) return false;
  if (hasSeamOrPoleInALoop(forward)) return true;
  if (surface.GetType() != GeomAbs_Sphere) return false;
  const auto loops = loopsInSpace(forward);
  if (!loops) return false;
  const gp_Sphere sphere = surface.Sphere();
  const gp_Ax3& axes = sphere.Position();
  return clearance(axes.Direction().XYZ(), axes.XDirection().XYZ(), borderOnSphere(*loops, sphere), 0) < nearRadians;
}

namespace {

/// Ends of the border's curves in the parameter plane, of which each beginning needs an end at the same place.
bool borderCloses(const TopoDS_Face& forward, const BRepAdaptor_Surface& surface) {
  const double jumpU = jump * (surface.IsUPeriodic() ? surface.UPeriod() : turn);
  const double jumpV = jump * (surface.IsVPeriodic() ? surface.VPeriod() : turn);
  const bool vIsLength = surface.GetType() == GeomAbs_Cone || surface.GetType() == GeomAbs_SurfaceOfRevolution;
  ShapeMap<std::vector<std::pair<gp_Pnt2d, int>>> endsAt;
  for (TopExp_Explorer it(forward, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge edge = TopoDS::Edge(it.Current());
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, forward, first, last);
    if (curve.IsNull()) return false;
    const bool reversed = edge.Orientation() == TopAbs_REVERSED;
    const TopoDS_Vertex from = TopExp::FirstVertex(edge, true), to = TopExp::LastVertex(edge, true);
    if (from.IsNull() || to.IsNull()) return false;
    endsAt[from].emplace_back(curve->Value(reversed ? last : first), 1);
    endsAt[to].emplace_back(curve->Value(reversed ? first : last), -1);
  }
  for (auto& [vertex, ends] : endsAt) {
    std::vector<char> matched(ends.size(), 0);
    for (std::size_t i = 0; i < ends.size(); ++i) {
      if (ends[i].second < 0) continue;
      bool found = false;
      for (std::size_t k = 0; k < ends.size() && !found; ++k) {
        if (ends[k].second > 0 || matched[k]) continue;
        const gp_Pnt2d &a = ends[i].first, &b = ends[k].first;
        if (std::abs(a.X() - b.X()) > jumpU || (!vIsLength && std::abs(a.Y() - b.Y()) > jumpV)) continue;
        matched[k] = 1;
        found = true;
      }
      if (!found) return false;
    }
  }
  return true;
}

double borderLength(const TopoDS_Face& face) {
  double length = 0;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
    if (BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) continue;
    const std::vector<gp_Pnt> points = pointsAlong(TopoDS::Edge(it.Current()), 8);
    for (std::size_t i = 1; i < points.size(); ++i) length += points[i - 1].Distance(points[i]);
  }
  return length;
}

/// What of the surface there is, in mm²; infinite where it does not end.
double wholeArea(const BRepAdaptor_Surface& surface) {
  if (surface.GetType() == GeomAbs_Sphere) return 2 * turn * std::pow(surface.Sphere().Radius(), 2);
  // One that crosses itself has the formula's area no more.
  if (surface.GetType() == GeomAbs_Torus && surface.Torus().MajorRadius() > surface.Torus().MinorRadius())
    return surface.Torus().Area();
  return std::numeric_limits<double>::infinity();
}

}  // namespace

bool borderIsTorn(const TopoDS_Face& face) {
  const TopoDS_Face forward = forwardOf(face);
  const BRepAdaptor_Surface surface(forward, false);
  if (!isRevolved(surface.GetType())) return false;
  // Of elementary surfaces the vector areas tell more.
  if (surface.GetType() == GeomAbs_SurfaceOfRevolution && !borderCloses(forward, surface)) return true;
  try {
    const FaceIntegrals integrals = signedIntegrals(forward);
    const double allowed = tolerance::balance * integrals.area + 2 * integrals.looseness * borderLength(forward);
    return !(integrals.area > 0) || integrals.area > wholeArea(surface) * (1 + tolerance::balance) ||
           integrals.disagreement > allowed;
  } catch (const Error&) {
    return true;
  }
}

std::optional<TopoDS_Face> turnedClear(const TopoDS_Face& face, SeamPlace place, Patch patch) {
  const TopoDS_Face forward = forwardOf(face);
  auto loops = loopsInSpace(forward);
  if (!loops || loops->empty()) return std::nullopt;
  const BRepAdaptor_Surface surface(forward, false);
  if (patch == Patch::Complement) {
    if (surface.GetType() != GeomAbs_Sphere) return std::nullopt;
    for (EdgeLoop& loop : *loops) {
      std::reverse(loop.begin(), loop.end());
      for (TopoDS_Edge& edge : loop) edge.Reverse();
    }
  }
  std::optional<TopoDS_Face> result;
  if (surface.GetType() == GeomAbs_Sphere)
    result = onTurnedSphere(forward, surface.Sphere(), *loops, place);
  else if (isRevolved(surface.GetType()))
    result = onTurnedAxis(forward, *loops);
  if (result) result->Orientation(face.Orientation());
  return result;
}

}  // namespace kervo
