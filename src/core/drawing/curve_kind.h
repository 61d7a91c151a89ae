// The kinds of curve that can be drawn, each described by the numbers it takes.
#pragma once

#include <string>
#include <vector>

#include "base/quantity.h"
#include "geom/profile.h"

namespace kervo {

/// A kind of curve: its name in files, and the numbers that define it in their order.
struct CurveKind {
  struct Number {
    const char* name;
    Dimensionality dimension;
  };
  const char* name;
  std::vector<Number> numbers;
};

/// line (from u, from v, to u, to v), arc (centre u, centre v, radius, from angle, to angle), circle (centre u,
/// centre v, radius), rectangle (corner u, corner v, width, height). Angles run counter-clockwise from the u axis.
const std::vector<CurveKind>& curveKinds();
/// The kind of that name, or null.
const CurveKind* findCurveKind(const std::string& name);

/// The curve or curves it stands for: a rectangle is the four lines id.bottom, id.right, id.top and id.left.
/// `numbers` in mm and rad, as many as the kind takes. Throws Error for a rectangle without width or height.
std::vector<PlanarCurve> planarCurves(const CurveKind& kind, const std::string& id, const std::vector<double>& numbers);

}  // namespace kervo
