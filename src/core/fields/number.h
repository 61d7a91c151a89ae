// What an expression in a field has to be, and its value.
#pragma once

#include <string>

#include "base/expression.h"
#include "base/quantity.h"

namespace kervo {

/// Which numbers a field takes.
enum class NumberRule { Any, Positive, NotNegative };

/// What a number measures, and which ones are taken. Lengths have a largest size, and positive ones a smallest
/// (geom/tolerances.h).
struct NumberWanted {
  Dimensionality dimension = lengthDimension;
  NumberRule rule = NumberRule::Any;

  bool isLength() const { return dimension == lengthDimension; }
  /// Whether its sign is as the rule says.
  bool allows(double value) const;
  /// Throws an Error that tells the value in the unit, and what would do.
  void require(double value, const Unit& unit) const;
};

/// An expression that a value holds, what it has to be, and where in the value it stands ("curve "c1", radius"; empty
/// if it is all there is).
struct NumberPart {
  Expression expression;
  NumberWanted wanted;
  std::string place = {};
};

}  // namespace kervo
