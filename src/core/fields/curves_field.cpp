#include "fields/curves_field.h"

#include "base/identifier.h"
#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

using nlohmann::json;

template class FieldOf<std::vector<DrawnCurve>>;

namespace {

std::string namesOfKinds() {
  std::string names;
  for (const CurveKind* kind : curveKinds()) names += (names.empty() ? "" : ", ") + std::string(kind->name);
  return names;
}

DrawnCurve curveFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "a curve");
  DrawnCurve curve;
  curve.id = textAt(value, "id", place);
  // Region names say with - on which side of a curve they lie.
  if (curve.id.find('-') != std::string::npos || !whyNotAnId(curve.id).empty())
    throw FileError(say("\"%1\" cannot be a curve's id", curve.id), place + ".id", say("Use letters, digits and _"));
  for (const CurveKind* each : curveKinds()) {
    const CurveKind& kind = *each;
    if (!value.contains(kind.name)) continue;
    requireOnly(value, {"id", kind.name}, place);
    curve.kind = kind.name;
    const std::string inside = place + "." + kind.name;
    const json& numbers = value[kind.name];
    if (!numbers.is_array() || numbers.size() != kind.numbers.size()) {
      std::string list;
      for (const CurveKind::Number& number : kind.numbers) list += (list.empty() ? "" : ", ") + say(number.name);
      throw wrongJson(inside, say("a list of %1 numbers (%2)", kind.numbers.size(), list));
    }
    curve.numbers = listFrom<Expression>(numbers, inside, expressionFrom);
    return curve;
  }
  throw wrongJson(place, say("one of the keys %1", namesOfKinds()));
}

}  // namespace

std::vector<PlanarCurve> CurvesField::of(const Inputs& inputs) const {
  std::vector<PlanarCurve> result;
  auto next = inputs.numbers(*this).begin();
  for (const DrawnCurve& curve : in(inputs)) {
    const std::vector<double> numbers(next, next + static_cast<std::ptrdiff_t>(curve.numbers.size()));
    next += static_cast<std::ptrdiff_t>(curve.numbers.size());
    for (PlanarCurve& planar : findCurveKind(curve.kind)->curves(curve.id, numbers))
      result.push_back(std::move(planar));
  }
  return result;
}

std::string CurvesField::allowed() const {
  return say("a list of {\"id\": …, KIND: […]}, where KIND is one of %1", namesOfKinds());
}

json CurvesField::print(const std::vector<DrawnCurve>& value) const {
  json result = json::array();
  for (const DrawnCurve& curve : value) {
    json numbers = json::array();
    for (const Expression& number : curve.numbers) numbers.push_back(number.text());
    result.push_back({{"id", curve.id}, {curve.kind, numbers}});
  }
  return result;
}

std::vector<DrawnCurve> CurvesField::parse(const json& value, const std::string& place) const {
  return listFrom<DrawnCurve>(value, place, curveFrom);
}

void CurvesField::hash(Hasher& hasher, const std::vector<DrawnCurve>& value) const {
  hasher.add(static_cast<std::uint64_t>(value.size()));
  for (const DrawnCurve& curve : value) hasher.add(curve.id).add(curve.kind);
}

void CurvesField::require(const std::vector<DrawnCurve>& value) const {
  for (const DrawnCurve& curve : value) {
    const CurveKind* kind = findCurveKind(curve.kind);
    if (!kind || kind->numbers.size() != curve.numbers.size())
      throw Error(say("the curve is of no known kind, or has the wrong count of numbers"),
                  say("curve \"%1\"", curve.id));
  }
}

std::vector<NumberPart> CurvesField::parts(const std::vector<DrawnCurve>& value) const {
  std::vector<NumberPart> result;
  for (const DrawnCurve& curve : value) {
    const CurveKind* kind = findCurveKind(curve.kind);
    for (std::size_t i = 0; kind && i < curve.numbers.size(); ++i)
      result.push_back({curve.numbers[i],
                        {kind->numbers[i].dimension, NumberRule::Any},
                        say("curve \"%1\", %2", curve.id, say(kind->numbers[i].name))});
  }
  return result;
}

void CurvesField::changeParts(std::vector<DrawnCurve>& value,
                              const std::function<Expression(const Expression&)>& change) const {
  for (DrawnCurve& curve : value)
    for (Expression& number : curve.numbers) number = change(number);
}

}  // namespace kervo
