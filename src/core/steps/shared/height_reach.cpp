#include "steps/shared/height_reach.h"

#include "base/say.h"
#include "geom/tolerances.h"

namespace kervo {

HeightReach::HeightReach(FieldTable& table, Well well, const char* standard, const char* help)
    : to(table,
         {.key = "to",
          .label = "To",
          .well = well,
          .help = "a height, or until a plane: that of a level, or a leaning one",
          .telling = true},
         {"height", "plane"}),
      height(table, {.key = "height", .label = "Height", .well = well, .help = help, .when = to.is(To::Height)},
             standard, NumberRule::Positive),
      until(table, {.key = "until", .label = "Until", .well = well, .when = to.is(To::Plane)}) {}

SweepLimit HeightReach::end(Inputs& inputs) const {
  return isHeight(inputs) ? SweepLimit::at(height.of(inputs)) : SweepLimit::atPlane(until.of(inputs));
}

double HeightReach::parallelHeight(Inputs& inputs, const Plane& drawn, double from, double along) const {
  if (isHeight(inputs)) return height.of(inputs);
  const Plane plane = until.of(inputs);
  if (length(cross(plane.normal, drawn.normal)) > tolerance::parallel)
    until.fail(say("open lines end at a plane that is parallel to their drawing, not at a leaning one"),
               say("Close the outline, or choose a height"));
  const double result = along * drawn.signedDistance(plane.origin) - from;
  if (result < tolerance::smallestSize)
    until.fail(say("the plane lies behind the start, by %1 mm", formatNumber(-result)),
               say("Reverse the direction, or choose another plane"));
  return result;
}

}  // namespace kervo
