// What dimensions ask for, and what they measure.
#include "drawing/solver/drawing_equations.h"

#include "drawing/solver/formulas.h"

namespace kervo {

using formula::list;
using formula::nearZero;
using formula::offset;
using formula::point;
using formula::sign;

void DrawingEquations::dimension(std::size_t index, const std::vector<Named>& on, double value) {
  const std::string& kind = drawing_.constraints[index].kind;
  const int constraint = static_cast<int>(index);
  const Dual wanted(value);
  if (kind == "radius" || kind == "diameter") {
    const double times = kind == "radius" ? 1 : 2;
    return rows(constraint, {rounds_[on[0].index].radius}, 1,
                [wanted, times](const Dual* x, Dual* r) { r[0] = x[0] * Dual(times) - wanted; });
  }
  if (kind == "horizontal_distance" || kind == "vertical_distance") {
    const bool across = kind == "horizontal_distance";
    const ScalarPoint a = places_[on[0].index], b = places_[on[1].index];
    const Scalar from = across ? a.u : a.v, to = across ? b.u : b.v;
    const Dual signedValue(value * sign(equations.value(to) - equations.value(from)));
    return rows(constraint, {from, to}, 1, [signedValue](const Dual* x, Dual* r) { r[0] = x[1] - x[0] - signedValue; });
  }
  if (kind == "angle") {
    const LineShape& a = lines_[on[0].index];
    const LineShape u{lines_[0]};
    const LineShape &first = on.size() == 2 ? a : u, &second = on.size() == 2 ? lines_[on[1].index] : a;
    const PlanePoint along = equations.at(first.to) - equations.at(first.from);
    const PlanePoint other = equations.at(second.to) - equations.at(second.from);
    const double side = sign(cross(along, other)), size = longer(first, second);
    return rows(constraint, list({first.from, first.to, second.from, second.to}), 1,
                [side, value, size](const Dual* x, Dual* r) {
                  const DualPoint a = point(x, 1) - point(x, 0), b = point(x, 3) - point(x, 2);
                  r[0] = nearZero(atan2(cross(a, b), dot(a, b)) - Dual(side * value)) * Dual(size);
                });
  }
  if (kind == "length" || (on[0].element == Element::Point && on[1].element == Element::Point)) {
    const LineShape line =
        kind == "length" ? lines_[on[0].index] : LineShape{places_[on[0].index], places_[on[1].index]};
    // No distance is two rows: a length has no derivative where it is zero.
    if (value == 0) return samePlace(constraint, line.from, line.to);
    return rows(constraint, list({line.from, line.to}), 1,
                [wanted](const Dual* x, Dual* r) { r[0] = length(point(x, 1) - point(x, 0)) - wanted; });
  }
  const auto fromLine = [&](ScalarPoint at, const LineShape& line, double side) {
    const Dual signedValue(value * side);
    rows(constraint, list({at, line.from, line.to}), 1,
         [signedValue](const Dual* x, Dual* r) { r[0] = offset(point(x, 0), point(x, 1), point(x, 2)) - signedValue; });
  };
  if (on[0].element == Element::Point) {
    const LineShape& line = lines_[on[1].index];
    return fromLine(places_[on[0].index], line, sideNow(places_[on[0].index], line));
  }
  // Two lines at a distance are parallel.
  const LineShape &a = lines_[on[0].index], &b = lines_[on[1].index];
  const PlanePoint from = equations.at(a.from), middle = (equations.at(b.from) + equations.at(b.to)) * 0.5;
  const double side = sign(cross(equations.at(a.to) - from, middle - from));
  fromLine(b.from, a, side);
  fromLine(b.to, a, side);
}

double DrawingEquations::measured(std::size_t index) const {
  const DrawnConstraint& constraint = drawing_.constraints[index];
  const std::vector<Named> on = elementsOf(constraint);
  const std::string& kind = constraint.kind;
  const auto at = [&](std::size_t i) { return equations.at(places_[on[i].index]); };
  const auto from = [&](std::size_t i) { return equations.at(lines_[on[i].index].from); };
  const auto along = [&](std::size_t i) { return equations.at(lines_[on[i].index].to) - from(i); };
  const auto offLine = [&](PlanePoint place, std::size_t line) {
    return std::abs(cross(along(line), place - from(line))) / length(along(line));
  };
  if (kind == "radius") return equations.value(rounds_[on[0].index].radius);
  if (kind == "diameter") return 2 * equations.value(rounds_[on[0].index].radius);
  if (kind == "length") return length(along(0));
  if (kind == "angle") {
    const PlanePoint first = on.size() == 2 ? along(0) : PlanePoint{1, 0}, second = along(on.size() - 1);
    return std::abs(std::atan2(cross(first, second), dot(first, second)));
  }
  if (kind == "horizontal_distance") return std::abs(at(1).u - at(0).u);
  if (kind == "vertical_distance") return std::abs(at(1).v - at(0).v);
  if (on[0].element == Element::Point)
    return on[1].element == Element::Point ? distance(at(0), at(1)) : offLine(at(0), 1);
  return offLine(from(1) + along(1) * 0.5, 0);
}

}  // namespace kervo
