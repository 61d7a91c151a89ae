#include "geom/measure/border_quadrature.h"

#include <Geom_BSplineSurface.hxx>
#include <numbers>

#include "geom/tolerances.h"

namespace kervo {

namespace {
constexpr double widestSpanRadians = std::numbers::pi / 12;

/// Into how many parts an angle is divided; at most so many, since damaged files have angles without end.
int partsOf(double radians, int most) {
  const double parts = std::ceil(std::abs(radians) / widestSpanRadians);
  return parts < most ? std::max(1, static_cast<int>(parts)) : most;
}
}  // namespace

std::vector<double> breaks(double from, double to, const std::vector<double>& knots, bool isAngle) {
  std::vector<double> result{from};
  const auto [low, high] = std::minmax(from, to);
  std::vector<double> inner;
  for (double knot : knots)
    if (knot > low + tolerance::rounding && knot < high - tolerance::rounding) inner.push_back(knot);
  if (from > to) std::reverse(inner.begin(), inner.end());
  inner.push_back(to);
  for (double next : inner) {
    const double start = result.back();
    const int parts = isAngle ? partsOf(next - start, 1'000'000) : 1;
    for (int i = 1; i <= parts; ++i) result.push_back(start + (next - start) * i / parts);
  }
  return result;
}

std::vector<double> withMiddles(const std::vector<double>& knots) {
  std::vector<double> result;
  for (std::size_t i = 0; i < knots.size(); ++i) {
    if (i > 0) result.push_back((knots[i - 1] + knots[i]) / 2);
    result.push_back(knots[i]);
  }
  return result;
}

bool turns(GeomAbs_CurveType type) {
  return type == GeomAbs_Circle || type == GeomAbs_Ellipse;
}

bool uIsAngle(GeomAbs_SurfaceType type) {
  return type != GeomAbs_BSplineSurface && type != GeomAbs_BezierSurface && type != GeomAbs_SurfaceOfExtrusion &&
         type != GeomAbs_OffsetSurface && type != GeomAbs_OtherSurface;
}

std::vector<double> surfaceKnots(const BRepAdaptor_Surface& surface, bool alongU) {
  if (surface.GetType() == GeomAbs_BSplineSurface) {
    const Handle(Geom_BSplineSurface) spline = surface.BSpline();
    if (!(alongU ? spline->IsUPeriodic() : spline->IsVPeriodic()))
      return alongU ? knotsBetween(surface.FirstUParameter(), surface.LastUParameter(), spline->NbUKnots(),
                                   [&](int i) { return spline->UKnot(i); })
                    : knotsBetween(surface.FirstVParameter(), surface.LastVParameter(), spline->NbVKnots(),
                                   [&](int i) { return spline->VKnot(i); });
  }
  TColStd_Array1OfReal values(1, (alongU ? surface.NbUIntervals(GeomAbs_CN) : surface.NbVIntervals(GeomAbs_CN)) + 1);
  if (alongU)
    surface.UIntervals(values, GeomAbs_CN);
  else
    surface.VIntervals(values, GeomAbs_CN);
  return {values.begin(), values.end()};
}

std::vector<double> innerKnots(const BRepAdaptor_Surface& surface, bool alongU) {
  if (uIsAngle(surface.GetType())) return {};
  return withMiddles(surfaceKnots(surface, alongU));
}

OuterParts::OuterParts(const BRepAdaptor_Surface& surface, bool alongU)
    : uIsAngle_(surface.GetType() != GeomAbs_BSplineSurface && surface.GetType() != GeomAbs_BezierSurface &&
                surface.GetType() != GeomAbs_SurfaceOfExtrusion),
      vIsAngle_(surface.GetType() == GeomAbs_Sphere || surface.GetType() == GeomAbs_Torus) {
  const bool elementary = surface.GetType() <= GeomAbs_Torus;
  if (elementary) return;
  vKnots_ = surfaceKnots(surface, false);
  uKnots_ = surfaceKnots(surface, true);
  if (alongU)
    vKnots_ = withMiddles(vKnots_);
  else
    uKnots_ = withMiddles(uKnots_);
}

std::vector<double> OuterParts::crossings(const Geom2dAdaptor_Curve& curve, double from, double to) const {
  constexpr int steps = 8;
  std::vector<double> result;
  if (uKnots_.empty() && vKnots_.empty()) return result;
  const auto cross = [&](double low, double high, const std::vector<double>& knots, auto&& coordinate) {
    const auto [least, most] = std::minmax({coordinate(low), coordinate(high)});
    for (auto knot = std::upper_bound(knots.begin(), knots.end(), least); knot != knots.end() && *knot < most; ++knot) {
      double before = low, after = high;
      const bool rises = coordinate(low) < *knot;
      for (int halving = 0; halving < 48; ++halving) {
        const double middle = (before + after) / 2;
        ((coordinate(middle) < *knot) == rises ? before : after) = middle;
      }
      result.push_back(before);
    }
  };
  for (int step = 0; step < steps; ++step) {
    const double low = from + (to - from) * step / steps, high = from + (to - from) * (step + 1) / steps;
    cross(low, high, uKnots_, [&](double t) { return curve.Value(t).X(); });
    cross(low, high, vKnots_, [&](double t) { return curve.Value(t).Y(); });
  }
  return result;
}

std::vector<double> OuterParts::of(const Geom2dAdaptor_Curve& curve, double first, double last) const {
  const std::vector<double> own = breaks(first, last, curveKnots(curve), turns(curve.GetType()));
  std::vector<double> result{first};
  for (std::size_t i = 0; i + 1 < own.size(); ++i) {
    const gp_Pnt2d a = curve.Value(own[i]), b = curve.Value(own[i + 1]), m = curve.Value((own[i] + own[i + 1]) / 2);
    std::vector<double> inner;
    if (curve.GetType() == GeomAbs_Line) {
      const auto cross = [&](double from, double to, const std::vector<double>& knots) {
        if (std::abs(to - from) <= tolerance::finest) return;
        for (double knot : knots) inner.push_back(own[i] + (own[i + 1] - own[i]) * (knot - from) / (to - from));
      };
      cross(a.Y(), b.Y(), vKnots_);
      cross(a.X(), b.X(), uKnots_);
    } else {
      inner = crossings(curve, own[i], own[i + 1]);
    }
    std::sort(inner.begin(), inner.end());
    const std::vector<double> pieces = breaks(own[i], own[i + 1], inner, false);
    const auto span = [](double from, double middle, double to) {
      return std::abs(middle - from) + std::abs(to - middle);
    };
    const double angle = std::max(uIsAngle_ ? span(a.X(), m.X(), b.X()) : 0, vIsAngle_ ? span(a.Y(), m.Y(), b.Y()) : 0);
    const int divide = partsOf(angle, 64);
    for (std::size_t k = 0; k + 1 < pieces.size(); ++k)
      for (int part = 1; part <= divide; ++part)
        result.push_back(pieces[k] + (pieces[k + 1] - pieces[k]) * part / divide);
  }
  return result;
}

namespace {

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

}  // namespace

SpaceEdge::SpaceEdge(const TopoDS_Edge& edge) : curve(edge), sign(edge.Orientation() == TopAbs_REVERSED ? -1 : 1) {
  const TopoDS_Vertex first = TopExp::FirstVertex(edge), last = TopExp::LastVertex(edge);
  const gp_Pnt start = curve.Value(curve.FirstParameter()), end = curve.Value(curve.LastParameter());
  from = first.IsNull() ? start : BRep_Tool::Pnt(first);
  to = last.IsNull() ? end : BRep_Tool::Pnt(last);
  cornerGap = std::max(from.Distance(start), to.Distance(end));
}

gp_XYZ SpaceEdge::swept(const gp_Pnt& origin) const {
  gp_XYZ sum = sweptTwice(curve, origin);
  if (cornerGap > 0) {
    const gp_XYZ start = curve.Value(curve.FirstParameter()).XYZ(), end = curve.Value(curve.LastParameter()).XYZ();
    sum += (from.XYZ() - origin.XYZ()).Crossed(start - from.XYZ());
    sum += (end - origin.XYZ()).Crossed(to.XYZ() - end);
  }
  return sum * sign;
}

gp_Pnt2d nearestCopy(const gp_Pnt2d& point, const gp_Pnt2d& to, const BRepAdaptor_Surface& surface) {
  const auto nearest = [](double value, double wanted, double period) {
    return value + period * std::round((wanted - value) / period);
  };
  return {surface.IsUPeriodic() ? nearest(point.X(), to.X(), surface.UPeriod()) : point.X(),
          surface.IsVPeriodic() ? nearest(point.Y(), to.Y(), surface.VPeriod()) : point.Y()};
}

bool boundsFace(const TopoDS_Shape& edge) {
  return edge.Orientation() == TopAbs_FORWARD || edge.Orientation() == TopAbs_REVERSED;
}

}  // namespace kervo
