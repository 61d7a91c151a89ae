#include "geom/measure/face_integrals.h"

#include <BRepAdaptor_Curve2d.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <array>
#include <limits>
#include <numbers>
#include <unordered_map>

#include "base/say.h"
#include "geom/kernel/convert.h"
#include "geom/measure/border_quadrature.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// ∫∫ over an area in the parameter plane, or along a path in it.
struct Sums {
  double area = 0;
  double flux = 0;
  gp_XYZ vectorArea{0, 0, 0};  ///< of elementary surfaces only

  void add(double weight, const Sums& other) {
    area += weight * other.area;
    flux += weight * other.flux;
    vectorArea += other.vectorArea * weight;
  }
};

/// The parameter plane as the integrals run through it: the inner one along x, the outer one along y. Either (u, v) or,
/// turned by a quarter so that areas keep their sign, (v, −u).
struct Run {
  bool alongV = false;

  gp_Pnt2d operator()(const gp_Pnt2d& uv) const { return alongV ? gp_Pnt2d(uv.Y(), -uv.X()) : uv; }
  gp_Vec2d operator()(const gp_Vec2d& uv) const { return alongV ? gp_Vec2d(uv.Y(), -uv.X()) : uv; }
  /// And back.
  gp_Pnt2d uv(double x, double y) const { return alongV ? gp_Pnt2d(-y, x) : gp_Pnt2d(x, y); }
};

/// Integrals of the surface's area and flux densities along x from a fixed x0, at one y: in closed form on cylinders,
/// cones, spheres and tori, where x is u, by quadrature elsewhere.
class InnerIntegral {
 public:
  /// The flux is seen from `reference`.
  InnerIntegral(const BRepAdaptor_Surface& surface, const gp_Pnt& reference, const Run& run)
      : surface_(surface),
        run_(run),
        isAngle_(uIsAngle(surface.GetType())),
        knots_(innerKnots(surface, !run.alongV)),
        spans_(knots_.size() / 2 + 1),
        reference_(reference) {}
  /// Sets x0: any value for a border that closes in y, best one in its midst, since every span between costs time.
  void startAt(double start) { start_ = start; }

  /// ∫ from x0 to x of (|Su × Sv|, (S − reference)·(Su × Sv)/3) dx at y.
  Sums at(double x, double y) const {
    if (const std::optional<Meridian> elementary = meridian(y)) return along(*elementary, x);
    Sums sum;
    const auto parts = breaks(start_, x, knots_, isAngle_);
    for (std::size_t i = 0; i + 1 < parts.size(); ++i) {
      const Adaptor3d_Surface& span = spanAt((parts[i] + parts[i + 1]) / 2);
      gauss(parts[i], parts[i + 1], [&](double t, double weight) {
        gp_Pnt point;
        gp_Vec du, dv;
        const gp_Pnt2d uv = run_.uv(t, y);
        span.D1(uv.X(), uv.Y(), point, du, dv);
        const gp_Vec normal = du.Crossed(dv);
        sum.area += weight * normal.Magnitude();
        sum.flux += weight * gp_Vec(reference_, point).Dot(normal) / 3;
      });
    }
    return sum;
  }

 private:
  /// A copy of the surface for each span between knots. A copy keeps the polynomials of the span it was last asked
  /// about; with only one copy, recomputing them at every change of span took most of the time.
  const Adaptor3d_Surface& spanAt(double x) const {
    const auto before = static_cast<std::size_t>(std::upper_bound(knots_.begin(), knots_.end(), x) - knots_.begin());
    Handle(Adaptor3d_Surface)& span = spans_[before == 0 ? 0 : (before - 1) / 2];
    if (span.IsNull()) span = surface_.ShallowCopy();
    return *span;
  }

  /// A meridian of an elementary surface of revolution: S(u, v) = O + r(v) e(u) + z(v) Z.
  struct Meridian {
    gp_Ax3 axes;
    double r, z, drdv, dzdv;
  };

  std::optional<Meridian> meridian(double v) const {
    switch (surface_.GetType()) {
      case GeomAbs_Cylinder:
        return Meridian{surface_.Cylinder().Position(), surface_.Cylinder().Radius(), v, 0, 1};
      case GeomAbs_Cone: {
        const gp_Cone cone = surface_.Cone();
        const double sine = std::sin(cone.SemiAngle()), cosine = std::cos(cone.SemiAngle());
        return Meridian{cone.Position(), cone.RefRadius() + v * sine, v * cosine, sine, cosine};
      }
      case GeomAbs_Sphere: {
        const double radius = surface_.Sphere().Radius(), sine = std::sin(v), cosine = std::cos(v);
        return Meridian{surface_.Sphere().Position(), radius * cosine, radius * sine, -radius * sine, radius * cosine};
      }
      case GeomAbs_Torus: {
        const gp_Torus torus = surface_.Torus();
        const double tube = torus.MinorRadius(), sine = std::sin(v), cosine = std::cos(v);
        return Meridian{torus.Position(), torus.MajorRadius() + tube * cosine, tube * sine, -tube * sine,
                        tube * cosine};
      }
      default:
        return std::nullopt;
    }
  }

  /// Su × Sv = r (z' e − r' Z), so the density is r (z' (O·e + r) − r' (O·Z + z)), and its integral over u is closed.
  Sums along(const Meridian& m, double u) const {
    const gp_XYZ origin = m.axes.Location().XYZ() - reference_.XYZ();
    const double turn = u - start_;
    const double x = origin.Dot(m.axes.XDirection().XYZ()), y = origin.Dot(m.axes.YDirection().XYZ());
    const double radial = x * (std::sin(u) - std::sin(start_)) - y * (std::cos(u) - std::cos(start_));
    const double height = origin.Dot(m.axes.Direction().XYZ()) + m.z;
    const double flux = m.r * (m.dzdv * (radial + m.r * turn) - m.drdv * height * turn) / 3;
    // The natural normal points the other way if the axes are left-handed.
    const double sign = m.axes.Direct() ? 1 : -1;
    const gp_XYZ across = m.axes.XDirection().XYZ() * (std::sin(u) - std::sin(start_)) -
                          m.axes.YDirection().XYZ() * (std::cos(u) - std::cos(start_));
    const gp_XYZ vectorArea = (across * m.dzdv - m.axes.Direction().XYZ() * (m.drdv * turn)) * (m.r * sign);
    return {std::abs(m.r) * std::hypot(m.drdv, m.dzdv) * turn, sign * flux, vectorArea};
  }

  const BRepAdaptor_Surface& surface_;
  Run run_;
  bool isAngle_;
  std::vector<double> knots_;                             ///< and the middles between them
  mutable std::vector<Handle(Adaptor3d_Surface)> spans_;  ///< made when first used
  double start_ = 0;
  gp_Pnt reference_;
};

/// Strips narrower than this carry nothing that a double could tell from the rest.
constexpr double noStrip = 1e-10;
/// Where along an edge its distance from the surface is asked.
constexpr std::array<double, 5> askedAt{0, 0.17, 0.5, 0.83, 1};

FaceIntegrals integratePlanar(const TopoDS_Face& face, const gp_Pln& plane) {
  // A left-handed plane's natural normal is against its axis.
  const gp_XYZ normal = plane.Axis().Direction().XYZ() * (plane.Direct() ? 1 : -1);
  const gp_XYZ location = plane.Location().XYZ();
  FaceIntegrals result;
  gp_XYZ reference = location, vectorArea(0, 0, 0);
  bool isFirst = true;
  for (TopExp_Explorer it(face.Oriented(TopAbs_FORWARD), TopAbs_EDGE); it.More(); it.Next()) {
    if (!boundsFace(it.Current()) || BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) continue;
    const SpaceEdge edge(TopoDS::Edge(it.Current()));
    const auto height = [&](const gp_Pnt& point) { return (point.XYZ() - location).Dot(normal); };
    const double first = edge.curve.FirstParameter(), last = edge.curve.LastParameter();
    if (isFirst) {
      // In the plane, so that only strips beside it have a flux.
      const gp_Pnt point = edge.curve.Value(first);
      reference = point.XYZ() - normal * height(point);
      isFirst = false;
    }
    vectorArea += edge.swept(gp_Pnt(reference));
    double farthest = 0;
    for (const double at : askedAt)
      farthest = std::max(farthest, std::abs(height(edge.curve.Value(first + (last - first) * at))));
    result.looseness = std::max({result.looseness, farthest, edge.cornerGap});
    if (farthest < noStrip) continue;
    const auto parts = breaks(first, last, curveKnots(edge.curve), turns(edge.curve.GetType()));
    for (std::size_t i = 0; i + 1 < parts.size(); ++i)
      gauss(parts[i], parts[i + 1], [&](double t, double weight) {
        gp_Pnt point;
        gp_Vec tangent;
        edge.curve.D1(t, point, tangent);
        const double across = normal.Dot((point.XYZ() - reference).Crossed(tangent.XYZ()));
        result.flux -= edge.sign * weight * height(point) * across / 3;
      });
  }
  vectorArea *= 0.5;
  result.area = vectorArea.Dot(normal);
  result.vectorArea = fromPnt(gp_Pnt(vectorArea));
  result.reference = fromPnt(gp_Pnt(reference));
  return result;
}

/// Where the border of a curved face runs in the surface's parameters, closed at its corners: curves in the parameter
/// plane end a little beside each other, and an open loop would have an area that depends on where u begins.
class ParameterBorder {
 public:
  ParameterBorder(const BRepAdaptor_Surface& surface, const Run& run, const InnerIntegral& inner)
      : surface_(surface), run_(run), inner_(inner) {}

  /// From the end of an edge to its corner (sign 1) or back (−1).
  void join(const TopoDS_Vertex& corner, const gp_Pnt2d& end, double sign, Sums& total) {
    if (corner.IsNull()) return;
    const auto [place, isNew] = corners_.emplace(corner.TShape().get(), end);
    if (isNew) return;
    const gp_Pnt2d to = run_(nearestCopy(place->second, end, surface_)), from = run_(end);
    const double rise = to.Y() - from.Y();
    if (std::abs(rise) < tolerance::finest) return;
    gauss(0, 1, [&](double s, double weight) {
      total.add(sign * weight * rise, inner_.at(from.X() + s * (to.X() - from.X()), from.Y() + s * rise));
    });
  }

 private:
  const BRepAdaptor_Surface& surface_;
  const Run& run_;
  const InnerIntegral& inner_;
  std::unordered_map<const void*, gp_Pnt2d> corners_;
};

/// A point of the face's border in the parameters of its surface, and in space.
std::pair<gp_Pnt2d, gp_Pnt> borderPoint(const TopoDS_Face& face, const BRepAdaptor_Surface& surface) {
  gp_Pnt2d at(0, 0);
  const TopExp_Explorer edge(face, TopAbs_EDGE);
  if (edge.More()) {
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(TopoDS::Edge(edge.Current()), face, first, last);
    if (!curve.IsNull()) at = curve->Value(first);
  }
  return {at, surface.Value(at.X(), at.Y())};
}

/// The strip between an edge's curve on the surface, P, and the edge in space, C = P + δ: (P − o)·(δ × (P′ + δ′/2))/3.
double fluxOfStrip(const BRepAdaptor_Surface& surface, const Geom2dAdaptor_Curve& onSurface,
                   const std::vector<double>& parts, const BRepAdaptor_Curve& inSpace, const gp_Pnt& reference) {
  const double first = onSurface.FirstParameter(), start = inSpace.FirstParameter();
  const double rate = (inSpace.LastParameter() - start) / (onSurface.LastParameter() - first);
  double flux = 0;
  for (std::size_t i = 0; i + 1 < parts.size(); ++i)
    gauss(parts[i], parts[i + 1], [&](double t, double weight) {
      gp_Pnt2d parameters;
      gp_Vec2d change;
      onSurface.D1(t, parameters, change);
      gp_Pnt point, edgePoint;
      gp_Vec du, dv, tangent;
      surface.D1(parameters.X(), parameters.Y(), point, du, dv);
      inSpace.D1(start + (t - first) * rate, edgePoint, tangent);
      const gp_Vec along = du * change.X() + dv * change.Y(), across(point, edgePoint);
      flux += weight * gp_Vec(reference, point).Dot(across.Crossed((along + tangent * rate) * 0.5)) / 3;
    });
  return flux;
}

/// An edge of a loop, in the parameters of the face's surface.
struct LoopEdge {
  TopoDS_Edge edge;
  Geom2dAdaptor_Curve curve;
  double first, last;
  double sign;  ///< −1 for an edge that is run against its curve
};

std::vector<LoopEdge> edgesOfLoop(const TopoDS_Shape& loop, const TopoDS_Face& face) {
  std::vector<LoopEdge> result;
  for (TopExp_Explorer it(loop, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
    if (!boundsFace(edge)) continue;
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) parameters = BRep_Tool::CurveOnSurface(edge, face, first, last);
    if (parameters.IsNull()) throw Error(say("an edge of a face has no curve on the face's surface"));
    const double sign = edge.Orientation() == TopAbs_REVERSED ? -1 : 1;
    result.push_back({edge, Geom2dAdaptor_Curve(parameters, first, last), first, last, sign});
  }
  return result;
}

/// From least to most.
struct Extent {
  double low = std::numeric_limits<double>::max();
  double high = std::numeric_limits<double>::lowest();
};

/// How far a loop extends along x, roughly.
Extent extentOf(const std::vector<LoopEdge>& loop, const Run& run) {
  Extent extent;
  for (const LoopEdge& part : loop)
    for (const double share : askedAt) {
      const double x = run(part.curve.Value(part.first + (part.last - part.first) * share)).X();
      extent.low = std::min(extent.low, x);
      extent.high = std::max(extent.high, x);
    }
  return extent;
}

/// The way that crosses fewer spans of the surface. Along u wherever that has a closed form, or is an angle.
Run chosenRun(const BRepAdaptor_Surface& surface, const std::vector<std::vector<LoopEdge>>& loops) {
  if (uIsAngle(surface.GetType())) return {};
  std::array<std::ptrdiff_t, 2> crossed{};
  for (const bool alongV : {false, true}) {
    const std::vector<double> knots = surfaceKnots(surface, !alongV);
    for (const std::vector<LoopEdge>& loop : loops) {
      const Extent extent = extentOf(loop, {alongV});
      crossed[alongV ? 1 : 0] += std::upper_bound(knots.begin(), knots.end(), extent.high) -
                                 std::lower_bound(knots.begin(), knots.end(), extent.low);
    }
  }
  return {crossed[1] < crossed[0]};
}

/// A loop is closed along y if what it rises by is less than this share of an edge's rise.
constexpr double closesIn = 1e-3;

/// Where the inner integrals of a loop begin: in its midst, so that a small hole in a large surface costs little; but
/// at a place that all loops share if this one runs once round the surface along y.
double startOf(const std::vector<LoopEdge>& loop, const Run& run, double shared) {
  double net = 0, height = 0;
  for (const LoopEdge& part : loop) {
    const double rise = run(part.curve.Value(part.last)).Y() - run(part.curve.Value(part.first)).Y();
    net += part.sign * rise;
    height = std::max(height, std::abs(rise));
  }
  const Extent extent = extentOf(loop, run);
  return loop.empty() || std::abs(net) > height * closesIn ? shared : (extent.low + extent.high) / 2;
}

FaceIntegrals integrateCurved(const TopoDS_Face& face, const BRepAdaptor_Surface& surface) {
  const TopoDS_Face forward = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
  const auto [start, reference] = borderPoint(forward, surface);
  std::vector<std::vector<LoopEdge>> loops;
  for (TopoDS_Iterator loop(forward); loop.More(); loop.Next()) loops.push_back(edgesOfLoop(loop.Value(), forward));
  const Run run = chosenRun(surface, loops);
  InnerIntegral inner(surface, reference, run);
  const OuterParts outerParts(surface, !run.alongV);
  ParameterBorder border(surface, run, inner);
  FaceIntegrals result;
  Sums total;
  gp_XYZ vectorArea(0, 0, 0);
  const auto add = [&](const LoopEdge& part) {
    const auto& [edge, curve, first, last, sign] = part;
    border.join(TopExp::FirstVertex(edge), curve.Value(first), -sign, total);
    border.join(TopExp::LastVertex(edge), curve.Value(last), sign, total);
    const bool level = curve.GetType() == GeomAbs_Line &&
                       std::abs(run(curve.Value(first)).Y() - run(curve.Value(last)).Y()) < tolerance::finest;
    std::vector<double> parts;
    if (!level) {
      parts = outerParts.of(curve, first, last);
      for (std::size_t i = 0; i + 1 < parts.size(); ++i)
        gauss(parts[i], parts[i + 1], [&](double t, double weight) {
          gp_Pnt2d point;
          gp_Vec2d tangent;
          curve.D1(t, point, tangent);
          const gp_Pnt2d at = run(point);
          const double rise = run(tangent).Y();
          if (rise == 0) return;
          total.add(sign * weight * rise, inner.at(at.X(), at.Y()));
        });
    }
    if (BRep_Tool::Degenerated(edge)) return;
    const SpaceEdge inSpace(edge);
    vectorArea += inSpace.swept(reference);
    double farthest = 0;
    for (const double share : askedAt) {
      const gp_Pnt2d at = curve.Value(first + (last - first) * share);
      const double from = inSpace.curve.FirstParameter(), to = inSpace.curve.LastParameter();
      farthest =
          std::max(farthest, surface.Value(at.X(), at.Y()).Distance(inSpace.curve.Value(from + (to - from) * share)));
    }
    result.looseness = std::max({result.looseness, farthest, inSpace.cornerGap});
    if (farthest < noStrip) return;
    if (level) parts = outerParts.of(curve, first, last);
    total.flux += sign * fluxOfStrip(surface, curve, parts, inSpace.curve, reference);
  };
  for (const std::vector<LoopEdge>& loop : loops) {
    inner.startAt(startOf(loop, run, run(start).X()));
    for (const LoopEdge& part : loop) add(part);
  }
  result.area = total.area;
  result.flux = total.flux;
  result.vectorArea = fromPnt(gp_Pnt(vectorArea * 0.5));
  if (surface.GetType() <= GeomAbs_Torus) result.disagreement = (vectorArea * 0.5 - total.vectorArea).Modulus();
  result.reference = fromPnt(reference);
  return result;
}

}  // namespace

double loopArea(const TopoDS_Shape& loop, const gp_Pln& plane) {
  gp_XYZ swept(0, 0, 0);
  for (TopExp_Explorer it(loop, TopAbs_EDGE); it.More(); it.Next()) {
    if (!boundsFace(it.Current()) || BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) continue;
    swept += SpaceEdge(TopoDS::Edge(it.Current())).swept(plane.Location());
  }
  return swept.Dot(plane.Axis().Direction().XYZ()) / 2;
}

FaceIntegrals signedIntegrals(const TopoDS_Face& face) {
  const BRepAdaptor_Surface surface(TopoDS::Face(face.Oriented(TopAbs_FORWARD)), false);
  return surface.GetType() == GeomAbs_Plane ? integratePlanar(face, surface.Plane()) : integrateCurved(face, surface);
}

FaceIntegrals integrate(const TopoDS_Face& face) {
  FaceIntegrals result = signedIntegrals(face);
  result.area = std::abs(result.area);
  return result;
}

}  // namespace kervo
