#include "drawing/drawn_from.h"

#include <algorithm>
#include <map>
#include <set>

#include "base/error.h"
#include "base/say.h"
#include "drawing/drawing_edits.h"

namespace kervo {

namespace {

/// How far a spline through points may be off what it stands for, mm.
constexpr double splineError = 1e-4;
constexpr std::size_t mostPoints = 1000;

class Drawer {
 public:
  Drawer(Drawing drawing, double gap, const DrawnCurve& like) : result(std::move(drawing)), gap_(gap), like_(like) {
    for (const DrawnPoint& point : result.points) ids_.insert(point.id);
    for (const DrawnCurve& curve : result.curves) ids_.insert(curve.id);
    for (const DrawnConstraint& constraint : result.constraints) ids_.insert(constraint.id);
    for (const DrawnCopies& copies : result.copies) ids_.insert(copies.id);
  }

  void add(const PlanarCurve& curve) {
    const PlaneCurve& shape = *curve.geometry;
    curve.geometry->require(say("curve \"%1\"", curve.id));
    if (const auto carrier = shape.carrier()) {
      if (carrier->radius == 0) return void(put("line", {end(shape.at(0)), end(shape.at(1))}));
      if (shape.closed()) return void(put("circle", {inner(carrier->centre)}, {carrier->radius}));
      return void(put("arc", {inner(carrier->centre), end(shape.at(0)), end(shape.at(1))}));
    }
    if (const auto* ellipse = dynamic_cast<const EllipseCurve*>(&shape)) {
      const std::vector<std::string> axes{inner(ellipse->centre()), inner(ellipse->end())};
      if (shape.closed()) return void(put("ellipse", axes, {ellipse->other()}));
      return void(put("elliptical_arc", {axes[0], axes[1], end(shape.at(0)), end(shape.at(1))}, {ellipse->other()}));
    }
    if (const auto* spline = dynamic_cast<const SplineCurve*>(&shape)) addSpline(spline->spline());
  }

  Drawing result;

 private:
  std::string freeId(const std::string& prefix) {
    for (int& number = last_[prefix];;)
      if (std::string id = prefix + std::to_string(++number); ids_.insert(id).second) return id;
  }

  std::string inner(PlanePoint at) {
    result.points.push_back({freeId("p"), at});
    return result.points.back().id;
  }

  std::string end(PlanePoint at) {
    const auto cell = [&](double x) { return static_cast<long long>(std::floor(x / gap_)); };
    for (long long i = cell(at.u) - 1; i <= cell(at.u) + 1; ++i)
      for (long long j = cell(at.v) - 1; j <= cell(at.v) + 1; ++j)
        if (const auto found = ends_.find({i, j}); found != ends_.end())
          for (const auto& [id, place] : found->second)
            if (distance(place, at) < gap_) return id;
    const std::string id = inner(at);
    ends_[{cell(at.u), cell(at.v)}].emplace_back(id, at);
    return id;
  }

  bool put(const std::string& kind, std::vector<std::string> points, std::vector<double> sizes = {}) {
    // Shorter than the gap: its ends became one.
    for (std::size_t i = 1; i < points.size(); ++i)
      if (points[i] == points[i - 1]) return false;
    DrawnCurve curve = like_;
    curve.id = freeId(kind.substr(0, 1));
    curve.kind = kind;
    curve.points = std::move(points);
    curve.sizes = std::move(sizes);
    result.curves.push_back(std::move(curve));
    return true;
  }

  /// Knots at which it may have a corner: they come as often as its degree.
  static std::vector<double> corners(const Spline& spline) {
    const auto degree = static_cast<std::size_t>(spline.degree());
    const std::vector<double>& knots = spline.knots();
    std::vector<double> found;
    for (std::size_t i = degree + 1; i + 1 < spline.poles().size() + 1; ++i)
      if (knots[i] > 0 && knots[i] < 1 && knots[i] == knots[i + degree - 1] &&
          (found.empty() || found.back() != knots[i]))
        found.push_back(knots[i]);
    return found;
  }

  void addSpline(const Spline& spline) {
    if (const std::vector<double> at = corners(spline); !at.empty()) {
      double from = 0;
      for (const double to : at) addSpline(spline.part(std::exchange(from, to), to));
      return addSpline(spline.part(from, 1));
    }
    if (isThroughItsKnots(spline)) return putThrough(spline, knotsOf(spline));
    if (spline.degree() <= Spline::highestDegree) return putControlled(spline);
    // Through points at its knots, then between them, where it is off.
    std::vector<double> at = knotsOf(spline);
    for (;;) {
      const Spline made = Spline::through(placesAt(spline, at), spline.closed());
      std::vector<double> finer;
      for (std::size_t i = 0; i + 1 < at.size(); ++i) {
        finer.push_back(at[i]);
        const double middle = (at[i] + at[i + 1]) / 2;
        const PlanePoint wanted = spline.at(middle);
        if (at.size() < (spline.closed() ? 4U : 3U) || distance(made.at(made.nearest(wanted)), wanted) > splineError)
          finer.push_back(middle);
      }
      finer.push_back(1);
      if (finer.size() == at.size() || at.size() >= mostPoints) break;
      at = std::move(finer);
    }
    putThrough(spline, at);
  }

  /// Different ones, from 0 to 1.
  static std::vector<double> knotsOf(const Spline& spline) {
    std::vector<double> at(spline.knots().begin() + spline.degree(), spline.knots().end() - spline.degree());
    at.erase(std::unique(at.begin(), at.end()), at.end());
    return at;
  }

  /// Whether the smooth curve through its points at the knots is the spline itself.
  static bool isThroughItsKnots(const Spline& spline) {
    const std::vector<double> at = knotsOf(spline);
    if (spline.degree() != 3 || at.size() < (spline.closed() ? 4U : 3U)) return false;
    const Spline made = Spline::through(placesAt(spline, at), spline.closed());
    for (std::size_t i = 0; i + 1 < at.size(); ++i) {
      const PlanePoint wanted = spline.at((at[i] + at[i + 1]) / 2);
      if (distance(made.at(made.nearest(wanted)), wanted) > tolerance::point) return false;
    }
    return true;
  }

  void putThrough(const Spline& spline, const std::vector<double>& at) {
    const std::vector<PlanePoint> through = placesAt(spline, at);
    std::vector<std::string> points;
    for (std::size_t i = 0; i < through.size(); ++i)
      points.push_back(!spline.closed() && (i == 0 || i + 1 == through.size()) ? end(through[i]) : inner(through[i]));
    if (put("spline", std::move(points))) result.curves.back().closed = spline.closed();
  }

  void putControlled(const Spline& spline) {
    const std::vector<PlanePoint>& poles = spline.poles();
    std::vector<std::string> points{end(poles.front())};
    for (std::size_t i = 1; i + 1 < poles.size(); ++i) points.push_back(inner(poles[i]));
    points.push_back(end(poles.back()));
    if (!put("control_spline", std::move(points))) return;
    DrawnCurve& curve = result.curves.back();
    curve.degree = spline.degree();
    if (std::any_of(spline.weights().begin(), spline.weights().end(), [](double weight) { return weight != 1; }))
      curve.weights = spline.weights();
    // One span has no others than uniform ones.
    if (poles.size() > static_cast<std::size_t>(spline.degree()) + 1) curve.knots = spline.knots();
  }

  /// A closed one comes back to its first point.
  static std::vector<PlanePoint> placesAt(const Spline& spline, const std::vector<double>& parameters) {
    std::vector<PlanePoint> places;
    for (const double at : parameters)
      if (!spline.closed() || at < 1) places.push_back(spline.at(at));
    return places;
  }

  double gap_;
  DrawnCurve like_;
  std::set<std::string> ids_;
  std::map<std::string, int> last_;
  std::map<std::pair<long long, long long>, std::vector<std::pair<std::string, PlanePoint>>> ends_;
};

}  // namespace

Drawing withDrawn(Drawing drawing, const std::vector<PlanarCurve>& curves, double gap, const DrawnCurve& like) {
  Drawer drawer(std::move(drawing), gap, like);
  for (const PlanarCurve& curve : curves) drawer.add(curve);
  return std::move(drawer.result);
}

}  // namespace kervo
