#include "fields/number.h"

#include <cmath>

#include "base/error.h"
#include "geom/tolerances.h"

namespace kervo {

bool NumberWanted::allows(double value) const {
  switch (rule) {
    case NumberRule::Any:
      return true;
    case NumberRule::Positive:
      return value > 0;
    case NumberRule::NotNegative:
      return value >= 0;
  }
  return true;
}

void NumberWanted::require(double value, const Unit& unit) const {
  const std::string text = format({value, dimension}, unit);
  if (!allows(value))
    throw Error("the value is " + text, "",
                rule == NumberRule::Positive ? "Type a value greater than zero" : "Type zero or more");
  if (isLength() && rule == NumberRule::Positive && value < tolerance::smallestSize)
    throw Error("the value is only " + text, "",
                "The smallest size is " + formatNumber(tolerance::smallestSize) + " mm");
  if (isLength() && std::abs(value) > tolerance::largestSize)
    throw Error("the value is " + text, "", "The largest size is " + formatNumber(tolerance::largestSize) + " mm");
}

}  // namespace kervo
