#include "drawing/drawing.h"

#include <algorithm>
#include <set>
#include <stdexcept>

#include "base/error.h"
#include "base/identifier.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "drawing/copies.h"
#include "drawing/curve_kind.h"
#include "drawing/solve.h"

namespace kervo {

namespace {

template <class List>
std::optional<std::size_t> placeOf(const List& list, const std::string& id) {
  const auto found = std::find_if(list.begin(), list.end(), [&](const auto& each) { return each.id == id; });
  if (found == list.end()) return std::nullopt;
  return static_cast<std::size_t>(found - list.begin());
}

/// Names of regions say with - on which side of a curve they lie, and . stands before a curve's own points and sides.
void requireId(const std::string& id, const std::string& place, std::set<std::string>& ids) {
  if (id.find_first_of("-.") != std::string::npos || !whyNotAnId(id).empty() || id == originId || id == uAxisId ||
      id == vAxisId)
    throw Error(say("\"%1\" cannot be an id in a drawing", id), place, say("Use letters, digits and _"));
  if (!ids.insert(id).second) throw Error(say("the id \"%1\" comes twice", id), place, say("Choose another id"));
}

void requireCurve(const DrawingIds& drawing, const DrawnCurve& curve, const std::string& place) {
  const CurveKind* kind = findCurveKind(curve.kind);
  if (!kind) throw Error(say("there is no kind of curve \"%1\"", curve.kind), place, say("Correct its spelling"));
  if (curve.points.empty()) {
    if (kind->numbers.empty() || curve.numbers.size() != kind->numbers.size())
      throw Error(say("the curve has the wrong count of numbers"), place, say("See docs/file-format.md"));
    return;
  }
  const std::size_t fewest = kind->points.size();
  if (fewest == 0 || curve.points.size() < fewest || (curve.points.size() > fewest && !kind->morePoints) ||
      curve.sizes.size() != kind->sizeNames.size() || curve.numbers.size() != kind->besides.size())
    throw Error(say("the curve has the wrong count of points or sizes"), place, say("See docs/file-format.md"));
  for (const std::string& id : curve.points)
    if (!drawing.point(id))
      throw Error(say("the drawing has no point \"%1\"", id), place, say("Add the point, or correct its id"));
  for (std::size_t i = 1; i < curve.points.size(); ++i)
    if (curve.points[i] == curve.points[i - 1])
      throw Error(say("the point \"%1\" comes twice in it", curve.points[i]), place, say("Choose another point"));
  kind->require(curve);
}

void requireConstraint(const DrawingIds& drawing, const DrawnConstraint& constraint, const std::string& place) {
  const ConstraintKind* kind = findConstraintKind(constraint.kind);
  if (!kind)
    throw Error(say("there is no kind of constraint \"%1\"", constraint.kind), place, say("Correct its spelling"));
  try {
    std::vector<Element> elements;
    std::set<std::string> ids;
    for (const std::string& id : constraint.on) {
      elements.push_back(drawing.element(id));
      if (!ids.insert(id).second) throw Error(say("\"%1\" comes twice in it", id), "", say("Name it once"));
    }
    if (!kind->fits(elements)) throw Error(say("it can be on: %1", kind->wanted()), "", say("Name other ids"));
  } catch (const Error& error) {
    throw error.within(place);
  }
  if (kind->dimension != constraint.value.has_value())
    throw Error(kind->dimension ? say("the dimension has no value") : say("only dimensions have a value"), place,
                say("See docs/file-format.md"));
  if (constraint.reference && !kind->dimension)
    throw Error(say("only dimensions can be for reference"), place, say("See docs/file-format.md"));
}

/// `there`: ids of all that stands before them.
void requireCopies(const DrawnCopies& copies, const std::set<std::string>& there) {
  const std::string place = say("copies \"%1\"", copies.id);
  const CopyKind* kind = findCopyKind(copies.kind);
  if (!kind) throw Error(say("there is no kind of copies \"%1\"", copies.kind), place, say("Correct its spelling"));
  const auto& ways = kind->ways();
  if (copies.numbers.size() != kind->numbers().size() ||
      (ways.empty() ? !copies.way.empty() : std::none_of(ways.begin(), ways.end(), [&](const CopyKind::Way& way) {
        return way.key == copies.way;
      })))
    throw Error(say("the copies have the wrong count of numbers, or an unknown way"), place,
                say("See docs/file-format.md"));
  if (copies.of.empty()) throw Error(say("they are made of nothing"), place, say("Name curves"));
  for (const std::string& id : copies.of)
    if (!there.contains(id.substr(0, id.find_first_of(".:"))))
      throw Error(say("the drawing has no curve \"%1\" before them", id), place, say("Name other curves"));
}

}  // namespace

std::optional<std::size_t> Drawing::point(const std::string& id) const {
  return placeOf(points, id);
}

std::optional<std::size_t> Drawing::curve(const std::string& id) const {
  return placeOf(curves, id);
}

std::size_t Drawing::pointAt(const std::string& id) const {
  if (const auto index = point(id)) return *index;
  throw std::out_of_range(id);
}

std::size_t Drawing::curveAt(const std::string& id) const {
  if (const auto index = curve(id)) return *index;
  throw std::out_of_range(id);
}

void requireSound(const Drawing& drawing) {
  requireSound(drawing, {});
}

void requireSound(const Drawing& drawing, const std::vector<TakenCurve>& taken) {
  std::set<std::string> ids;
  for (const DrawnPoint& point : drawing.points) requireId(point.id, say("point \"%1\"", point.id), ids);
  for (const DrawnCurve& curve : drawing.curves) requireId(curve.id, say("curve \"%1\"", curve.id), ids);
  std::set<std::string> there(ids);
  for (const TakenCurve& each : taken) {
    const std::string id = each.curve.id.substr(0, each.curve.id.find('.'));
    if (ids.contains(id))
      throw Error(say("the id \"%1\" comes twice", id), say("what is taken along"), say("Choose another id"));
    there.insert(id);
  }
  for (const DrawnCopies& copies : drawing.copies) {
    requireId(copies.id, say("copies \"%1\"", copies.id), ids);
    requireCopies(copies, there);
    there.insert(copies.id);
  }
  const DrawingIds known(drawing, taken);
  for (const DrawnCurve& curve : drawing.curves) requireCurve(known, curve, say("curve \"%1\"", curve.id));
  std::set<std::string> constraints;
  for (const DrawnConstraint& constraint : drawing.constraints) {
    const std::string place = say("constraint \"%1\"", constraint.id);
    requireId(constraint.id, place, constraints);
    requireConstraint(known, constraint, place);
  }
}

}  // namespace kervo
