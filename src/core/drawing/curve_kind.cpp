#include "drawing/curve_kind.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/error.h"
#include "base/say.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
/// Half a size to begin with, mm.
constexpr double half = 10;

class LineKind : public CurveKind {
 public:
  LineKind()
      : CurveKind("line", {{later("from u"), lengthDimension},
                           {later("from v"), lengthDimension},
                           {later("to u"), lengthDimension},
                           {later("to v"), lengthDimension}}) {}
  std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& n) const override {
    return {{id, LineCurve({n[0], n[1]}, {n[2], n[3]})}};
  }
  std::vector<double> about(PlanePoint middle) const override {
    return {middle.u - half, middle.v, middle.u + half, middle.v};
  }
  std::vector<double> drawn(PlanePoint from, PlanePoint to, const Rounded&) const override {
    return {from.u, from.v, to.u, to.v};
  }
  std::vector<double> sizes(const std::vector<double>& n) const override {
    return {std::hypot(n[2] - n[0], n[3] - n[1])};
  }
};

class ArcKind : public CurveKind {
 public:
  ArcKind()
      : CurveKind("arc", {{later("centre u"), lengthDimension},
                          {later("centre v"), lengthDimension},
                          {later("radius"), lengthDimension},
                          {later("from angle"), angleDimension},
                          {later("to angle"), angleDimension}}) {}
  std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& n) const override {
    // The end angle brought to within one turn after the start.
    double sweep = std::fmod(n[4] - n[3], turn);
    if (sweep < 0) sweep += turn;
    return {{id, ArcCurve({n[0], n[1]}, n[2], n[3], n[3] + sweep)}};
  }
  std::vector<double> about(PlanePoint middle) const override { return {middle.u, middle.v, half, 0, turn / 4}; }
  bool drawn() const override { return false; }
  std::vector<double> drawn(PlanePoint from, PlanePoint, const Rounded&) const override { return about(from); }
  std::vector<double> sizes(const std::vector<double>& n) const override { return {n[2]}; }
};

class CircleKind : public CurveKind {
 public:
  CircleKind()
      : CurveKind("circle", {{later("centre u"), lengthDimension},
                             {later("centre v"), lengthDimension},
                             {later("radius"), lengthDimension}}) {}
  std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& n) const override {
    return {{id, CircleCurve({n[0], n[1]}, n[2])}};
  }
  std::vector<double> about(PlanePoint middle) const override { return {middle.u, middle.v, half}; }
  /// From the centre outwards: the radius is to be round, not the point that it goes through.
  std::vector<double> drawn(PlanePoint from, PlanePoint to, const Rounded& rounded) const override {
    return {from.u, from.v, rounded(distance(from, to))};
  }
  std::vector<double> sizes(const std::vector<double>& n) const override { return {n[2]}; }
};

class RectangleKind : public CurveKind {
 public:
  RectangleKind()
      : CurveKind("rectangle", {{later("corner u"), lengthDimension},
                                {later("corner v"), lengthDimension},
                                {later("width"), lengthDimension},
                                {later("height"), lengthDimension}}) {}
  std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& n) const override {
    const double u = n[0], v = n[1], width = n[2], height = n[3];
    for (const auto& [name, size] : {std::pair(later("width"), width), std::pair(later("height"), height)})
      if (!(size > 0))
        throw Error(say("the rectangle's %1 is %2 mm", say(name), formatNumber(size)), say("curve \"%1\"", id),
                    say("Type a size greater than zero"));
    const PlanePoint a{u, v}, b{u + width, v}, c{u + width, v + height}, d{u, v + height};
    return {{id + ".bottom", LineCurve(a, b)},
            {id + ".right", LineCurve(b, c)},
            {id + ".top", LineCurve(c, d)},
            {id + ".left", LineCurve(d, a)}};
  }
  std::vector<double> about(PlanePoint middle) const override {
    return {middle.u - half, middle.v - half / 2, 2 * half, half};
  }
  std::vector<double> drawn(PlanePoint from, PlanePoint to, const Rounded&) const override {
    return {std::min(from.u, to.u), std::min(from.v, to.v), std::abs(to.u - from.u), std::abs(to.v - from.v)};
  }
  std::vector<double> sizes(const std::vector<double>& n) const override { return {n[2], n[3]}; }
};

}  // namespace

const std::vector<const CurveKind*>& curveKinds() {
  static const LineKind line;
  static const ArcKind arc;
  static const CircleKind circle;
  static const RectangleKind rectangle;
  static const std::vector<const CurveKind*> kinds{&line, &arc, &circle, &rectangle};
  return kinds;
}

const CurveKind* findCurveKind(const std::string& name) {
  const auto& kinds = curveKinds();
  const auto found =
      std::find_if(kinds.begin(), kinds.end(), [&](const CurveKind* kind) { return kind->name == name; });
  return found == kinds.end() ? nullptr : *found;
}

}  // namespace kervo
