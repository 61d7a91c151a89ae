#include "geom/surface/face_chart.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <IntCurvesFace_Intersector.hxx>
#include <array>
#include <cmath>
#include <gp_Lin.hxx>
#include <optional>

#include "geom/kernel/call.h"
#include "geom/surface/skin.h"
#include "geom/surface/wrapping.h"

namespace kervo {

namespace {

constexpr double upright = 0.03;  // sine of the least angle between a plane's normal and a face

Error beyond() {
  return Error(say("the drawing reaches beyond the face"), "", say("Move it, make it smaller, or choose another face"));
}

class RoundChart : public FaceChart {
 public:
  RoundChart(const Plane& plane, const TopoDS_Face& face) : wrapping_(plane, face) {}
  gp_Pnt2d at(PlanePoint point) const override { return wrapping_.at(point); }

 private:
  Wrapping wrapping_;
};

/// Along the plane's normal.
class ProjectedChart : public FaceChart {
 public:
  ProjectedChart(const Plane& plane, const TopoDS_Face& face)
      : plane_(plane),
        surface_(face, false),
        finder_(std::make_unique<IntCurvesFace_Intersector>(face, tolerance::point)) {}

  gp_Pnt2d at(PlanePoint point) const override {
    const Point from = plane_.at(point.u, point.v);
    if (last_)
      if (const auto found = refined(from, *last_)) return *(last_ = found);
    last_ = refined(from, searched(from));
    if (!last_) throw beyond();
    return *last_;
  }

 private:
  /// The hit nearest to the plane; where the face lies on both sides of it, on that to which the normal looks, so that
  /// all of a drawing comes to one side.
  gp_Pnt2d searched(Point from) const {
    finder_->Perform(gp_Lin(toPnt(from), toDir(plane_.normal)), -tolerance::largestSize, tolerance::largestSize);
    std::optional<gp_Pnt2d> best;
    double least = 0;
    bool bestAhead = false;
    for (int i = 1; finder_->IsDone() && i <= finder_->NbPnt(); ++i) {
      const double far = std::abs(finder_->WParameter(i));
      const bool ahead = finder_->WParameter(i) > 0;
      if (best && (ahead == bestAhead ? far >= least : bestAhead)) continue;
      least = far;
      bestAhead = ahead;
      best = gp_Pnt2d(finder_->UParameter(i), finder_->VParameter(i));
    }
    if (!best) throw beyond();
    return *best;
  }

  /// By Newton's method, while it stays near to where it begins.
  std::optional<gp_Pnt2d> refined(Point from, gp_Pnt2d guess) const {
    double moved = 0;
    constexpr int most = 20;
    for (int i = 0; i < most; ++i) {
      gp_Pnt at;
      gp_Vec du, dv;
      surface_.D1(guess.X(), guess.Y(), at, du, dv);
      const Vector u = fromVec(du), v = fromVec(dv);
      const Vector off = fromPnt(at) - from;
      const double a = dot(u, plane_.x), b = dot(v, plane_.x), c = dot(u, plane_.y), d = dot(v, plane_.y);
      const double size = a * d - b * c;
      if (std::abs(size) < upright * length(cross(u, v)))
        throw Error(say("the face stands along the drawing's normal, or turns away from it"), "",
                    say("Wrap the drawing, or draw on a plane that faces it"));
      const double e = dot(off, plane_.x), f = dot(off, plane_.y);
      const double stepU = (e * d - f * b) / size, stepV = (f * a - e * c) / size;
      guess.SetCoord(guess.X() - stepU, guess.Y() - stepV);
      const double step = std::abs(stepU) * length(u) + std::abs(stepV) * length(v);
      moved += step;
      if (step < tolerance::parallel) return guess;
      // Far away another place would be found as well.
      if (i > 0 && step > moved / 2) return std::nullopt;
    }
    return std::nullopt;
  }

  Plane plane_;
  BRepAdaptor_Surface surface_;
  std::unique_ptr<IntCurvesFace_Intersector> finder_;
  mutable std::optional<gp_Pnt2d> last_;
};

/// Along geodesics, the straightest lines of a surface, from one place of it: each as long as it is drawn.
class GeodesicChart : public FaceChart {
 public:
  GeodesicChart(const Plane& plane, const TopoDS_Face& face) : surface_(face, false) {
    const Handle(Geom_Surface) geometry = BRep_Tool::Surface(face);
    GeomAPI_ProjectPointOnSurf nearest(toPnt(plane.origin), geometry);
    if (nearest.NbPoints() == 0) throw beyond();
    double u = 0, v = 0;
    nearest.LowerDistanceParameters(u, v);
    origin_.SetCoord(u, v);
    gp_Pnt at;
    surface_.D1(u, v, at, du_, dv_);
    const Vector normal = normalized(cross(fromVec(du_), fromVec(dv_)));
    const Vector x = plane.x - normal * dot(plane.x, normal);
    if (length(x) < upright || std::abs(dot(plane.normal, normal)) < upright)
      throw Error(say("the plane stands upright on the face"), "", say("Draw on a plane that faces it"));
    x_ = normalized(x);
    y_ = cross(normal, x_);
    if (dot(y_, plane.y) < 0) y_ = -y_;
  }

  gp_Pnt2d at(PlanePoint point) const override {
    const double far = std::hypot(point.u, point.v);
    if (far < tolerance::point) return origin_;
    const Vector way = (x_ * point.u + y_ * point.v) * (1 / far);
    State state{origin_.X(), origin_.Y(), 0, 0};
    std::tie(state[2], state[3]) = solved(du_, dv_, way);
    // Steps of a length, by the classical method of Runge and Kutta.
    constexpr int steps = 16;
    const double step = far / steps;
    for (int i = 0; i < steps; ++i) {
      const State a = rate(state), b = rate(plus(state, a, step / 2)), c = rate(plus(state, b, step / 2)),
                  d = rate(plus(state, c, step));
      for (std::size_t k = 0; k < state.size(); ++k) state[k] += step / 6 * (a[k] + 2 * b[k] + 2 * c[k] + d[k]);
    }
    return {state[0], state[1]};
  }

 private:
  /// u, v, and how they change along the way.
  using State = std::array<double, 4>;

  static State plus(State state, const State& rate, double step) {
    for (std::size_t k = 0; k < state.size(); ++k) state[k] += step * rate[k];
    return state;
  }

  /// A vector of the tangent plane in the surface's derivatives.
  static std::pair<double, double> solved(const gp_Vec& du, const gp_Vec& dv, Vector way) {
    const Vector u = fromVec(du), v = fromVec(dv);
    const double e = dot(u, u), f = dot(u, v), g = dot(v, v), size = e * g - f * f;
    if (size < tolerance::rounding * e * g)
      throw Error(say("the drawing reaches a place where the face has no direction"), "",
                  say("Move it away from there, or project it"));
    const double a = dot(way, u), b = dot(way, v);
    return {(a * g - b * f) / size, (b * e - a * f) / size};
  }

  /// A geodesic bends only along the normal: in the tangent plane its second derivative is none.
  State rate(const State& state) const {
    gp_Pnt at;
    gp_Vec du, dv, duu, dvv, duv;
    surface_.D2(state[0], state[1], at, du, dv, duu, dvv, duv);
    const Vector bend = fromVec(duu) * (state[2] * state[2]) + fromVec(duv) * (2 * state[2] * state[3]) +
                        fromVec(dvv) * (state[3] * state[3]);
    const auto [u, v] = solved(du, dv, -bend);
    return {state[2], state[3], u, v};
  }

  BRepAdaptor_Surface surface_;
  gp_Pnt2d origin_;
  gp_Vec du_, dv_;
  Vector x_, y_;
};

/// Geodesics found once on a grid, and a smooth map through them.
class TabulatedChart : public FaceChart {
 public:
  TabulatedChart(const TopoDS_Face& face, const GeodesicChart& exact, const std::array<double, 4>& around)
      : surface_(face, false) {
    constexpr double margin = 0.02, smallest = 1e-3;
    const double wide = std::max(around[1] - around[0], smallest), high = std::max(around[3] - around[2], smallest);
    low_ = {around[0] - margin * wide, around[2] - margin * high};
    size_ = {(1 + 2 * margin) * wide, (1 + 2 * margin) * high};
    constexpr int fewest = 12, most = 24;
    constexpr double wanted = 1e-4, enough = 1e-3;
    for (int cells = fewest;; cells *= 2) {
      fill(exact, cells);
      const double off = error(exact);
      if (off < wanted || (cells >= most && off < enough)) return;
      if (cells >= most)
        throw Error(say("the face is too uneven for the drawing to be wrapped over it"), "",
                    say("Project it, or choose another face"));
    }
  }

  gp_Pnt2d at(PlanePoint point) const override {
    const gp_Pnt value = map_->Value((point.v - low_.v) / size_.v, (point.u - low_.u) / size_.u);
    return {value.X(), value.Y()};
  }

 private:
  PlanePoint placeOf(double u, double v) const { return {low_.u + size_.u * u, low_.v + size_.v * v}; }

  void fill(const GeodesicChart& exact, int cells) {
    std::vector<double> parameters;
    for (int i = 0; i <= cells; ++i) parameters.push_back(static_cast<double>(i) / cells);
    Across across;
    const auto pointAt = [&](double u, double v) {
      const gp_Pnt2d at = exact.at(placeOf(u, v));
      return Point{at.X(), at.Y(), 0};
    };
    constexpr double step = 1e-3;
    const auto row = [&](double v) {
      std::vector<Point> points;
      for (const double u : parameters) points.push_back(pointAt(u, v));
      // From inside, to the second order.
      const auto slope = [&](double u, double by) {
        return (pointAt(u + by, v) * 4 - pointAt(u + 2 * by, v) - pointAt(u, v) * 3) * (1 / (2 * by));
      };
      return rowThrough(points, parameters, slope(0, step), slope(1, -step), across);
    };
    row(0);  // how it runs across is the same for all
    map_ = skin(row, 0, 1, cells, across);
  }

  /// The farthest that the map is off between places of the grid, mm.
  double error(const GeodesicChart& exact) const {
    double most = 0;
    constexpr int asked = 5;
    for (int i = 0; i < asked; ++i)
      for (int k = 0; k < asked; ++k) {
        const PlanePoint place = placeOf((i + 0.53) / asked, (k + 0.47) / asked);
        const gp_Pnt2d a = at(place), b = exact.at(place);
        most = std::max(most, surface_.Value(a.X(), a.Y()).Distance(surface_.Value(b.X(), b.Y())));
      }
    return most;
  }

  BRepAdaptor_Surface surface_;
  PlanePoint low_, size_;
  Handle(Geom_BSplineSurface) map_;
};

}  // namespace

std::unique_ptr<FaceChart> chartOf(const TopoDS_Face& face, const Plane& plane, Laying laying,
                                   const std::optional<std::array<double, 4>>& around) {
  if (laying == Laying::Projected) return std::make_unique<ProjectedChart>(plane, face);
  const GeomAbs_SurfaceType type = BRepAdaptor_Surface(face, false).GetType();
  if (type == GeomAbs_Cylinder || type == GeomAbs_Cone) return std::make_unique<RoundChart>(plane, face);
  auto exact = std::make_unique<GeodesicChart>(plane, face);
  if (!around) return exact;
  return std::make_unique<TabulatedChart>(face, *exact, *around);
}

}  // namespace kervo
