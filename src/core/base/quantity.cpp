#include "base/quantity.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <numbers>

#include "base/error.h"
#include "base/say.h"

namespace kervo {

namespace {
// 1 in = 25.4 mm and 1 ft = 12 in exactly (international yard and pound agreement, 1959).
constexpr std::array<Unit, 7> units{{{"mm", 1, lengthDimension},
                                     {"cm", 10, lengthDimension},
                                     {"m", 1000, lengthDimension},
                                     {"in", 25.4, lengthDimension},
                                     {"ft", 304.8, lengthDimension},
                                     {"deg", std::numbers::pi / 180, angleDimension},
                                     {"rad", 1, angleDimension}}};
}  // namespace

std::string Dimensionality::name() const {
  if (*this == plainNumber) return say("a plain number");
  if (angle == 0) {
    if (length == 1) return say("a length");
    if (length == 2) return say("an area");
    if (length == 3) return say("a volume");
  }
  if (*this == angleDimension) return say("an angle");
  std::string text;
  if (length != 0) text += "mm^" + std::to_string(length);
  if (angle != 0) text += (text.empty() ? "rad^" : " rad^") + std::to_string(angle);
  return text;
}

std::optional<Unit> findUnit(std::string_view name) {
  const auto found = std::find_if(units.begin(), units.end(), [&](const Unit& unit) { return unit.name == name; });
  if (found == units.end()) return std::nullopt;
  return *found;
}

Unit unitNamed(std::string_view name) {
  if (const auto found = findUnit(name)) return *found;
  throw Error(say("no unit is called \"%1\"", name), "", say("Use mm, cm, m, in, ft, deg or rad"));
}

const Unit* unitsBegin() {
  return units.data();
}

const Unit* unitsEnd() {
  return units.data() + units.size();
}

std::string formatNumber(double value, int significantDigits) {
  char buffer[40];
  std::snprintf(buffer, sizeof buffer, "%.*g", significantDigits, value == 0 ? 0.0 : value);
  return buffer;
}

double withoutRounding(double value) {
  return std::abs(value) < 1e-12 ? 0.0 : value;
}

std::string format(const Quantity& quantity, const Unit& lengthUnit, int significantDigits) {
  const Unit degree = unitNamed("deg");
  const auto [length, angle] = quantity.dimension;
  const double scale = std::pow(lengthUnit.factor, length) * std::pow(degree.factor, angle);
  std::string text = formatNumber(withoutRounding(quantity.value / scale), significantDigits);
  const auto append = [&](std::string_view unit, int exponent) {
    if (exponent == 0) return;
    text += " " + std::string(unit);
    if (exponent != 1) text += "^" + std::to_string(exponent);
  };
  append(lengthUnit.name, length);
  append(degree.name, angle);
  return text;
}

}  // namespace kervo
