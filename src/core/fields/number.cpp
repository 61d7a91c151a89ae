#include "fields/number.h"

#include <cmath>

#include "base/error.h"
#include "base/say.h"
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
    throw Error(say("the value is %1", text), "",
                rule == NumberRule::Positive ? say("Type a value greater than zero") : say("Type zero or more"));
  if (isLength() && rule == NumberRule::Positive && value < tolerance::smallestSize)
    throw Error(say("the value is only %1", text), "",
                say("The smallest size is %1 mm", formatNumber(tolerance::smallestSize)));
  if (isLength() && std::abs(value) > tolerance::largestSize)
    throw Error(say("the value is %1", text), "",
                say("The largest size is %1 mm", formatNumber(tolerance::largestSize)));
}

}  // namespace kervo
