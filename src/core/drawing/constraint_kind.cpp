#include "drawing/constraint_kind.h"

#include <algorithm>
#include <numeric>

#include "base/error.h"
#include "base/say.h"
#include "drawing/curve_kind.h"

namespace kervo {

namespace {

using enum Element;

/// Assigns every element of the pattern one of `on`.
bool assign(const std::vector<Element>& wanted, const std::vector<Element>& on, std::vector<std::size_t>& order) {
  std::vector<bool> taken(on.size(), false);
  order.clear();
  for (const Element element : wanted) {
    std::size_t i = 0;
    while (i < on.size() && (taken[i] || on[i] != element)) ++i;
    if (i == on.size()) return false;
    taken[i] = true;
    order.push_back(i);
  }
  return true;
}

const char* nameOf(Element element) {
  switch (element) {
    case Point:
      return later("point");
    case Line:
      return later("line");
    case Round:
      return later("circle or arc");
    case Ellipse:
      return later("ellipse");
    case Spline:
      return later("spline");
  }
  return "";
}

std::vector<ConstraintKind> table() {
  const Dimensionality length = lengthDimension, angle = angleDimension;
  return {
      {"coincident", later("coincident"), "•", {{{Point, Point}, true}}},
      {"on", later("point on curve"), "on", {{{Point, Line}}, {{Point, Round}}, {{Point, Ellipse}}, {{Point, Spline}}}},
      {"horizontal", later("horizontal"), "—", {{{Line}, true}, {{Point, Point}, true}}},
      {"vertical", later("vertical"), "|", {{{Line}, true}, {{Point, Point}, true}}},
      {"parallel", later("parallel"), "∥", {{{Line, Line}, true}}},
      {"perpendicular", later("right angle"), "⊥", {{{Line, Line}}}},
      {"tangent",
       later("tangent"),
       "T",
       {{{Line, Round}}, {{Round, Round}}, {{Line, Ellipse}}, {{Spline, Line}}, {{Spline, Round}}, {{Spline, Spline}}}},
      {"smooth", later("smooth"), "S", {{{Spline, Line}}, {{Spline, Round}}, {{Spline, Spline}}}},
      {"equal", later("equal"), "=", {{{Line, Line}, true}, {{Round, Round}, true}}},
      {"concentric", later("concentric"), "◎", {{{Round, Round}, true}, {{Point, Round}}, {{Ellipse, Round}}}},
      {"midpoint", later("midpoint"), "½", {{{Point, Line}}, {{Point, Point, Point}}}},
      {"collinear", later("in one line"), "···", {{{Line, Line}, true}, {{Point, Point, Point}, true}}},
      {"symmetric", later("symmetric"), "⋈", {{{Line, Point, Point}}, {{Line, Round, Round}}, {{Line, Line, Line}}}},
      {"fixed",
       later("fixed"),
       "▪",
       {{{Point}, true}, {{Line}, true}, {{Round}, true}, {{Ellipse}, true}, {{Spline}, true}}},
      {"distance", later("distance"), "↔", {{{Point, Point}}, {{Point, Line}}, {{Line, Line}}}, true, length, true},
      {"horizontal_distance", later("horizontal distance"), "↔", {{{Point, Point}}}, true, length, true},
      {"vertical_distance", later("vertical distance"), "↕", {{{Point, Point}}}, true, length, true},
      {"length", later("length"), "↔", {{{Line}}}, true, length},
      {"angle", later("angle"), "∠", {{{Line, Line}}, {{Line}}}, true, angle, true},
      {"radius", later("radius"), "R", {{{Round}}}, true, length},
      {"diameter", later("diameter"), "⌀", {{{Round}}}, true, length},
  };
}

}  // namespace

bool ConstraintKind::fits(const std::vector<Element>& on, std::vector<std::size_t>* order) const {
  for (const Pattern& pattern : patterns) {
    std::vector<Element> wanted = pattern.elements;
    if (pattern.more)
      while (wanted.size() < on.size()) wanted.push_back(wanted.back());
    std::vector<std::size_t> found;
    if (wanted.size() != on.size() || !assign(wanted, on, found)) continue;
    // Elements of one sort keep their order: an angle runs from the first line to the second.
    if (order) *order = found;
    return true;
  }
  return false;
}

std::string ConstraintKind::wanted() const {
  std::string all;
  for (const Pattern& pattern : patterns) {
    std::string one;
    for (const Element element : pattern.elements) one += (one.empty() ? "" : ", ") + say(nameOf(element));
    if (pattern.more) one += ", …";
    all = all.empty() ? one : say("%1; or %2", all, one);
  }
  return all;
}

const std::vector<ConstraintKind>& constraintKinds() {
  static const std::vector<ConstraintKind> kinds = table();
  return kinds;
}

const ConstraintKind* findConstraintKind(const std::string& name) {
  const auto& kinds = constraintKinds();
  const auto found =
      std::find_if(kinds.begin(), kinds.end(), [&](const ConstraintKind& kind) { return kind.name == name; });
  return found == kinds.end() ? nullptr : &*found;
}

Element elementOf(const PlaneCurve& curve) {
  if (const auto carrier = curve.carrier()) return carrier->radius > 0 ? Element::Round : Element::Line;
  return dynamic_cast<const EllipseCurve*>(&curve) ? Element::Ellipse : Element::Spline;
}

DrawingIds::DrawingIds(const Drawing& drawing, const std::vector<TakenCurve>& taken) : drawing_(drawing) {
  for (std::size_t i = 0; i < drawing.points.size(); ++i) points_.emplace(drawing.points[i].id, i);
  for (std::size_t i = 0; i < drawing.curves.size(); ++i) curves_.emplace(drawing.curves[i].id, i);
  for (std::size_t i = 0; i < drawing.copies.size(); ++i) copies_.emplace(drawing.copies[i].id, i);
  for (const TakenCurve& each : taken) {
    const PlaneCurve& curve = *each.curve.geometry;
    taken_.emplace(each.curve.id, elementOf(curve));
    if (!curve.closed())
      for (const char* end : {".from", ".to"}) taken_.emplace(each.curve.id + end, Element::Point);
    if (elementOf(curve) == Element::Round || elementOf(curve) == Element::Ellipse)
      taken_.emplace(each.curve.id + ".centre", Element::Point);
  }
}

std::optional<std::size_t> DrawingIds::point(const std::string& id) const {
  const auto found = points_.find(id);
  return found == points_.end() ? std::nullopt : std::optional(found->second);
}

std::optional<std::size_t> DrawingIds::curve(const std::string& id) const {
  const auto found = curves_.find(id);
  return found == curves_.end() ? std::nullopt : std::optional(found->second);
}

Element DrawingIds::element(const std::string& id) const {
  if (id == originId || point(id)) return Element::Point;
  if (id == uAxisId || id == vAxisId) return Element::Line;
  if (const auto found = taken_.find(id); found != taken_.end()) return found->second;
  const std::size_t dot = id.find('.');
  if (copies_.contains(id.substr(0, id.find_first_of(".:"))))
    throw Error(say("\"%1\" follows what it was made from: no constraint can hold it", id), "",
                say("Put the constraint on that"));
  if (const auto index = curve(id.substr(0, dot))) {
    const DrawnCurve& drawn = drawing_.curves[*index];
    const CurveKind* kind = findCurveKind(drawn.kind);
    if (kind && dot == std::string::npos && kind->element) return *kind->element;
    if (kind && drawn.points.empty() && dot != std::string::npos)
      if (const auto part = kind->part(id.substr(dot + 1))) return *part;
    throw Error(say("no constraint can hold \"%1\"", id), "", say("Name one of its points or sides"));
  }
  throw Error(say("the drawing has no point or curve \"%1\"", id), "", say("Correct the id, or remove the constraint"));
}

}  // namespace kervo
