#include "geom/face_integrals.h"

#include <BRepAdaptor_Curve2d.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <array>
#include <numbers>
#include <unordered_map>

#include "geom/kernel/convert.h"

namespace kervo {

namespace {

// Gauss-Legendre nodes and weights on [-1, 1], 8 points (Abramowitz and Stegun, table 25.4).
constexpr std::array<double, 8> nodes{-0.9602898564975363, -0.7966664774136267, -0.5255324099163290,
                                      -0.1834346424956498, 0.1834346424956498,  0.5255324099163290,
                                      0.7966664774136267,  0.9602898564975363};
constexpr std::array<double, 8> weights{0.1012285362903763, 0.2223810344533745, 0.3137066458778873, 0.3626837833783620,
                                        0.3626837833783620, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763};
constexpr double widestSpanRadians = std::numbers::pi / 12;

/// Calls visit(parameter, weight) at the Gauss points of [from, to]; the weights carry the interval's sign.
template <class Visit>
void gauss(double from, double to, Visit&& visit) {
  const double half = (to - from) / 2;
  const double middle = (to + from) / 2;
  for (std::size_t i = 0; i < nodes.size(); ++i) visit(middle + half * nodes[i], half * weights[i]);
}

/// The breaks of an interval: its ends, knots inside, and equal parts so that no part turns more than 15°.
std::vector<double> breaks(double from, double to, const std::vector<double>& knots, bool isAngle) {
  std::vector<double> result{from};
  const auto [low, high] = std::minmax(from, to);
  std::vector<double> inner;
  for (double knot : knots)
    if (knot > low + 1e-12 && knot < high - 1e-12) inner.push_back(knot);
  if (from > to) std::reverse(inner.begin(), inner.end());
  inner.push_back(to);
  for (double next : inner) {
    const double start = result.back();
    const int parts =
        isAngle ? std::max(1, static_cast<int>(std::ceil(std::abs(next - start) / widestSpanRadians))) : 1;
    for (int i = 1; i <= parts; ++i) result.push_back(start + (next - start) * i / parts);
  }
  return result;
}

/// Every span of a free-form surface is halved: its rational pieces turn up to 90°.
std::vector<double> withMiddles(const std::vector<double>& knots) {
  std::vector<double> result;
  for (std::size_t i = 0; i < knots.size(); ++i) {
    if (i > 0) result.push_back((knots[i - 1] + knots[i]) / 2);
    result.push_back(knots[i]);
  }
  return result;
}

template <class Adaptor>
std::vector<double> curveKnots(const Adaptor& curve) {
  const int count = curve.NbIntervals(GeomAbs_CN);
  TColStd_Array1OfReal values(1, count + 1);
  curve.Intervals(values, GeomAbs_CN);
  return {values.begin(), values.end()};
}

bool turns(GeomAbs_CurveType type) {
  return type == GeomAbs_Circle || type == GeomAbs_Ellipse;
}

/// ∫∫ over an area in the parameter plane, or along a path in it.
struct Sums {
  double area = 0;
  double flux = 0;
};

/// Integrals of the surface's area and flux densities along u from a fixed u0, at one v: in closed form on cylinders,
/// cones, spheres and tori, by quadrature elsewhere.
class InnerIntegral {
 public:
  /// `start` is u0: any value, best one on the face's border. The flux is seen from `reference`.
  InnerIntegral(const BRepAdaptor_Surface& surface, double start, const gp_Pnt& reference)
      : surface_(surface), start_(start), reference_(reference) {
    uIsAngle_ = surface.GetType() != GeomAbs_BSplineSurface && surface.GetType() != GeomAbs_BezierSurface &&
                surface.GetType() != GeomAbs_SurfaceOfExtrusion && surface.GetType() != GeomAbs_OffsetSurface &&
                surface.GetType() != GeomAbs_OtherSurface;
    if (!uIsAngle_) uKnots_ = knots();
  }

  /// ∫ from u0 to u of (|Su × Sv|, (S − reference)·(Su × Sv)/3) du at v.
  Sums at(double u, double v) const {
    if (const std::optional<Meridian> elementary = meridian(v)) return along(*elementary, u);
    Sums sum;
    const auto parts = breaks(start_, u, uKnots_, uIsAngle_);
    for (std::size_t i = 0; i + 1 < parts.size(); ++i)
      gauss(parts[i], parts[i + 1], [&](double t, double weight) {
        gp_Pnt point;
        gp_Vec du, dv;
        surface_.D1(t, v, point, du, dv);
        const gp_Vec normal = du.Crossed(dv);
        sum.area += weight * normal.Magnitude();
        sum.flux += weight * gp_Vec(reference_, point).Dot(normal) / 3;
      });
    return sum;
  }

 private:
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
    return {std::abs(m.r) * std::hypot(m.drdv, m.dzdv) * turn, m.axes.Direct() ? flux : -flux};
  }

  std::vector<double> knots() const {
    const int count = surface_.NbUIntervals(GeomAbs_CN);
    TColStd_Array1OfReal values(1, count + 1);
    surface_.UIntervals(values, GeomAbs_CN);
    return withMiddles({values.begin(), values.end()});
  }

  const BRepAdaptor_Surface& surface_;
  bool uIsAngle_ = true;
  std::vector<double> uKnots_;
  double start_ = 0;
  gp_Pnt reference_;
};

/// The parameters that divide a curve in the parameter plane so that on each part the inner integral is smooth: at its
/// own knots, where it crosses knots of the surface along v, and where it has spanned 15°.
class OuterParts {
 public:
  explicit OuterParts(const BRepAdaptor_Surface& surface)
      : uIsAngle_(surface.GetType() != GeomAbs_BSplineSurface && surface.GetType() != GeomAbs_BezierSurface &&
                  surface.GetType() != GeomAbs_SurfaceOfExtrusion),
        vIsAngle_(surface.GetType() == GeomAbs_Sphere || surface.GetType() == GeomAbs_Torus) {
    const bool elementary = surface.GetType() <= GeomAbs_Torus;
    if (elementary) return;
    TColStd_Array1OfReal v(1, surface.NbVIntervals(GeomAbs_CN) + 1);
    surface.VIntervals(v, GeomAbs_CN);
    vKnots_ = withMiddles({v.begin(), v.end()});
    TColStd_Array1OfReal u(1, surface.NbUIntervals(GeomAbs_CN) + 1);
    surface.UIntervals(u, GeomAbs_CN);
    uKnots_ = {u.begin(), u.end()};
  }

  std::vector<double> of(const Geom2dAdaptor_Curve& curve, double first, double last) const {
    const std::vector<double> own = breaks(first, last, curveKnots(curve), turns(curve.GetType()));
    std::vector<double> result{first};
    for (std::size_t i = 0; i + 1 < own.size(); ++i) {
      const gp_Pnt2d a = curve.Value(own[i]), b = curve.Value(own[i + 1]), m = curve.Value((own[i] + own[i + 1]) / 2);
      std::vector<double> inner;
      if (curve.GetType() == GeomAbs_Line && std::abs(b.Y() - a.Y()) > 1e-14) {
        for (double knot : vKnots_) inner.push_back(own[i] + (own[i + 1] - own[i]) * (knot - a.Y()) / (b.Y() - a.Y()));
        if (std::abs(b.X() - a.X()) > 1e-14)
          for (double knot : uKnots_)
            inner.push_back(own[i] + (own[i + 1] - own[i]) * (knot - a.X()) / (b.X() - a.X()));
      }
      std::sort(inner.begin(), inner.end());
      const std::vector<double> pieces = breaks(own[i], own[i + 1], inner, false);
      int divide = 1;
      const auto span = [](double from, double middle, double to) {
        return std::abs(middle - from) + std::abs(to - middle);
      };
      const double angle =
          std::max(uIsAngle_ ? span(a.X(), m.X(), b.X()) : 0, vIsAngle_ ? span(a.Y(), m.Y(), b.Y()) : 0);
      divide = std::max(divide, static_cast<int>(std::ceil(angle / widestSpanRadians)));
      if (curve.GetType() != GeomAbs_Line)
        divide =
            std::max(divide, 1 + between(uKnots_, {a.X(), m.X(), b.X()}) + between(vKnots_, {a.Y(), m.Y(), b.Y()}));
      divide = std::min(divide, 64);
      for (std::size_t k = 0; k + 1 < pieces.size(); ++k)
        for (int part = 1; part <= divide; ++part)
          result.push_back(pieces[k] + (pieces[k + 1] - pieces[k]) * part / divide);
    }
    return result;
  }

 private:
  static int between(const std::vector<double>& knots, std::initializer_list<double> values) {
    const auto [low, high] = std::minmax(values);
    return static_cast<int>(std::count_if(knots.begin(), knots.end(),
                                          [low = low, high = high](double knot) { return knot > low && knot < high; }));
  }

  bool uIsAngle_;
  bool vIsAngle_;
  std::vector<double> uKnots_;
  std::vector<double> vKnots_;
};

/// ∫ (x − o) × dx along an edge: twice the vector area that the line from o sweeps. In closed form for lines and
/// circles.
gp_XYZ sweptTwice(const BRepAdaptor_Curve& curve, const gp_Pnt& origin) {
  const double first = curve.FirstParameter(), last = curve.LastParameter();
  if (curve.GetType() == GeomAbs_Line || curve.GetType() == GeomAbs_Circle) {
    const gp_XYZ from = curve.Value(first).XYZ(), to = curve.Value(last).XYZ();
    if (curve.GetType() == GeomAbs_Line) return (from - origin.XYZ()).Crossed(to - from);
    const gp_Circ circle = curve.Circle();
    const gp_XYZ axis = circle.XAxis().Direction().XYZ().Crossed(circle.YAxis().Direction().XYZ());
    return (circle.Location().XYZ() - origin.XYZ()).Crossed(to - from) +
           axis * (circle.Radius() * circle.Radius() * (last - first));
  }
  const auto parts = breaks(first, last, curveKnots(curve), turns(curve.GetType()));
  gp_XYZ sum(0, 0, 0);
  for (std::size_t i = 0; i + 1 < parts.size(); ++i)
    gauss(parts[i], parts[i + 1], [&](double t, double weight) {
      gp_Pnt point;
      gp_Vec tangent;
      curve.D1(t, point, tangent);
      sum += (point.XYZ() - origin.XYZ()).Crossed(tangent.XYZ()) * weight;
    });
  return sum;
}

/// An edge of a face's border in space, from corner to corner.
struct SpaceEdge {
  explicit SpaceEdge(const TopoDS_Edge& edge) : curve(edge), sign(edge.Orientation() == TopAbs_REVERSED ? -1 : 1) {
    const TopoDS_Vertex first = TopExp::FirstVertex(edge), last = TopExp::LastVertex(edge);
    const gp_Pnt start = curve.Value(curve.FirstParameter()), end = curve.Value(curve.LastParameter());
    from = first.IsNull() ? start : BRep_Tool::Pnt(first);
    to = last.IsNull() ? end : BRep_Tool::Pnt(last);
    cornerGap = std::max(from.Distance(start), to.Distance(end));
  }

  /// ∮ (x − o) × dx with the straight lines that join the curve's ends to the corners, signed by the orientation.
  gp_XYZ swept(const gp_Pnt& origin) const {
    gp_XYZ sum = sweptTwice(curve, origin);
    if (cornerGap > 0) {
      const gp_XYZ start = curve.Value(curve.FirstParameter()).XYZ(), end = curve.Value(curve.LastParameter()).XYZ();
      sum += (from.XYZ() - origin.XYZ()).Crossed(start - from.XYZ());
      sum += (end - origin.XYZ()).Crossed(to.XYZ() - end);
    }
    return sum * sign;
  }

  BRepAdaptor_Curve curve;
  double sign;
  gp_Pnt from, to;
  double cornerGap = 0;
};

bool bounds(const TopoDS_Shape& edge) {
  return edge.Orientation() == TopAbs_FORWARD || edge.Orientation() == TopAbs_REVERSED;
}

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
    if (!bounds(it.Current()) || BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) continue;
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
  result.area = std::abs(vectorArea.Dot(normal));
  result.vectorArea = fromPnt(gp_Pnt(vectorArea));
  result.reference = fromPnt(gp_Pnt(reference));
  return result;
}

/// Where the border of a curved face runs in the surface's parameters, closed at its corners: curves in the parameter
/// plane end a little beside each other, and an open loop would have an area that depends on where u begins.
class ParameterBorder {
 public:
  ParameterBorder(const BRepAdaptor_Surface& surface, const InnerIntegral& inner) : surface_(surface), inner_(inner) {}

  /// From the end of an edge to its corner (sign 1) or back (−1).
  void join(const TopoDS_Vertex& corner, const gp_Pnt2d& end, double sign, Sums& total) {
    if (corner.IsNull()) return;
    const auto [place, isNew] = corners_.emplace(corner.TShape().get(), end);
    if (isNew) return;
    const gp_Pnt2d at(nearest(place->second.X(), end.X(), surface_.IsUPeriodic(), period(true)),
                      nearest(place->second.Y(), end.Y(), surface_.IsVPeriodic(), period(false)));
    const double rise = at.Y() - end.Y();
    if (std::abs(rise) < 1e-14) return;
    gauss(0, 1, [&](double s, double weight) {
      const Sums sums = inner_.at(end.X() + s * (at.X() - end.X()), end.Y() + s * rise);
      total.area += sign * weight * rise * sums.area;
      total.flux += sign * weight * rise * sums.flux;
    });
  }

 private:
  double period(bool alongU) const {
    if (alongU) return surface_.IsUPeriodic() ? surface_.UPeriod() : 0;
    return surface_.IsVPeriodic() ? surface_.VPeriod() : 0;
  }
  static double nearest(double value, double to, bool periodic, double period) {
    return periodic ? value + period * std::round((to - value) / period) : value;
  }

  const BRepAdaptor_Surface& surface_;
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

FaceIntegrals integrateCurved(const TopoDS_Face& face, const BRepAdaptor_Surface& surface) {
  const TopoDS_Face forward = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
  const auto [start, reference] = borderPoint(forward, surface);
  const InnerIntegral inner(surface, start.X(), reference);
  const OuterParts outerParts(surface);
  ParameterBorder border(surface, inner);
  FaceIntegrals result;
  Sums total;
  gp_XYZ vectorArea(0, 0, 0);
  for (TopExp_Explorer it(forward, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
    if (!bounds(edge)) continue;
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) parameters = BRep_Tool::CurveOnSurface(edge, forward, first, last);
    if (parameters.IsNull()) throw Error("an edge of a face has no curve on the face's surface");
    const double sign = edge.Orientation() == TopAbs_REVERSED ? -1 : 1;
    const Geom2dAdaptor_Curve curve(parameters, first, last);
    border.join(TopExp::FirstVertex(edge), curve.Value(first), -sign, total);
    border.join(TopExp::LastVertex(edge), curve.Value(last), sign, total);
    const bool level =
        curve.GetType() == GeomAbs_Line && std::abs(curve.Value(first).Y() - curve.Value(last).Y()) < 1e-14;
    std::vector<double> parts;
    if (!level) {
      parts = outerParts.of(curve, first, last);
      for (std::size_t i = 0; i + 1 < parts.size(); ++i)
        gauss(parts[i], parts[i + 1], [&](double t, double weight) {
          gp_Pnt2d point;
          gp_Vec2d tangent;
          curve.D1(t, point, tangent);
          if (tangent.Y() == 0) return;
          const Sums at = inner.at(point.X(), point.Y());
          total.area += sign * weight * tangent.Y() * at.area;
          total.flux += sign * weight * tangent.Y() * at.flux;
        });
    }
    if (BRep_Tool::Degenerated(edge)) continue;
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
    if (farthest < noStrip) continue;
    if (level) parts = outerParts.of(curve, first, last);
    total.flux += sign * fluxOfStrip(surface, curve, parts, inSpace.curve, reference);
  }
  result.area = std::abs(total.area);
  result.flux = total.flux;
  result.vectorArea = fromPnt(gp_Pnt(vectorArea * 0.5));
  result.reference = fromPnt(reference);
  return result;
}

}  // namespace

double loopArea(const TopoDS_Shape& loop, const gp_Pln& plane) {
  gp_XYZ swept(0, 0, 0);
  for (TopExp_Explorer it(loop, TopAbs_EDGE); it.More(); it.Next()) {
    if (!bounds(it.Current()) || BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) continue;
    swept += SpaceEdge(TopoDS::Edge(it.Current())).swept(plane.Location());
  }
  return swept.Dot(plane.Axis().Direction().XYZ()) / 2;
}

FaceIntegrals integrate(const TopoDS_Face& face) {
  const BRepAdaptor_Surface surface(TopoDS::Face(face.Oriented(TopAbs_FORWARD)), false);
  return surface.GetType() == GeomAbs_Plane ? integratePlanar(face, surface.Plane()) : integrateCurved(face, surface);
}

}  // namespace kervo
