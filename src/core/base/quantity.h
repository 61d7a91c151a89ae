// Numbers with a physical dimension (length and angle exponents) and the units they are written in.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace kervo {

/// What a number measures: mm^length · rad^angle. {0, 0} is a plain number.
struct Dimensionality {
  int length = 0;
  int angle = 0;
  bool operator==(const Dimensionality&) const = default;
  std::string name() const;  ///< "a length", "an angle", "an area", "a plain number", …
};

inline constexpr Dimensionality plainNumber{0, 0};
inline constexpr Dimensionality lengthDimension{1, 0};
inline constexpr Dimensionality angleDimension{0, 1};

/// A value in millimetres and radians.
struct Quantity {
  double value = 0;
  Dimensionality dimension;
};

/// A unit that may be written after a number.
struct Unit {
  std::string_view name;
  double factor;  ///< mm or rad per unit
  Dimensionality dimension;
};

/// mm, cm, m, in, ft, deg, rad; nothing for any other text.
std::optional<Unit> findUnit(std::string_view name);
/// The unit with this name. @throws Error if there is none.
Unit unitNamed(std::string_view name);
/// All units, in the order in which they are offered.
const Unit* unitsBegin();
const Unit* unitsEnd();

/// A quantity as text in a unit of its kind ("12.5 mm"); areas and volumes get that unit's power ("3 mm^2").
std::string format(const Quantity& quantity, const Unit& lengthUnit, int significantDigits = 10);
/// A number as short as its digits allow: 2, 2.5, 1e+20.
std::string formatNumber(double value, int significantDigits = 10);
/// The value for people: 0 where only the rounding of floating point is left of it (below 1e-12), and never −0.
double withoutRounding(double value);

}  // namespace kervo
