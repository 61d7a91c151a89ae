#include "fields/drawing_field.h"

#include <algorithm>

#include "base/identifier.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "drawing/copies.h"
#include "drawing/curve_kind.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

using nlohmann::json;

template class FieldOf<Drawing>;

namespace {

const char* nameOf(const CurveKind& kind) {
  return kind.name;
}

const char* nameOf(const CopyKind& kind) {
  return kind.name();
}

template <class Kinds>
std::string namesOf(const Kinds& kinds) {
  std::string names;
  for (const auto& kind : kinds) {
    if constexpr (std::is_pointer_v<typename Kinds::value_type>)
      names += (names.empty() ? "" : ", ") + std::string(nameOf(*kind));
    else
      names += (names.empty() ? "" : ", ") + std::string(kind.name);
  }
  return names;
}

double numberFrom(const json& value, const std::string& place) {
  return finiteNumber(value, place);
}

PlanePoint placeFrom(const json& value, const std::string& place) {
  if (!value.is_array() || value.size() != 2) throw wrongJson(place, "a list of two numbers");
  return {finiteNumber(value[0], place + "[0]"), finiteNumber(value[1], place + "[1]")};
}

bool flagAt(const json& object, const char* key, const std::string& place) {
  if (!object.contains(key)) return false;
  if (!object[key].is_boolean()) throw wrongJson(place + "." + key, "true or false");
  return object[key].get<bool>();
}

DrawnPoint drawnPointFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "a point");
  requireOnly(value, {"id", "at"}, place);
  return {textAt(value, "id", place), placeFrom(value.value("at", json()), place + ".at")};
}

void readThrough(DrawnCurve& curve, const json& value, const std::string& place) {
  requireOnly(value, {"points", "sizes", "degree", "weights", "knots", "closed", "numbers", "text"}, place);
  curve.text = textAt(value, "text", place, "");
  if (value.contains("numbers"))
    curve.numbers = listFrom<Expression>(value["numbers"], place + ".numbers", expressionFrom);
  curve.points = textsFrom(value.value("points", json()), place + ".points");
  if (curve.points.empty()) throw wrongJson(place + ".points", "a list of points");
  if (value.contains("sizes")) curve.sizes = listFrom<double>(value["sizes"], place + ".sizes", numberFrom);
  if (value.contains("weights")) curve.weights = listFrom<double>(value["weights"], place + ".weights", numberFrom);
  if (value.contains("knots")) curve.knots = listFrom<double>(value["knots"], place + ".knots", numberFrom);
  curve.closed = flagAt(value, "closed", place);
  if (!value.contains("degree")) return;
  if (!value["degree"].is_number_integer() || value["degree"] < 0 || value["degree"] > 1000)
    throw wrongJson(place + ".degree", "a whole number");
  curve.degree = value["degree"].get<int>();
}

DrawnCurve curveFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "a curve");
  DrawnCurve curve;
  curve.id = textAt(value, "id", place);
  // Region names say with - on which side of a curve they lie, and . stands before its sides.
  if (curve.id.find_first_of("-.") != std::string::npos || !whyNotAnId(curve.id).empty())
    throw FileError(say("\"%1\" cannot be a curve's id", curve.id), place + ".id", say("Use letters, digits and _"));
  curve.construction = flagAt(value, "construction", place);
  curve.snapshotOf = textAt(value, "snapshot_of", place, "");
  for (const CurveKind* each : curveKinds()) {
    const CurveKind& kind = *each;
    if (!value.contains(kind.name)) continue;
    requireOnly(value, {"id", "construction", "snapshot_of", kind.name}, place);
    curve.kind = kind.name;
    const std::string inside = place + "." + kind.name;
    const json& given = value[kind.name];
    if (given.is_object()) {
      readThrough(curve, given, inside);
      return curve;
    }
    if (kind.numbers.empty()) throw wrongJson(inside, "an object with \"points\"");
    if (!given.is_array() || given.size() != kind.numbers.size()) {
      std::string list;
      for (const CurveKind::Number& number : kind.numbers) list += (list.empty() ? "" : ", ") + say(number.name);
      throw wrongJson(inside, say("a list of %1 numbers (%2)", kind.numbers.size(), list));
    }
    curve.numbers = listFrom<Expression>(given, inside, expressionFrom);
    return curve;
  }
  throw wrongJson(place, say("one of the keys %1", namesOf(curveKinds())));
}

DrawnConstraint constraintFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "a constraint");
  DrawnConstraint constraint;
  constraint.id = textAt(value, "id", place);
  constraint.reference = flagAt(value, "reference", place);
  if (value.contains("is")) constraint.value = expressionFrom(value["is"], place + ".is");
  for (const ConstraintKind& kind : constraintKinds()) {
    if (!value.contains(kind.name)) continue;
    requireOnly(value, {"id", "is", "reference", kind.name}, place);
    constraint.kind = kind.name;
    constraint.on = textsFrom(value[kind.name], place + "." + kind.name);
    return constraint;
  }
  throw wrongJson(place, say("one of the keys %1", namesOf(constraintKinds())));
}

DrawnCopies copiesFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "copies");
  DrawnCopies copies;
  copies.id = textAt(value, "id", place);
  copies.construction = flagAt(value, "construction", place);
  for (const CopyKind* kind : copyKinds()) {
    if (!value.contains(kind->name())) continue;
    copies.kind = kind->name();
    copies.of = textsFrom(value[kind->name()], place + "." + kind->name());
    copies.about = textAt(value, "about", place, "");
    copies.way = textAt(value, "way", place, kind->ways().empty() ? "" : kind->ways().front().key);
    for (const CopyKind::Number& number : kind->numbers())
      copies.numbers.push_back(value.contains(number.key) ? expressionFrom(value[number.key], place + "." + number.key)
                                                          : Expression(number.first));
    for (const auto& [key, unused] : value.items()) {
      const bool number = std::any_of(kind->numbers().begin(), kind->numbers().end(),
                                      [&key = key](const CopyKind::Number& each) { return each.key == key; });
      if (!number) requireOnly(json{{key, 0}}, {"id", "construction", "about", "way", kind->name()}, place);
    }
    return copies;
  }
  throw wrongJson(place, say("one of the keys %1", namesOf(copyKinds())));
}

json copiesJson(const DrawnCopies& copies) {
  json result{{"id", copies.id}, {copies.kind, copies.of}};
  if (!copies.about.empty()) result["about"] = copies.about;
  if (!copies.way.empty()) result["way"] = copies.way;
  if (copies.construction) result["construction"] = true;
  if (const CopyKind* kind = findCopyKind(copies.kind))
    for (std::size_t i = 0; i < copies.numbers.size(); ++i)
      result[kind->numbers().at(i).key] = copies.numbers[i].text();
  return result;
}

json curveJson(const DrawnCurve& curve) {
  json result{{"id", curve.id}};
  if (curve.construction) result["construction"] = true;
  if (!curve.snapshotOf.empty()) result["snapshot_of"] = curve.snapshotOf;
  if (curve.points.empty()) {
    json numbers = json::array();
    for (const Expression& number : curve.numbers) numbers.push_back(number.text());
    result[curve.kind] = numbers;
    return result;
  }
  json through{{"points", curve.points}};
  if (!curve.sizes.empty()) through["sizes"] = curve.sizes;
  if (curve.degree != 0) through["degree"] = curve.degree;
  if (!curve.weights.empty()) through["weights"] = curve.weights;
  if (!curve.knots.empty()) through["knots"] = curve.knots;
  if (curve.closed) through["closed"] = true;
  if (!curve.text.empty()) through["text"] = curve.text;
  for (const Expression& number : curve.numbers) through["numbers"].push_back(number.text());
  result[curve.kind] = through;
  return result;
}

}  // namespace

DrawingValues DrawingField::valuesOf(const Inputs& inputs) const {
  DrawingValues values;
  auto next = inputs.numbers(*this).begin();
  for (const DrawnCurve& curve : in(inputs).curves) {
    const auto end = next + static_cast<std::ptrdiff_t>(curve.numbers.size());
    values.numbers.emplace_back(next, end);
    next = end;
  }
  for (const DrawnConstraint& constraint : in(inputs).constraints)
    values.constraints.push_back(constraint.value ? *next++ : 0);
  for (const DrawnCopies& copies : in(inputs).copies) {
    const auto end = next + static_cast<std::ptrdiff_t>(copies.numbers.size());
    values.copies.emplace_back(next, end);
    next = end;
  }
  return values;
}

std::string DrawingField::allowed() const {
  return say(
      "a list of {\"id\": …, KIND: […]}, where KIND is one of %1; or {\"points\": …, \"curves\": …, "
      "\"constraints\": …, \"copies\": …}",
      namesOf(curveKinds()));
}

json DrawingField::print(const Drawing& value) const {
  json curves = json::array();
  for (const DrawnCurve& curve : value.curves) curves.push_back(curveJson(curve));
  if (value.points.empty() && value.constraints.empty() && value.copies.empty()) return curves;
  json points = json::array(), constraints = json::array();
  for (const DrawnPoint& point : value.points)
    points.push_back({{"id", point.id}, {"at", {point.last.u, point.last.v}}});
  for (const DrawnConstraint& constraint : value.constraints) {
    json one{{"id", constraint.id}, {constraint.kind, constraint.on}};
    if (constraint.value) one["is"] = constraint.value->text();
    if (constraint.reference) one["reference"] = true;
    constraints.push_back(one);
  }
  json result{{"points", points}, {"curves", curves}, {"constraints", constraints}};
  for (const DrawnCopies& copies : value.copies) result["copies"].push_back(copiesJson(copies));
  return result;
}

Drawing DrawingField::parse(const json& value, const std::string& place) const {
  Drawing drawing;
  if (value.is_array()) {
    drawing.curves = listFrom<DrawnCurve>(value, place, curveFrom);
    return drawing;
  }
  if (!value.is_object()) throw wrongJson(place, "a list of curves, or an object with points, curves and constraints");
  requireOnly(value, {"points", "curves", "constraints", "copies"}, place);
  const auto list = [&](const char* key) { return value.value(key, json::array()); };
  drawing.points = listFrom<DrawnPoint>(list("points"), place + ".points", drawnPointFrom);
  drawing.curves = listFrom<DrawnCurve>(list("curves"), place + ".curves", curveFrom);
  drawing.constraints = listFrom<DrawnConstraint>(list("constraints"), place + ".constraints", constraintFrom);
  drawing.copies = listFrom<DrawnCopies>(list("copies"), place + ".copies", copiesFrom);
  return drawing;
}

void DrawingField::hash(Hasher& hasher, const Drawing& value) const {
  const auto count = [&](std::size_t number) { hasher.add(static_cast<std::uint64_t>(number)); };
  const auto texts = [&](const std::vector<std::string>& list) {
    count(list.size());
    for (const std::string& text : list) hasher.add(text);
  };
  const auto numbers = [&](const std::vector<double>& list) {
    count(list.size());
    for (const double number : list) hasher.add(number);
  };
  count(value.points.size());
  for (const DrawnPoint& point : value.points) hasher.add(point.id).add(point.last.u).add(point.last.v);
  count(value.curves.size());
  for (const DrawnCurve& curve : value.curves) {
    hasher.add(curve.id).add(curve.kind).add(curve.snapshotOf).add(curve.text);
    texts(curve.points);
    numbers(curve.sizes);
    numbers(curve.weights);
    numbers(curve.knots);
    count(static_cast<std::size_t>(curve.degree));
    count((curve.closed ? 2 : 0) + (curve.construction ? 1 : 0));
  }
  count(value.constraints.size());
  for (const DrawnConstraint& constraint : value.constraints) {
    hasher.add(constraint.id).add(constraint.kind);
    texts(constraint.on);
    count((constraint.value ? 2 : 0) + (constraint.reference ? 1 : 0));
  }
  count(value.copies.size());
  for (const DrawnCopies& copies : value.copies) {
    hasher.add(copies.id).add(copies.kind).add(copies.about).add(copies.way);
    texts(copies.of);
    count(copies.construction ? 1 : 0);
  }
}

void DrawingField::require(const Drawing& value) const {
  // What is wrong otherwise is an error of the step: the file can be opened and the drawing set right.
  for (const DrawnCurve& curve : value.curves) {
    const CurveKind* kind = findCurveKind(curve.kind);
    if (!kind || kind->numbersOf(curve).size() != curve.numbers.size())
      throw Error(say("the curve is of no known kind, or has the wrong count of numbers"),
                  say("curve \"%1\"", curve.id));
  }
  for (const DrawnConstraint& constraint : value.constraints)
    if (!findConstraintKind(constraint.kind))
      throw Error(say("the constraint is of no known kind"), say("constraint \"%1\"", constraint.id));
  for (const DrawnCopies& copies : value.copies) {
    const CopyKind* kind = findCopyKind(copies.kind);
    if (!kind || kind->numbers().size() != copies.numbers.size())
      throw Error(say("the copies are of no known kind, or have the wrong count of numbers"),
                  say("copies \"%1\"", copies.id));
  }
}

std::vector<NumberPart> DrawingField::parts(const Drawing& value) const {
  std::vector<NumberPart> result;
  for (const DrawnCurve& curve : value.curves) {
    const CurveKind* kind = findCurveKind(curve.kind);
    for (std::size_t i = 0; kind && i < curve.numbers.size(); ++i)
      result.push_back({curve.numbers[i],
                        {kind->numbersOf(curve).at(i).dimension, NumberRule::Any},
                        say("curve \"%1\", %2", curve.id, say(kind->numbersOf(curve).at(i).name))});
  }
  for (const DrawnConstraint& constraint : value.constraints)
    if (constraint.value)
      if (const ConstraintKind* kind = findConstraintKind(constraint.kind))
        result.push_back({*constraint.value,
                          {kind->measures, NumberRule::Any},
                          say("constraint \"%1\" (%2)", constraint.id, say(kind->label))});
  for (const DrawnCopies& copies : value.copies) {
    const CopyKind* kind = findCopyKind(copies.kind);
    for (std::size_t i = 0; kind && i < copies.numbers.size(); ++i)
      result.push_back({copies.numbers[i],
                        {kind->numbers()[i].dimension, NumberRule::Any},
                        say("copies \"%1\", %2", copies.id, say(kind->numbers()[i].name))});
  }
  return result;
}

void DrawingField::changeParts(Drawing& value, const std::function<Expression(const Expression&)>& change) const {
  for (DrawnCurve& curve : value.curves)
    for (Expression& number : curve.numbers) number = change(number);
  for (DrawnConstraint& constraint : value.constraints)
    if (constraint.value) constraint.value = change(*constraint.value);
  for (DrawnCopies& copies : value.copies)
    for (Expression& number : copies.numbers) number = change(number);
}

}  // namespace kervo
