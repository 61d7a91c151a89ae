#include "drawing/curve_kind.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/error.h"
#include "base/say.h"
#include "drawing/text_outline.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
/// Half a size to begin with, mm.
constexpr double half = 10;

/// From one angle counter-clockwise to another: at least 0 and less than a turn.
double sweepBetween(double from, double to) {
  double sweep = std::fmod(to - from, turn);
  if (sweep < 0) sweep += turn;
  return sweep;
}

class LineKind : public CurveKind {
 public:
  LineKind()
      : CurveKind({.name = "line",
                   .numbers = {{later("from u"), lengthDimension},
                               {later("from v"), lengthDimension},
                               {later("to u"), lengthDimension},
                               {later("to v"), lengthDimension}},
                   .points = {later("from"), later("to")},
                   .element = Element::Line}) {}
  PlanarCurve through(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                      const std::vector<double>&) const override {
    return {curve.id, LineCurve(at[0], at[1])};
  }
  std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& n) const override {
    return {{id, LineCurve({n[0], n[1]}, {n[2], n[3]})}};
  }
  std::vector<double> about(PlanePoint middle) const override {
    return {middle.u - half, middle.v, middle.u + half, middle.v};
  }
};

class ArcKind : public CurveKind {
 public:
  ArcKind()
      : CurveKind({.name = "arc",
                   .numbers = {{later("centre u"), lengthDimension},
                               {later("centre v"), lengthDimension},
                               {later("radius"), lengthDimension},
                               {later("from angle"), angleDimension},
                               {later("to angle"), angleDimension}},
                   .points = {later("centre"), later("from"), later("to")},
                   .element = Element::Round}) {}
  PlanarCurve through(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                      const std::vector<double>&) const override {
    const PlanePoint from = at[1] - at[0], to = at[2] - at[0];
    const double angle = std::atan2(from.v, from.u);
    return {curve.id, ArcCurve(at[0], length(from), angle, angle + sweepBetween(angle, std::atan2(to.v, to.u)))};
  }
  std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& n) const override {
    return {{id, ArcCurve({n[0], n[1]}, n[2], n[3], n[3] + sweepBetween(n[3], n[4]))}};
  }
  std::vector<double> about(PlanePoint middle) const override { return {middle.u, middle.v, half, 0, turn / 4}; }
};

class CircleKind : public CurveKind {
 public:
  CircleKind()
      : CurveKind({.name = "circle",
                   .numbers = {{later("centre u"), lengthDimension},
                               {later("centre v"), lengthDimension},
                               {later("radius"), lengthDimension}},
                   .points = {later("centre")},
                   .sizes = {later("radius")},
                   .element = Element::Round}) {}
  PlanarCurve through(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                      const std::vector<double>& sizes) const override {
    return {curve.id, CircleCurve(at[0], sizes[0])};
  }
  std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& n) const override {
    return {{id, CircleCurve({n[0], n[1]}, n[2])}};
  }
  std::vector<double> about(PlanePoint middle) const override { return {middle.u, middle.v, half}; }
};

class RectangleKind : public CurveKind {
 public:
  RectangleKind()
      : CurveKind({.name = "rectangle",
                   .numbers = {{later("corner u"), lengthDimension},
                               {later("corner v"), lengthDimension},
                               {later("width"), lengthDimension},
                               {later("height"), lengthDimension}}}) {}
  std::optional<Element> part(const std::string& part) const override {
    for (const char* side : {"bottom", "right", "top", "left"}) {
      if (part == side) return Element::Line;
      if (part == std::string(side) + ".from" || part == std::string(side) + ".to") return Element::Point;
    }
    return std::nullopt;
  }
  std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& n) const override {
    const double u = n[0], v = n[1], width = n[2], height = n[3];
    for (const auto& [name, size] : {std::pair(later("width"), width), std::pair(later("height"), height)})
      if (!(size > 0))
        throw Error(say("the rectangle's %1 is %2 mm", say(name), formatNumber(size)), say("curve \"%1\"", id),
                    say("Type a size greater than zero"));
    const PlanePoint a{u, v}, b{u + width, v}, c{u + width, v + height}, d{u, v + height};
    return {{id + ".bottom", LineCurve(a, b)},
            {id + ".right", LineCurve(b, c)},
            {id + ".top", LineCurve(c, d)},
            {id + ".left", LineCurve(d, a)}};
  }
  std::vector<double> about(PlanePoint middle) const override {
    return {middle.u - half, middle.v - half / 2, 2 * half, half};
  }
};

class EllipseKind : public CurveKind {
 public:
  EllipseKind()
      : CurveKind({.name = "ellipse",
                   .points = {later("centre"), later("end of an axis")},
                   .sizes = {later("half the other axis")},
                   .element = Element::Ellipse}) {}
  PlanarCurve through(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                      const std::vector<double>& sizes) const override {
    return {curve.id, EllipseCurve(at[0], at[1], sizes[0], 0, turn)};
  }
};

class EllipticalArcKind : public CurveKind {
 public:
  EllipticalArcKind()
      : CurveKind({.name = "elliptical_arc",
                   .points = {later("centre"), later("end of an axis"), later("from"), later("to")},
                   .sizes = {later("half the other axis")},
                   .element = Element::Ellipse}) {}
  PlanarCurve through(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                      const std::vector<double>& sizes) const override {
    const EllipseCurve whole(at[0], at[1], sizes[0], 0, turn);
    const double from = whole.angleAt(at[2]);
    return {curve.id, EllipseCurve(at[0], at[1], sizes[0], from, from + sweepBetween(from, whole.angleAt(at[3])))};
  }
};

class SplineKind : public CurveKind {
 public:
  SplineKind()
      : CurveKind({.name = "spline",
                   .points = {later("point"), later("point")},
                   .morePoints = true,
                   .element = Element::Spline}) {}
  PlanarCurve through(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                      const std::vector<double>&) const override {
    for (std::size_t i = 0; i < at.size(); ++i)
      if ((i > 0 || curve.closed) && distance(at[i], at[(i + at.size() - 1) % at.size()]) < tolerance::smallestSize)
        throw Error(say("two neighbours among its points lie at one place"), say("curve \"%1\"", curve.id),
                    say("Move or remove one of them"));
    return {curve.id, SplineCurve(splineOf(curve, at))};
  }
  void require(const DrawnCurve& curve) const override {
    if (curve.closed && curve.points.size() < 3)
      throw Error(say("a closed spline needs three points"), say("curve \"%1\"", curve.id), say("Add a point"));
  }
};

class ControlSplineKind : public CurveKind {
 public:
  ControlSplineKind()
      : CurveKind({.name = "control_spline",
                   .points = {later("control point"), later("control point")},
                   .morePoints = true,
                   .element = Element::Spline}) {}
  PlanarCurve through(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                      const std::vector<double>&) const override {
    return {curve.id, SplineCurve(splineOf(curve, at))};
  }
  void require(const DrawnCurve& curve) const override {
    const std::string place = say("curve \"%1\"", curve.id);
    if (curve.degree < 1 || curve.degree > Spline::highestDegree)
      throw Error(say("a spline cannot have the degree %1", curve.degree), place,
                  say("Use 1 to %1", Spline::highestDegree));
    if (static_cast<int>(curve.points.size()) < curve.degree + (curve.closed ? 0 : 1) ||
        (curve.closed && curve.points.size() < 3))
      throw Error(say("a spline of degree %1 needs more points", curve.degree), place,
                  say("Add points, or lower the degree"));
    if (!curve.weights.empty() && curve.weights.size() != curve.points.size())
      throw Error(say("there are %1 weights for %2 points", curve.weights.size(), curve.points.size()), place,
                  say("Give one for each, or none"));
    if (!curve.knots.empty()) requireKnots(curve, place);
    for (const double weight : curve.weights)
      if (!(weight >= 1e-6 && weight <= 1e6))
        throw Error(say("the weight %1 is not between 1e-6 and 1e6", formatNumber(weight)), place,
                    say("Type another weight"));
  }

 private:
  static void requireKnots(const DrawnCurve& curve, const std::string& place) {
    const std::vector<double>& knots = curve.knots;
    const auto order = static_cast<std::size_t>(curve.degree) + 1;
    if (curve.closed)
      throw Error(say("a closed spline cannot have knots of its own"), place,
                  say("End it at its first point instead, or leave the knots out"));
    if (knots.size() != curve.points.size() + order)
      throw Error(say("there are %1 knots for %2 points", knots.size(), curve.points.size()), place,
                  say("Give as many as points and the degree and one more, or none"));
    const std::size_t last = knots.size() - order;
    const bool clamped = knots.front() == knots[order - 1] && knots.back() == knots[last] &&
                         (last == order || (knots[order - 1] < knots[order] && knots[last - 1] < knots[last]));
    // Inside, as often as the degree is a corner; once more would be a gap.
    bool gap = false;
    for (std::size_t i = order; i + order <= last; ++i) gap = gap || knots[i] == knots[i + order - 1];
    if (!clamped || gap || !std::is_sorted(knots.begin(), knots.end()) || !(knots.back() > knots.front()))
      throw Error(say("the knots do not grow from end to end"), place,
                  say("Give the first and the last once more than the degree, and none so often in between"));
  }
};

class TextKind : public CurveKind {
 public:
  TextKind()
      : CurveKind({.name = "text",
                   .points = {later("start")},
                   .besides = {{later("height"), lengthDimension}, {later("angle"), angleDimension}}}) {}
  std::vector<PlanarCurve> all(const DrawnCurve& curve, const std::vector<PlanePoint>& at, const std::vector<double>&,
                               const std::vector<double>& besides) const override {
    PlaneMotion motion = PlaneMotion::turn({}, besides.at(1));
    motion.by = at.at(0);
    return textOutline(curve.id, curve.text, besides.at(0), motion);
  }
};

}  // namespace

std::vector<PlanarCurve> CurveKind::all(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                                        const std::vector<double>& sizes, const std::vector<double>&) const {
  return {through(curve, at, sizes)};
}

PlanarCurve CurveKind::through(const DrawnCurve& curve, const std::vector<PlanePoint>&,
                               const std::vector<double>&) const {
  throw Error(say("a curve of this kind is given by numbers"), say("curve \"%1\"", curve.id));
}

void CurveKind::require(const DrawnCurve&) const {}

std::optional<Element> CurveKind::part(const std::string& part) const {
  for (const char* name : points)
    if (name == part) return Element::Point;
  return std::nullopt;
}

std::vector<PlanarCurve> CurveKind::curves(const std::string& id, const std::vector<double>&) const {
  throw Error(say("a curve of this kind goes through points"), say("curve \"%1\"", id));
}

std::vector<double> CurveKind::about(PlanePoint) const {
  return {};
}

Spline splineOf(const DrawnCurve& curve, const std::vector<PlanePoint>& points) {
  if (curve.kind == "spline") return Spline::through(points, curve.closed);
  if (curve.knots.empty()) return Spline::controlled(curve.degree, points, curve.weights, curve.closed);
  const bool closes = curve.points.front() == curve.points.back();
  return Spline::of(curve.degree, curve.knots, points, curve.weights, closes);
}

const std::vector<const CurveKind*>& curveKinds() {
  static const LineKind line;
  static const ArcKind arc;
  static const CircleKind circle;
  static const RectangleKind rectangle;
  static const EllipseKind ellipse;
  static const EllipticalArcKind ellipticalArc;
  static const SplineKind spline;
  static const ControlSplineKind controlSpline;
  static const TextKind text;
  static const std::vector<const CurveKind*> kinds{&line,          &arc,    &circle,        &rectangle, &ellipse,
                                                   &ellipticalArc, &spline, &controlSpline, &text};
  return kinds;
}

const CurveKind* findCurveKind(const std::string& name) {
  const auto& kinds = curveKinds();
  const auto found =
      std::find_if(kinds.begin(), kinds.end(), [&](const CurveKind* kind) { return kind->name == name; });
  return found == kinds.end() ? nullptr : *found;
}

}  // namespace kervo
