#include "drawing/solver/drawing_equations.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "drawing/curve_kind.h"
#include "drawing/solver/formulas.h"

namespace kervo {

using formula::list;
using formula::point;
using formula::sign;

DrawingEquations::DrawingEquations(const Drawing& drawing, const DrawingValues& values, const std::vector<bool>& drives,
                                   Same same)
    : through(drawing.curves.size()),
      sizes(drawing.curves.size()),
      united(drawing.constraints.size(), 0),
      idle(drawing.constraints.size(), 0),
      drawing_(drawing),
      values_(values),
      drives_(drives),
      same_(same) {
  addPoints();
  for (std::size_t i = 0; i < drawing.curves.size(); ++i) addCurve(i);
  for (const TakenCurve& each : values.taken) addStill(each.curve);
  // Points that are made one are known before anything asks whether curves share an end.
  for (std::size_t i = 0; i < drawing.constraints.size(); ++i)
    if (drawing.constraints[i].kind == "coincident") addConstraint(i);
  for (std::size_t i = 0; i < drawing.constraints.size(); ++i)
    if (drawing.constraints[i].kind != "coincident") addConstraint(i);
}

void DrawingEquations::addPoints() {
  const auto place = [&](const std::string& id, ScalarPoint at) {
    named_.emplace(id, Named{Element::Point, places_.size()});
    places_.push_back(at);
    meeting_.emplace(at.u, places_.size());
    return at;
  };
  Box box;
  for (const DrawnPoint& each : drawing_.points) {
    points.push_back(place(each.id, {equations.unknown(each.last.u), equations.unknown(each.last.v)}));
    box.add(Point{each.last.u, each.last.v, 0});
  }
  if (!drawing_.points.empty()) extent = std::max(1.0, box.diagonal());
  const Scalar zero = equations.known(0), one = equations.known(1);
  const ScalarPoint origin = place(originId, {zero, zero});
  named_.emplace(uAxisId, Named{Element::Line, lines_.size()});
  lines_.push_back({origin, {one, zero}});
  named_.emplace(vAxisId, Named{Element::Line, lines_.size()});
  lines_.push_back({origin, {zero, one}});
}

Spline DrawingEquations::SplineShape::through(const Drawing& drawing, const std::vector<PlanePoint>& at) const {
  return still ? *still : splineOf(drawing.curves[curve], at);
}

bool DrawingEquations::SplineShape::closed(const Drawing& drawing) const {
  return still ? still->closed() : drawing.curves[curve].closed;
}

void DrawingEquations::addStill(const PlanarCurve& curve) {
  const auto place = [&](const std::string& id, PlanePoint at) {
    const ScalarPoint made{equations.known(at.u), equations.known(at.v)};
    named_.emplace(id, Named{Element::Point, places_.size()});
    places_.push_back(made);
    meeting_.emplace(made.u, places_.size());
    return made;
  };
  const PlaneCurve& geometry = *curve.geometry;
  std::vector<ScalarPoint> ends;
  if (!geometry.closed()) ends = {place(curve.id + ".from", geometry.at(0)), place(curve.id + ".to", geometry.at(1))};
  const auto name = [&](Element element, std::size_t index) { named_.emplace(curve.id, Named{element, index}); };
  switch (elementOf(geometry)) {
    case Element::Line:
      name(Element::Line, lines_.size());
      lines_.push_back({ends[0], ends[1]});
      break;
    case Element::Round: {
      const std::optional<Carrier> carrier = geometry.carrier();
      if (!carrier) break;
      name(Element::Round, rounds_.size());
      rounds_.push_back({place(curve.id + ".centre", carrier->centre), equations.known(carrier->radius), ends});
      break;
    }
    case Element::Ellipse: {
      const auto& ellipse = dynamic_cast<const EllipseCurve&>(geometry);
      name(Element::Ellipse, ellipses_.size());
      const PlanePoint end = ellipse.end();
      ellipses_.push_back({place(curve.id + ".centre", ellipse.centre()),
                           {equations.known(end.u), equations.known(end.v)},
                           equations.known(ellipse.other())});
      break;
    }
    default:
      name(Element::Spline, splines_.size());
      splines_.push_back({0, ends, dynamic_cast<const SplineCurve&>(geometry).spline()});
  }
}

void DrawingEquations::addCurve(std::size_t index) {
  const DrawnCurve& curve = drawing_.curves[index];
  if (curve.points.empty()) {
    for (const PlanarCurve& each : findCurveKind(curve.kind)->curves(curve.id, values_.numbers.at(index)))
      addStill(each);
    return;
  }
  std::vector<ScalarPoint> through;
  for (const std::string& id : curve.points) {
    this->through[index].push_back(named_.at(id).index);
    through.push_back(points[named_.at(id).index]);
  }
  for (const double size : curve.sizes) sizes[index].push_back(equations.unknown(size));
  const auto name = [&](Element element, std::size_t place) { named_.emplace(curve.id, Named{element, place}); };
  if (curve.kind == "line") {
    name(Element::Line, lines_.size());
    lines_.push_back({through[0], through[1]});
  } else if (curve.kind == "circle") {
    name(Element::Round, rounds_.size());
    rounds_.push_back({through[0], sizes[index][0]});
  } else if (curve.kind == "arc") {
    name(Element::Round, rounds_.size());
    const Scalar radius = equations.unknown(distance(equations.at(through[0]), equations.at(through[1])));
    for (const ScalarPoint end : {through[1], through[2]})
      rows(-1, list({through[0], end}, {radius}), 1,
           [](const Dual* x, Dual* r) { r[0] = length(point(x, 1) - point(x, 0)) - x[4]; });
    rounds_.push_back({through[0], radius, {through[1], through[2]}});
  } else if (curve.kind == "ellipse" || curve.kind == "elliptical_arc") {
    name(Element::Ellipse, ellipses_.size());
    const EllipseShape shape{through[0], through[1], sizes[index][0]};
    ellipses_.push_back(shape);
    for (std::size_t i = 2; i < through.size(); ++i) onCurve(-1, through[i], named_.at(curve.id));
  } else if (findCurveKind(curve.kind)->element == Element::Spline) {
    name(Element::Spline, splines_.size());
    splines_.push_back({index, through});
  }
}

std::vector<DrawingEquations::Named> DrawingEquations::elementsOf(const DrawnConstraint& constraint) const {
  std::vector<Named> given;
  std::vector<Element> elements;
  for (const std::string& id : constraint.on) {
    const auto found = named_.find(id);
    if (found == named_.end()) throw Error(say("the drawing has no point or curve \"%1\"", id));
    given.push_back(found->second);
    elements.push_back(found->second.element);
  }
  const ConstraintKind& kind = *findConstraintKind(constraint.kind);
  std::vector<std::size_t> order;
  if (!kind.fits(elements, &order)) throw Error(say("it can be on: %1", kind.wanted()));
  std::vector<Named> result;
  for (const std::size_t i : order) result.push_back(given[i]);
  return result;
}

void DrawingEquations::same(int constraint, Scalar a, Scalar b) {
  if (same_ == Same::One) {
    const bool wasOne = equations.root(a) == equations.root(b);
    if (equations.unite(a, b) || wasOne) {
      ++united[static_cast<std::size_t>(constraint)];
      if (wasOne) ++idle[static_cast<std::size_t>(constraint)];
      return;
    }
  }
  rows(constraint, {a, b}, 1, [](const Dual* x, Dual* r) { r[0] = x[0] - x[1]; });
}

void DrawingEquations::samePlace(int constraint, ScalarPoint a, ScalarPoint b) {
  same(constraint, a.u, b.u);
  same(constraint, a.v, b.v);
}

void DrawingEquations::fix(int constraint, Scalar scalar) {
  const double value = equations.value(scalar);
  if (same_ == Same::One) {
    ++united[static_cast<std::size_t>(constraint)];
    if (!equations.fix(scalar, value)) ++idle[static_cast<std::size_t>(constraint)];
    return;
  }
  rows(constraint, {scalar}, 1, [value](const Dual* x, Dual* r) { r[0] = x[0] - Dual(value); });
}

void DrawingEquations::computed(int constraint, std::vector<Scalar> scalars, std::size_t count,
                                std::function<void(const double*, double*)> formula) {
  equations.add(
      {.scalars = std::move(scalars), .rows = count, .computed = std::move(formula), .constraint = constraint});
}

double DrawingEquations::sideNow(ScalarPoint point, const LineShape& line) const {
  const PlanePoint from = equations.at(line.from), to = equations.at(line.to);
  return sign(cross(to - from, equations.at(point) - from));
}

double DrawingEquations::longer(const LineShape& a, const LineShape& b) const {
  const auto lengthOf = [&](const LineShape& line) { return distance(equations.at(line.from), equations.at(line.to)); };
  return std::max({lengthOf(a), lengthOf(b), tolerance::samplePoint});
}

bool DrawingEquations::meet(ScalarPoint a, ScalarPoint b) const {
  return meeting_.at(a.u) == meeting_.at(b.u);
}

std::vector<Scalar> DrawingEquations::scalarsOf(std::size_t index) const {
  std::vector<Scalar> scalars;
  const auto add = [&](ScalarPoint each) { scalars.insert(scalars.end(), {each.u, each.v}); };
  for (const std::string& id : drawing_.constraints[index].on) {
    const auto found = named_.find(id);
    if (found == named_.end()) continue;
    const std::size_t i = found->second.index;
    switch (found->second.element) {
      case Element::Point:
        add(places_[i]);
        break;
      case Element::Line:
        add(lines_[i].from), add(lines_[i].to);
        break;
      case Element::Round:
        add(rounds_[i].centre), scalars.push_back(rounds_[i].radius);
        break;
      case Element::Ellipse:
        add(ellipses_[i].centre), add(ellipses_[i].end), scalars.push_back(ellipses_[i].small);
        break;
      case Element::Spline:
        for (const ScalarPoint& each : splines_[i].points) add(each);
        break;
    }
  }
  return scalars;
}

}  // namespace kervo
