#include "geom/face_integrals.h"

#include <BRepAdaptor_Curve2d.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <array>
#include <numbers>

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

FaceIntegrals integratePlanar(const TopoDS_Face& face, const gp_Pln& plane) {
  // A left-handed plane's natural normal is against its axis.
  const double sign = plane.Direct() ? 1 : -1;
  const double area = loopArea(face.Oriented(TopAbs_FORWARD), plane) * sign;
  const double height = sign * plane.Location().XYZ().Dot(plane.Axis().Direction().XYZ());
  return {std::abs(area), area * height / 3};
}

/// Integrals of the surface's area and flux densities along u from a fixed u0, at one v: in closed form on cylinders,
/// cones, spheres and tori, by quadrature elsewhere.
class InnerIntegral {
 public:
  /// `start` is u0: any value, best one on the face's border.
  InnerIntegral(const BRepAdaptor_Surface& surface, double start) : surface_(surface), start_(start) {
    uIsAngle_ = surface.GetType() != GeomAbs_BSplineSurface && surface.GetType() != GeomAbs_BezierSurface &&
                surface.GetType() != GeomAbs_SurfaceOfExtrusion && surface.GetType() != GeomAbs_OffsetSurface &&
                surface.GetType() != GeomAbs_OtherSurface;
    if (!uIsAngle_) uKnots_ = knots();
  }

  /// ∫ from u0 to u of (|Su × Sv|, S·(Su × Sv)/3) du at v.
  FaceIntegrals at(double u, double v) const {
    if (const std::optional<Meridian> elementary = meridian(v)) return along(*elementary, u);
    FaceIntegrals sum;
    const auto parts = breaks(start_, u, uKnots_, uIsAngle_);
    for (std::size_t i = 0; i + 1 < parts.size(); ++i)
      gauss(parts[i], parts[i + 1], [&](double t, double weight) {
        gp_Pnt point;
        gp_Vec du, dv;
        surface_.D1(t, v, point, du, dv);
        const gp_Vec normal = du.Crossed(dv);
        sum.area += weight * normal.Magnitude();
        sum.flux += weight * gp_Vec(point.XYZ()).Dot(normal) / 3;
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
  FaceIntegrals along(const Meridian& m, double u) const {
    const gp_XYZ origin = m.axes.Location().XYZ();
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

/// ∮ (inner integral) dv over the edges in the parameter plane.
/// u at some point of the face's border.
double borderParameter(const TopoDS_Face& face) {
  const TopExp_Explorer edge(face, TopAbs_EDGE);
  if (!edge.More()) return 0;
  double first = 0, last = 0;
  const Handle(Geom2d_Curve) parameters = BRep_Tool::CurveOnSurface(TopoDS::Edge(edge.Current()), face, first, last);
  return parameters.IsNull() ? 0 : parameters->Value(first).X();
}

FaceIntegrals integrateCurved(const TopoDS_Face& face, const BRepAdaptor_Surface& surface) {
  const TopoDS_Face forward = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
  const InnerIntegral inner(surface, borderParameter(forward));
  const OuterParts outerParts(surface);
  FaceIntegrals total;
  for (TopExp_Explorer it(forward, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
    if (edge.Orientation() != TopAbs_FORWARD && edge.Orientation() != TopAbs_REVERSED) continue;
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) parameters = BRep_Tool::CurveOnSurface(edge, forward, first, last);
    if (parameters.IsNull()) throw Error("an edge of a face has no curve on the face's surface");
    const Geom2dAdaptor_Curve curve(parameters, first, last);
    if (curve.GetType() == GeomAbs_Line && std::abs(curve.Value(first).Y() - curve.Value(last).Y()) < 1e-14)
      continue;  // dv = 0
    const std::vector<double> parts = outerParts.of(curve, first, last);
    FaceIntegrals sum;
    for (std::size_t i = 0; i + 1 < parts.size(); ++i)
      gauss(parts[i], parts[i + 1], [&](double t, double weight) {
        gp_Pnt2d point;
        gp_Vec2d tangent;
        curve.D1(t, point, tangent);
        if (tangent.Y() == 0) return;
        const FaceIntegrals at = inner.at(point.X(), point.Y());
        sum.area += weight * tangent.Y() * at.area;
        sum.flux += weight * tangent.Y() * at.flux;
      });
    const double sign = edge.Orientation() == TopAbs_REVERSED ? -1 : 1;
    total.area += sign * sum.area;
    total.flux += sign * sum.flux;
  }
  return {std::abs(total.area), total.flux};
}

}  // namespace

namespace {

/// n·∫ (x − o) × dx along an edge: twice the area that the line from o sweeps. In closed form for lines and circles.
double sweptTwice(const BRepAdaptor_Curve& curve, const gp_Pnt& origin, const gp_Vec& normal) {
  const double first = curve.FirstParameter(), last = curve.LastParameter();
  if (curve.GetType() == GeomAbs_Line || curve.GetType() == GeomAbs_Circle) {
    const gp_Pnt from = curve.Value(first), to = curve.Value(last);
    if (curve.GetType() == GeomAbs_Line) return gp_Vec(origin, from).Crossed(gp_Vec(from, to)).Dot(normal);
    const gp_Circ circle = curve.Circle();
    const double around = gp_Vec(origin, circle.Location()).Crossed(gp_Vec(from, to)).Dot(normal);
    const gp_Dir axis = circle.XAxis().Direction().Crossed(circle.YAxis().Direction());
    return around + circle.Radius() * circle.Radius() * (last - first) * gp_Vec(axis).Dot(normal);
  }
  const auto parts = breaks(first, last, curveKnots(curve), turns(curve.GetType()));
  double sum = 0;
  for (std::size_t i = 0; i + 1 < parts.size(); ++i)
    gauss(parts[i], parts[i + 1], [&](double t, double weight) {
      gp_Pnt point;
      gp_Vec tangent;
      curve.D1(t, point, tangent);
      sum += weight * gp_Vec(origin, point).Crossed(tangent).Dot(normal);
    });
  return sum;
}

}  // namespace

double loopArea(const TopoDS_Shape& loop, const gp_Pln& plane) {
  const gp_Vec normal(plane.Axis().Direction());
  const gp_Pnt origin = plane.Location();
  double area = 0;
  for (TopExp_Explorer it(loop, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
    if (BRep_Tool::Degenerated(edge)) continue;
    if (edge.Orientation() != TopAbs_FORWARD && edge.Orientation() != TopAbs_REVERSED) continue;
    const BRepAdaptor_Curve curve(edge);
    const double sum = sweptTwice(curve, origin, normal);
    area += edge.Orientation() == TopAbs_REVERSED ? -sum / 2 : sum / 2;
  }
  return area;
}

FaceIntegrals integrate(const TopoDS_Face& face) {
  const BRepAdaptor_Surface surface(TopoDS::Face(face.Oriented(TopAbs_FORWARD)), false);
  return surface.GetType() == GeomAbs_Plane ? integratePlanar(face, surface.Plane()) : integrateCurved(face, surface);
}

}  // namespace kervo
