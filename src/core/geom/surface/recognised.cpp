#include "geom/surface/recognised.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <ElCLib.hxx>
#include <ElSLib.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_Circle.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Geom_SphericalSurface.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/say.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/space_loops.h"
#include "geom/measure/border_quadrature.h"
#include "geom/measure/soundness.h"
#include "geom/surface/face_workshop.h"
#include "geom/surface/fitted_surface.h"
#include "geom/surface/parameter_curve.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
constexpr int samplesAcross = 16, samplesPerEdge = 24;
/// Lines and circles in place of splines make edges no looser than this, mm.
constexpr double edgesFit = 1e-5;
/// Ends of an edge nearer than this are one, mm.
constexpr double oneEnd = 1e-5;

bool isFreeForm(const TopoDS_Face& face) {
  return BRepAdaptor_Surface(face, false).GetType() > GeomAbs_Torus;
}

std::string kindOf(const TopoDS_Face& face) {
  switch (BRepAdaptor_Surface(face, false).GetType()) {
    case GeomAbs_Plane:
      return later("plane");
    case GeomAbs_Cylinder:
      return later("cylinder");
    case GeomAbs_Cone:
      return later("cone");
    case GeomAbs_Sphere:
      return later("sphere");
    default:
      return later("torus");
  }
}

TopoDS_Face forwardOf(const TopoDS_Face& face) {
  return TopoDS::Face(face.Oriented(TopAbs_FORWARD));
}

/// Places inside of a face and along its border.
std::vector<SurfaceSample> samplesOf(const TopoDS_Face& face) {
  const TopoDS_Face forward = forwardOf(face);
  const BRepAdaptor_Surface surface(forward, false);
  std::vector<SurfaceSample> samples;
  const auto add = [&](const gp_Pnt2d& at) {
    gp_Pnt point;
    gp_Vec du, dv;
    surface.D1(at.X(), at.Y(), point, du, dv);
    const gp_Vec normal = du.Crossed(dv);
    if (normal.Magnitude() > tolerance::sameDirection * std::max(du.SquareMagnitude(), dv.SquareMagnitude()))
      samples.push_back({fromPnt(point), normalized(fromVec(normal))});
  };
  double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
  BRepTools::UVBounds(forward, u0, u1, v0, v1);
  BRepTopAdaptor_FClass2d inside(forward, tolerance::point);
  for (int i = 0; i < samplesAcross; ++i)
    for (int k = 0; k < samplesAcross; ++k) {
      const gp_Pnt2d at(u0 + (u1 - u0) * (i + 0.5) / samplesAcross, v0 + (v1 - v0) * (k + 0.5) / samplesAcross);
      if (inside.Perform(at) == TopAbs_IN) add(at);
    }
  for (TopExp_Explorer it(forward, TopAbs_EDGE); it.More(); it.Next()) {
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(TopoDS::Edge(it.Current()), forward, first, last);
    if (curve.IsNull()) continue;
    for (int i = 0; i <= samplesPerEdge; ++i) add(curve->Value(first + (last - first) * i / samplesPerEdge));
  }
  return samples;
}

/// Parameters on an elementary surface.
class Target {
 public:
  explicit Target(const Handle(Geom_Surface) & surface) : surface_(surface) {}

  gp_Pnt2d at(const gp_Pnt& point) const {
    double u = 0, v = 0;
    switch (surface_.GetType()) {
      case GeomAbs_Plane:
        ElSLib::Parameters(surface_.Plane(), point, u, v);
        break;
      case GeomAbs_Cylinder:
        ElSLib::Parameters(surface_.Cylinder(), point, u, v);
        break;
      case GeomAbs_Cone:
        ElSLib::Parameters(surface_.Cone(), point, u, v);
        break;
      case GeomAbs_Sphere:
        ElSLib::Parameters(surface_.Sphere(), point, u, v);
        break;
      default:
        ElSLib::Parameters(surface_.Torus(), point, u, v);
    }
    return {u, v};
  }
  gp_Pnt value(const gp_Pnt2d& at) const { return surface_.Value(at.X(), at.Y()); }
  bool isPlane() const { return surface_.GetType() == GeomAbs_Plane; }
  bool vTurns() const { return surface_.GetType() == GeomAbs_Torus; }
  /// The copy of parameters that is nearest to others.
  gp_Pnt2d nearTo(const gp_Pnt2d& at, const gp_Pnt2d& near) const {
    if (isPlane()) return at;
    const double u = at.X() + turn * std::round((near.X() - at.X()) / turn);
    return {u, vTurns() ? at.Y() + turn * std::round((near.Y() - at.Y()) / turn) : at.Y()};
  }
  /// Whether u says nothing at a point: at the pole of a sphere, the tip of a cone.
  bool isSingular(const gp_Pnt& point) const {
    if (surface_.GetType() != GeomAbs_Sphere && surface_.GetType() != GeomAbs_Cone) return false;
    const gp_Ax1 axis =
        surface_.GetType() == GeomAbs_Sphere ? surface_.Sphere().Position().Axis() : surface_.Cone().Axis();
    return gp_Lin(axis).Distance(point) < tolerance::samplePoint * 0.1;
  }
  gp_Vec normal(const gp_Pnt2d& at) const {
    gp_Pnt point;
    gp_Vec du, dv;
    surface_.D1(at.X(), at.Y(), point, du, dv);
    return du.Crossed(dv);
  }

 private:
  GeomAdaptor_Surface surface_;
};

/// How an edge ran in the parameters of a face before its surface changed.
struct OldRun {
  TopoDS_Edge edge;  ///< oriented as in its loop
  Handle(Geom2d_Curve) curve;
  double first = 0, last = 0;
};

/// One face to be put on an elementary surface.
class Reseating {
 public:
  Reseating(const TopoDS_Face& face, const Handle(Geom_Surface) & surface)
      : face_(face), forward_(forwardOf(face)), old_(forward_, false), surface_(surface) {
    for (TopoDS_Iterator loop(forward_); loop.More(); loop.Next()) {
      std::vector<OldRun>& runs = loops_.emplace_back();
      for (TopoDS_Iterator it(loop.Value()); it.More(); it.Next()) {
        OldRun run{TopoDS::Edge(it.Value()), {}, 0, 0};
        run.curve = BRep_Tool::CurveOnSurface(run.edge, forward_, run.first, run.last);
        if (run.curve.IsNull()) throw Error(say("an edge of a face has no curve on the face's surface"));
        runs.push_back(run);
      }
    }
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(forward_, u0, u1, v0, v1);
    base_ = {(u0 + u1) / 2, (v0 + v1) / 2};
  }

  /// With the edges as they are now. Nothing if it cannot be done well enough.
  std::optional<TopoDS_Face> made() {
    Target target(surface_);
    baseAt_ = target.at(old_.Value(base_.X(), base_.Y()));
    if (target.isPlane()) return onPlane();
    std::vector<std::vector<Handle(Geom2d_Curve)>> curves;
    double least = Box::infinity, leastV = Box::infinity;
    for (const std::vector<OldRun>& loop : loops_) {
      std::vector<Handle(Geom2d_Curve)>& made = curves.emplace_back();
      for (const OldRun& run : loop) {
        made.push_back(curveOn(target, run));
        if (made.back().IsNull()) return std::nullopt;
        double first = 0, last = 0;
        BRep_Tool::Range(run.edge, first, last);
        for (int i = 0; i <= samplesPerEdge; ++i) {
          const gp_Pnt2d at = made.back()->Value(first + (last - first) * i / samplesPerEdge);
          least = std::min(least, at.X());
          leastV = std::min(leastV, at.Y());
        }
      }
    }
    // Its seam lies where the face begins.
    const Handle(Geom_ElementarySurface) turned = Handle(Geom_ElementarySurface)::DownCast(surface_->Copy());
    turned->Rotate(turned->Axis(), least);
    const double upV = target.vTurns() ? -turn * std::floor(leastV / turn + tolerance::rounding) : 0;
    const BRep_Builder builder;
    TopoDS_Face face;
    builder.MakeFace(face, turned, BRep_Tool::Tolerance(forward_));
    const bool flips = flipped(target);
    for (std::size_t i = 0; i < loops_.size(); ++i) {
      TopoDS_Wire wire;
      builder.MakeWire(wire);
      for (std::size_t k = 0; k < loops_[i].size(); ++k) {
        const TopoDS_Edge& edge = loops_[i][k].edge;
        const auto movedCurve = [&](std::size_t number) {
          return Handle(Geom2d_Curve)::DownCast(curves[i][number]->Translated(gp_Vec2d(-least, upV)));
        };
        std::optional<std::size_t> twin;
        for (std::size_t other = 0; other < loops_[i].size(); ++other)
          if (other != k && loops_[i][other].edge.IsSame(edge)) twin = other;
        const double loose = std::max(BRep_Tool::Tolerance(edge), looseness(edge, target));
        if (!twin)
          builder.UpdateEdge(edge, movedCurve(k), turned, TopLoc_Location(), loose);
        else if (*twin > k)
          updateSeam(edge, movedCurve(k), movedCurve(*twin), turned, loose, flips);
        double first = 0, last = 0;
        BRep_Tool::Range(edge, first, last);
        builder.Range(edge, turned, TopLoc_Location(), first, last);
        loosenCorners(edge, loose);
        builder.Add(wire, edge);
      }
      wire.Closed(true);
      builder.Add(face, flips ? wire.Reversed() : wire);
    }
    return oriented(face, flips);
  }

 private:
  static void updateSeam(const TopoDS_Edge& edge, const Handle(Geom2d_Curve) & own, const Handle(Geom2d_Curve) & twin,
                         const Handle(Geom_Surface) & surface, double loose, bool flips) {
    const BRep_Builder builder;
    // A face whose loops run the other way uses the other curve.
    const bool reversed = (edge.Orientation() == TopAbs_REVERSED) != flips;
    builder.UpdateEdge(edge, reversed ? twin : own, reversed ? own : twin, surface, TopLoc_Location(), loose);
    builder.Continuity(edge, surface, surface, TopLoc_Location(), TopLoc_Location(), GeomAbs_CN);
  }

  static void loosenCorners(const TopoDS_Edge& edge, double loose) {
    const BRep_Builder builder;
    for (const TopoDS_Vertex& corner : {TopExp::FirstVertex(edge), TopExp::LastVertex(edge)}) {
      if (corner.IsNull()) continue;
      double apart = loose;
      if (!BRep_Tool::Degenerated(edge)) {
        const double at = BRep_Tool::Parameter(corner, edge);
        apart = std::max(apart, BRep_Tool::Pnt(corner).Distance(BRepAdaptor_Curve(edge).Value(at)));
      }
      builder.UpdateVertex(corner, apart);
    }
  }

  TopoDS_Face oriented(TopoDS_Face face, bool flips) const {
    face.Orientation(flips ? TopAbs::Reverse(face_.Orientation()) : face_.Orientation());
    return face;
  }

  /// Whether the new surface's front is the old one's back.
  bool flipped(const Target& target) const {
    for (const SurfaceSample& sample : samplesOf(forward_)) {
      const gp_Vec now = target.normal(target.at(toPnt(sample.at)));
      if (now.Magnitude() > tolerance::direction) return now.Dot(toVec(sample.normal)) < 0;
    }
    return false;
  }

  std::optional<TopoDS_Face> onPlane() const {
    // Seams and poles are no borders of a plane.
    const auto loops = loopsInSpace(forward_);
    if (!loops) return std::nullopt;
    const Target target(surface_);
    const BRep_Builder builder;
    TopoDS_Face face;
    builder.MakeFace(face, surface_, BRep_Tool::Tolerance(forward_));
    const bool flips = flipped(target);
    for (const EdgeLoop& loop : *loops) {
      TopoDS_Wire wire;
      builder.MakeWire(wire);
      for (const TopoDS_Edge& edge : loop) {
        const double loose = std::max(BRep_Tool::Tolerance(edge), looseness(edge, target));
        const BRepAdaptor_Curve curve(edge);
        const Handle(Geom2d_Curve) on = curveFollowing(
            [&](const std::vector<double>& at) {
              std::vector<gp_Pnt2d> points;
              for (const double t : at) points.push_back(target.at(curve.Value(t)));
              return points;
            },
            [&](double t, const gp_Pnt2d& is) { return target.at(curve.Value(t)).Distance(is); }, curveKnots(curve),
            tolerance::point);
        if (on.IsNull()) return std::nullopt;
        builder.UpdateEdge(edge, on, surface_, TopLoc_Location(), loose);
        builder.Range(edge, surface_, TopLoc_Location(), curve.FirstParameter(), curve.LastParameter());
        loosenCorners(edge, loose);
        builder.Add(wire, edge);
      }
      wire.Closed(true);
      builder.Add(face, flips ? wire.Reversed() : wire);
    }
    return oriented(face, flips);
  }

  /// How far an edge is from the new surface.
  static double looseness(const TopoDS_Edge& edge, const Target& target) {
    if (BRep_Tool::Degenerated(edge)) return 0;
    const BRepAdaptor_Curve curve(edge);
    double farthest = 0;
    for (int i = 0; i <= 2 * samplesPerEdge; ++i) {
      const gp_Pnt point = curve.Value(curve.FirstParameter() +
                                       (curve.LastParameter() - curve.FirstParameter()) * i / (2 * samplesPerEdge));
      farthest = std::max(farthest, point.Distance(target.value(target.at(point))));
    }
    return farthest;
  }

  /// The new parameters of an old place, followed from the middle of the face without a jump.
  gp_Pnt2d lifted(const Target& target, const gp_Pnt2d& old) const {
    constexpr int steps = 48;
    gp_Pnt2d at = baseAt_;
    for (int i = 1; i <= steps; ++i) {
      const double share = static_cast<double>(i) / steps;
      const gp_Pnt point =
          old_.Value(base_.X() + (old.X() - base_.X()) * share, base_.Y() + (old.Y() - base_.Y()) * share);
      if (!target.isSingular(point)) at = target.nearTo(target.at(point), at);
    }
    return at;
  }

  Handle(Geom2d_Curve) curveOn(const Target& target, const OldRun& run) const {
    double first = 0, last = 0;
    BRep_Tool::Range(run.edge, first, last);
    if (BRep_Tool::Degenerated(run.edge)) {
      const double v = target.at(BRep_Tool::Pnt(TopExp::FirstVertex(run.edge))).Y();
      // Seen from a little inside, since at the pole itself u says nothing.
      const gp_Pnt2d begins = run.curve->Value(run.first), ends = run.curve->Value(run.last);
      const bool alongU = std::abs(ends.X() - begins.X()) > std::abs(ends.Y() - begins.Y());
      constexpr double inside = 0.05;
      const auto end = [&](const gp_Pnt2d& at) {
        const gp_Pnt2d beside = alongU ? gp_Pnt2d(at.X(), at.Y() + (base_.Y() - at.Y()) * inside)
                                       : gp_Pnt2d(at.X() + (base_.X() - at.X()) * inside, at.Y());
        return gp_Pnt2d(lifted(target, beside).X(), v);
      };
      return curveThrough({first, last}, {end(begins), end(ends)});
    }
    const BRepAdaptor_Curve curve(run.edge);
    const gp_Pnt2d middle = run.curve->Value((run.first + run.last) / 2);
    const gp_Pnt2d anchor = lifted(target, middle);
    const double anchorAt = parameterNear(curve, old_.Value(middle.X(), middle.Y()));
    const auto pointsAt = [&](const std::vector<double>& at) {
      std::vector<gp_Pnt2d> points(at.size());
      const auto middlemost = static_cast<std::size_t>(std::min(
          std::lower_bound(at.begin(), at.end(), anchorAt) - at.begin(), static_cast<std::ptrdiff_t>(at.size()) - 1));
      const auto place = [&](std::size_t i, const gp_Pnt2d& before) {
        const gp_Pnt point = curve.Value(at[i]);
        const gp_Pnt2d now = target.at(point);
        points[i] = target.isSingular(point) ? gp_Pnt2d(before.X(), now.Y()) : target.nearTo(now, before);
      };
      for (std::size_t i = middlemost; i < at.size(); ++i) place(i, i == middlemost ? anchor : points[i - 1]);
      for (std::size_t i = middlemost; i-- > 0;) place(i, points[i + 1]);
      return points;
    };
    const auto off = [&](double t, const gp_Pnt2d& is) {
      const gp_Pnt point = curve.Value(t);
      return target.value(target.at(point)).Distance(target.value(is));
    };
    return curveFollowing(pointsAt, off, curveKnots(curve), tolerance::point);
  }

  static double parameterNear(const BRepAdaptor_Curve& curve, const gp_Pnt& point) {
    const double first = curve.FirstParameter(), last = curve.LastParameter();
    constexpr int asked = 128;
    double best = first, least = Box::infinity;
    for (int i = 0; i <= asked; ++i) {
      const double t = first + (last - first) * i / asked;
      const double apart = curve.Value(t).Distance(point);
      if (apart < least) least = apart, best = t;
    }
    return best;
  }

  TopoDS_Face face_, forward_;
  BRepAdaptor_Surface old_;
  Handle(Geom_Surface) surface_;
  std::vector<std::vector<OldRun>> loops_;
  gp_Pnt2d base_, baseAt_;
};

/// A line or a circle along an edge, with the parameters of its ends.
struct SimpleCurve {
  Handle(Geom_Curve) curve;
  double first = 0, last = 0;
};

std::optional<SimpleCurve> simpleCurve(const TopoDS_Edge& edge, double tolerance) {
  const BRepAdaptor_Curve curve(edge);
  if (curve.GetType() <= GeomAbs_Parabola) return std::nullopt;
  constexpr int spans = 4 * samplesPerEdge;
  std::vector<Point> points;
  for (int i = 0; i <= spans; ++i)
    points.push_back(
        fromPnt(curve.Value(curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * i / spans)));
  const Vector way = points.back() - points.front();
  const double whole = length(way);
  if (whole > tolerance::smallestSize) {
    const Vector direction = way * (1 / whole);
    const bool straight = std::all_of(points.begin(), points.end(), [&](Point point) {
      return length(cross(point - points.front(), direction)) <= tolerance;
    });
    if (straight) return SimpleCurve{new Geom_Line(toPnt(points.front()), toDir(direction)), 0, whole};
  }
  auto circle = fittedCircle(points);
  if (!circle || circle->off > tolerance) return std::nullopt;
  Plane axes = circle->axes;
  if (dot(points[1] - points[0], axes.y) < 0) axes = {axes.origin, axes.x, -axes.y, -axes.normal};
  const Vector end = axes.coordinates(points.back());
  double angle = std::atan2(end.y, end.x);
  if (whole < oneEnd || angle <= 0) angle += turn;
  if (whole < oneEnd) angle = turn;
  return SimpleCurve{new Geom_Circle(gp_Ax2(toPnt(axes.origin), toDir(axes.normal), toDir(axes.x)), circle->radius), 0,
                     angle};
}

/// The surface with other axes where these matter: on a sphere poles lie where the face has its own, or else outside of
/// it. Several to be tried.
std::vector<Handle(Geom_Surface)> withAxesTried(const Handle(Geom_ElementarySurface) & surface,
                                                const TopoDS_Face& face) {
  const Handle(Geom_SphericalSurface) sphere = Handle(Geom_SphericalSurface)::DownCast(surface);
  if (sphere.IsNull()) return {Handle(Geom_Surface)(surface)};
  const Point centre = fromPnt(sphere->Location());
  std::vector<Vector> poles;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next())
    if (BRep_Tool::Degenerated(TopoDS::Edge(it.Current())))
      poles.push_back(fromPnt(BRep_Tool::Pnt(TopExp::FirstVertex(TopoDS::Edge(it.Current())))) - centre);
  if (poles.empty()) {
    Vector mean;
    std::vector<Point> places;
    for (const SurfaceSample& sample : samplesOf(face)) {
      mean = mean + (sample.at - centre);
      places.push_back(sample.at);
    }
    const Plane across = length(mean) > tolerance::smallestSize ? Plane::through(centre, mean) : Plane();
    // A zone has its poles beside its borders, which are circles.
    if (const auto circle = fittedCircle(places)) poles.push_back(circle->axes.normal);
    for (const Vector& pole : {across.x, across.y, across.x + across.y, across.x - across.y}) poles.push_back(pole);
  }
  std::vector<Handle(Geom_Surface)> result;
  for (const Vector& pole : poles)
    result.push_back(new Geom_SphericalSurface(
        gp_Ax3(toPnt(centre), toDir(pole), toDir(Plane::through(centre, pole).x)), sphere->Radius()));
  return result;
}

/// By how much the volume may change if no face moves by more than the tolerance, mm³.
double allowedChange(const Shape& shape, double tolerance) {
  return shape.area() * tolerance + tolerance::balance * std::abs(shape.volume());
}

/// `spared`: faces, by their numbers, that are left as they are; those that could not be put on their new surface are
/// added, and then the result does not count.
Recognised attempt(const Shape& shape, const std::set<std::string>& only, double tolerance, bool edgesToo,
                   std::set<int>& spared, Progress& progress) {
  Recognised result{shape, {}, 0, 0, 0};
  FaceWorkshop workshop(shape);
  std::vector<FaceWorkshop::Place>& places = workshop.faces();
  const std::vector<TopoDS_Face> given = facesOf(shape.body().topology);
  // What came damaged is not to be told as damaged here.
  for (std::size_t i = 0; i < places.size(); ++i) places[i].facts.flawed = factsOf(shape, given[i]).flawed;
  std::vector<std::vector<Handle(Geom_Surface)>> targets(places.size());
  std::vector<char> changes(places.size(), 0);
  for (std::size_t i = 0; i < places.size(); ++i) {
    progress.throwIfStopped();
    progress.report(0.7 * static_cast<double>(i) / static_cast<double>(places.size()));
    const TopoDS_Face& face = places[i].face;
    if (!isFreeForm(face)) {
      Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
      if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(surface); !trimmed.IsNull())
        surface = trimmed->BasisSurface();
      targets[i] = {surface};
      continue;
    }
    const std::vector<std::string>& names = *places[i].facts.origins;
    if (!only.empty() &&
        std::none_of(names.begin(), names.end(), [&](const std::string& name) { return only.contains(name); }))
      continue;
    const auto fitted = spared.contains(places[i].number) ? std::nullopt : fittedSurface(samplesOf(face), tolerance);
    if (!fitted) {
      ++result.left;
      continue;
    }
    targets[i] = withAxesTried(fitted->surface, face);
    changes[i] = 1;
    result.off = std::max(result.off, fitted->off);
  }
  if (std::none_of(changes.begin(), changes.end(), [](char each) { return each; })) return result;

  // Before any edge changes, since the old runs are asked for.
  std::vector<std::vector<Reseating>> reseatings(places.size());
  ShapeMap<std::vector<std::size_t>> facesAt;
  for (std::size_t i = 0; i < places.size(); ++i) {
    for (const auto& target : targets[i]) reseatings[i].emplace_back(places[i].face, target);
    for (TopExp_Explorer it(places[i].face, TopAbs_EDGE); it.More(); it.Next()) facesAt[it.Current()].push_back(i);
  }
  const BRep_Builder builder;
  for (const auto& [shapeOfEdge, faces] : facesAt) {
    const TopoDS_Edge edge = TopoDS::Edge(shapeOfEdge.Oriented(TopAbs_FORWARD));
    const bool known = std::all_of(faces.begin(), faces.end(), [&](std::size_t i) { return !targets[i].empty(); });
    const bool touched = std::any_of(faces.begin(), faces.end(), [&](std::size_t i) { return changes[i] != 0; });
    if (!edgesToo || !known || !touched || BRep_Tool::Degenerated(edge)) continue;
    const auto simple = simpleCurve(edge, std::min(tolerance, edgesFit));
    if (!simple) continue;
    builder.UpdateEdge(edge, simple->curve, TopLoc_Location(), BRep_Tool::Tolerance(edge));
    builder.Range(edge, simple->first, simple->last);
    ++result.edges;
    for (const std::size_t i : faces)
      if (!changes[i]) changes[i] = 2;
  }
  for (std::size_t i = 0; i < places.size(); ++i) {
    if (!changes[i]) continue;
    const double area = integrate(given[i]).area;
    std::optional<TopoDS_Face> made;
    for (Reseating& reseating : reseatings[i]) {
      try {
        made = reseating.made();
      } catch (const Standard_Failure&) {
        made.reset();  // and is told below, as one that could not be done
      }
      constexpr double sameShare = 1e-4;
      if (made && std::abs(signedIntegrals(*made).area - area) <= sameShare * area + 10 * tolerance * std::sqrt(area))
        break;
      made.reset();
    }
    if (!made) {
      spared.insert(places[i].number);
      continue;
    }
    if (changes[i] == 1) ++result.kinds[kindOf(*made)];
    places[i].facts.flawed = false;
    workshop.replace(places[i], *made);
  }
  result.shape = workshop.result(shape).shape;
  BRepTools::RemoveUnusedPCurves(result.shape.body().topology);
  // Faces that did not change are taken for what they were.
  FaceTable table = result.shape.body().faces;
  markChecked(result.shape.body(), table, progress);
  for (std::size_t i = 0; i < places.size(); ++i)
    if (const auto facts = table.find(places[i].face); changes[i] && facts != table.end() && facts->second.flawed)
      spared.insert(places[i].number);
  return result;
}

}  // namespace

Recognised recognised(const Shape& given, const std::set<std::string>& only, double tolerance, Progress& progress) {
  const Shape shape = examined(given, progress);
  return kernelCall("recognising surfaces", [&] {
    // Lines and circles first; where they do not fit together, edges as they are.
    Recognised found{shape, {}, 0, 0, 0};
    std::string fault;
    for (const bool edgesToo : {true, false}) {
      std::set<int> spared;
      for (std::size_t before = 0;; before = spared.size()) {
        progress.throwIfStopped();
        found = attempt(shape, only, tolerance, edgesToo, spared, progress);
        if (spared.size() == before) break;
      }
      if (found.kinds.empty()) {
        found.shape = shape;
        if (spared.empty()) return found;
        continue;
      }
      fault = findFault(found.shape.body(), progress);
      if (found.shape.kind() != shape.kind() ||
          std::abs(found.shape.volume() - shape.volume()) > allowedChange(shape, tolerance))
        fault = say("the body would become another one");
      if (fault.empty()) return found;
    }
    if (!fault.empty())
      throw Error(say("the recognised faces do not fit together: %1", fault), "",
                  say("Choose single faces, or another tolerance"));
    return found;
  });
}

}  // namespace kervo
