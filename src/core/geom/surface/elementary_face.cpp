#include "geom/surface/elementary_face.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_ElementarySurface.hxx>
#include <algorithm>
#include <cmath>
#include <memory>
#include <numbers>

#include "base/say.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/elementary.h"
#include "geom/kernel/space_loops.h"
#include "geom/measure/border_quadrature.h"
#include "geom/surface/parameter_curve.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
constexpr int samplesAcross = 16, samplesPerEdge = 24;

TopoDS_Face forwardOf(const TopoDS_Face& face) {
  return TopoDS::Face(face.Oriented(TopAbs_FORWARD));
}

}  // namespace

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

namespace {

/// Parameters on an elementary surface.
class Target {
 public:
  explicit Target(const Handle(Geom_Surface) & surface) : surface_(surface) {}

  gp_Pnt2d at(const gp_Pnt& point) const { return parametersOn(surface_, point).value_or(gp_Pnt2d()); }
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

}  // namespace

FaceMaker reseatedOn(const TopoDS_Face& face, const Handle(Geom_Surface) & surface) {
  const auto reseating = std::make_shared<Reseating>(face, surface);
  return [reseating] { return reseating->made(); };
}

}  // namespace kervo
