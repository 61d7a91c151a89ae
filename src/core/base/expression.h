// Expressions with units: "wall * 2 + 0.5 mm". The grammar is muParser's; the arithmetic is on Quantity, so units are
// checked at every operation.
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "base/quantity.h"

namespace kervo {

/// An immutable expression, kept as it was typed. A text that cannot be read is kept too: its error comes out of
/// evaluate(), so that a document never loses what somebody wrote.
class Expression {
 public:
  /// Gives the value of a name, or throws an Error that says why it has none.
  using Lookup = std::function<Quantity(const std::string& name)>;

  Expression() : Expression("0") {}
  explicit Expression(std::string text);

  const std::string& text() const;
  /// The dimension names it uses, each once, in the order of their first use.
  const std::vector<std::string>& names() const;
  /// True for a single number with or without a sign, and no unit: "20", "-1.5".
  bool isBareNumber() const;

  /// The value. Throws an Error for a text that cannot be read, for units that do not go together ("2 mm + 3 deg"),
  /// division by zero, a result that is not finite, and whatever `lookup` throws.
  Quantity evaluate(const Lookup& lookup) const;

  /// The value of a field of the given kind, in mm, rad or as a plain number. A bare number takes `lengthUnit` in a
  /// length field and degrees in an angle field. Throws an Error if the expression measures something else.
  double evaluateAs(Dimensionality wanted, const Unit& lengthUnit, const Lookup& lookup) const;

  /// The same with every use of one name replaced by another.
  Expression renamed(const std::string& from, const std::string& to) const;

  bool operator==(const Expression& other) const { return text() == other.text(); }

 private:
  struct Program;
  std::shared_ptr<const Program> program_;
};

/// What the height of a level is called in expressions: "Lamp room.height".
std::string heightOfLevel(const std::string& level);
/// Nothing if `name` may name a level (words with single blanks between), otherwise the reason why not.
std::string whyNotALevel(const std::string& name);

/// Nothing if `name` may name a dimension, otherwise the reason why not (a unit, a function, a wrong character).
std::string whyNotAName(const std::string& name);

}  // namespace kervo
