#include "drawing/curve_kind.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/error.h"

namespace kervo {

const std::vector<CurveKind>& curveKinds() {
  static const std::vector<CurveKind> kinds{
      {"line",
       {{"from u", lengthDimension},
        {"from v", lengthDimension},
        {"to u", lengthDimension},
        {"to v", lengthDimension}}},
      {"arc",
       {{"centre u", lengthDimension},
        {"centre v", lengthDimension},
        {"radius", lengthDimension},
        {"from angle", angleDimension},
        {"to angle", angleDimension}}},
      {"circle", {{"centre u", lengthDimension}, {"centre v", lengthDimension}, {"radius", lengthDimension}}},
      {"rectangle",
       {{"corner u", lengthDimension},
        {"corner v", lengthDimension},
        {"width", lengthDimension},
        {"height", lengthDimension}}}};
  return kinds;
}

const CurveKind* findCurveKind(const std::string& name) {
  const auto& kinds = curveKinds();
  const auto found = std::find_if(kinds.begin(), kinds.end(), [&](const CurveKind& kind) { return kind.name == name; });
  return found == kinds.end() ? nullptr : &*found;
}

namespace {

std::vector<PlanarCurve> rectangle(const std::string& id, double u, double v, double width, double height) {
  for (const auto& [name, size] : {std::pair("width", width), std::pair("height", height)})
    if (!(size > 0))
      throw Error(std::string("the rectangle's ") + name + " is " + formatNumber(size) + " mm", "curve \"" + id + "\"",
                  "Type a size greater than zero");
  const PlanePoint a{u, v}, b{u + width, v}, c{u + width, v + height}, d{u, v + height};
  return {{id + ".bottom", LineCurve{a, b}},
          {id + ".right", LineCurve{b, c}},
          {id + ".top", LineCurve{c, d}},
          {id + ".left", LineCurve{d, a}}};
}

/// The arc with its end angle brought to within one turn after its start.
ArcCurve arc(const std::vector<double>& n) {
  const double turn = 2 * std::numbers::pi;
  double sweep = std::fmod(n[4] - n[3], turn);
  if (sweep < 0) sweep += turn;
  return {{n[0], n[1]}, n[2], n[3], n[3] + sweep};
}

}  // namespace

std::vector<PlanarCurve> planarCurves(const CurveKind& kind, const std::string& id, const std::vector<double>& n) {
  const std::string name = kind.name;
  if (name == "line") return {{id, LineCurve{{n[0], n[1]}, {n[2], n[3]}}}};
  if (name == "arc") return {{id, arc(n)}};
  if (name == "circle") return {{id, CircleCurve{{n[0], n[1]}, n[2]}}};
  return rectangle(id, n[0], n[1], n[2], n[3]);
}

}  // namespace kervo
