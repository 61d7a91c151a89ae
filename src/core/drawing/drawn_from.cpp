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
constexpr int mostPoints = 1000;

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
      if (carrier->radius == 0) return put("line", {end(shape.at(0)), end(shape.at(1))});
      if (shape.closed()) return put("circle", {inner(carrier->centre)}, {carrier->radius});
      return put("arc", {inner(carrier->centre), end(shape.at(0)), end(shape.at(1))});
    }
    if (const auto* ellipse = dynamic_cast<const EllipseCurve*>(&shape)) {
      const std::vector<std::string> axes{inner(ellipse->centre()), inner(ellipse->end())};
      if (shape.closed()) return put("ellipse", axes, {ellipse->other()});
      return put("elliptical_arc", {axes[0], axes[1], end(shape.at(0)), end(shape.at(1))}, {ellipse->other()});
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

  void put(const std::string& kind, std::vector<std::string> points, std::vector<double> sizes = {}) {
    // Shorter than the gap: its ends became one.
    for (std::size_t i = 1; i < points.size(); ++i)
      if (points[i] == points[i - 1]) return;
    DrawnCurve curve = like_;
    curve.id = freeId(kind.substr(0, 1));
    curve.kind = kind;
    curve.points = std::move(points);
    curve.sizes = std::move(sizes);
    result.curves.push_back(std::move(curve));
  }

  void addSpline(const Spline& spline) {
    const bool oneSpan = spline.poles().size() == static_cast<std::size_t>(spline.degree()) + 1;
    if (oneSpan && spline.degree() <= Spline::highestDegree && !spline.closed()) {
      std::vector<std::string> points{end(spline.poles().front())};
      for (std::size_t i = 1; i + 1 < spline.poles().size(); ++i) points.push_back(inner(spline.poles()[i]));
      points.push_back(end(spline.poles().back()));
      put("control_spline", std::move(points));
      if (result.curves.empty()) return;
      DrawnCurve& curve = result.curves.back();
      curve.degree = spline.degree();
      if (std::any_of(spline.weights().begin(), spline.weights().end(), [](double weight) { return weight != 1; }))
        curve.weights = spline.weights();
      return;
    }
    for (int count = 9;; count = 2 * count - 1) {
      std::vector<PlanePoint> at;
      for (int i = 0; i < count - (spline.closed() ? 1 : 0); ++i)
        at.push_back(spline.at(static_cast<double>(i) / (count - 1)));
      const Spline through = Spline::through(at, spline.closed());
      double off = 0;
      for (int i = 0; i + 1 < count; ++i) {
        const PlanePoint wanted = spline.at((i + 0.5) / (count - 1));
        off = std::max(off, distance(through.at(through.nearest(wanted)), wanted));
      }
      if (off > splineError && count < mostPoints) continue;
      std::vector<std::string> points;
      for (std::size_t i = 0; i < at.size(); ++i)
        points.push_back(!spline.closed() && (i == 0 || i + 1 == at.size()) ? end(at[i]) : inner(at[i]));
      put("spline", std::move(points));
      result.curves.back().closed = spline.closed();
      return;
    }
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
