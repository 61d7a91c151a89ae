// What each kind of constraint asks for.
#include "drawing/solver/drawing_equations.h"

#include <cmath>

#include "base/error.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "drawing/solver/formulas.h"

namespace kervo {

using formula::list;
using formula::offset;
using formula::point;

void DrawingEquations::symmetric(int constraint, const std::vector<Named>& on) {
  const LineShape& axis = lines_[on[0].index];
  const auto pair = [&](ScalarPoint a, ScalarPoint b) {
    rows(constraint, list({axis.from, axis.to, a, b}), 2, [](const Dual* x, Dual* r) {
      const DualPoint along = point(x, 1) - point(x, 0), way = point(x, 3) - point(x, 2);
      const DualPoint middle = (point(x, 2) + point(x, 3)) * Dual(0.5);
      r[0] = offset(middle, point(x, 0), point(x, 1));
      r[1] = dot(along, way) / length(along);
    });
  };
  if (on[1].element == Element::Point) return pair(places_[on[1].index], places_[on[2].index]);
  if (on[1].element == Element::Round) {
    pair(rounds_[on[1].index].centre, rounds_[on[2].index].centre);
    return same(constraint, rounds_[on[1].index].radius, rounds_[on[2].index].radius);
  }
  // The ends of two lines are paired as they lie now.
  const LineShape &a = lines_[on[1].index], &b = lines_[on[2].index];
  const PlanePoint from = equations.at(axis.from), along = equations.at(axis.to) - from;
  const auto mirrored = [&](ScalarPoint each) {
    const PlanePoint way = equations.at(each) - from;
    return from + along * (2 * dot(way, along) / dot(along, along)) - way;
  };
  const PlanePoint image = mirrored(a.from);
  const bool straight = distance(image, equations.at(b.from)) <= distance(image, equations.at(b.to));
  pair(a.from, straight ? b.from : b.to);
  pair(a.to, straight ? b.to : b.from);
}

void DrawingEquations::addConstraint(std::size_t index) {
  const DrawnConstraint& constraint = drawing_.constraints[index];
  if (!drives_[index] || constraint.reference) return;
  const int number = static_cast<int>(index);
  const ConstraintKind& kind = *findConstraintKind(constraint.kind);
  try {
    const std::vector<Named> on = elementsOf(constraint);
    if (kind.dimension) {
      const double value = values_.constraints.at(index);
      if (!std::isfinite(value)) throw Error(say("it has no value"));
      if (value < 0 || (value == 0 && !kind.canBeZero))
        throw Error(say(kind.canBeZero ? later("it is less than zero") : later("it is not greater than zero")));
      return dimension(index, on, value);
    }
    const std::string& name = constraint.kind;
    const auto ends = [&](const Named& line) { return lines_[line.index]; };
    if (name == "coincident") {
      for (std::size_t i = 1; i < on.size(); ++i) {
        const ScalarPoint a = places_[on[0].index], b = places_[on[i].index];
        samePlace(number, a, b);
        const std::size_t from = meeting_.at(b.u), to = meeting_.at(a.u);
        for (auto& [scalar, meeting] : meeting_)
          if (meeting == from) meeting = to;
      }
    } else if (name == "on") {
      onCurve(number, places_[on[0].index], on[1]);
    } else if (name == "horizontal" || name == "vertical") {
      const auto level = [&](ScalarPoint a, ScalarPoint b) {
        name == "horizontal" ? same(number, a.v, b.v) : same(number, a.u, b.u);
      };
      for (std::size_t i = 0; i < on.size(); ++i)
        if (on[i].element == Element::Line)
          level(ends(on[i]).from, ends(on[i]).to);
        else if (i > 0)
          level(places_[on[0].index], places_[on[i].index]);
    } else if (name == "parallel" || name == "perpendicular") {
      const bool along = name == "parallel";
      for (std::size_t i = 1; i < on.size(); ++i) {
        const double size = longer(ends(on[0]), ends(on[i]));
        rows(number, list({ends(on[0]).from, ends(on[0]).to, ends(on[i]).from, ends(on[i]).to}), 1,
             [size, along](const Dual* x, Dual* r) {
               const DualPoint a = point(x, 1) - point(x, 0), b = point(x, 3) - point(x, 2);
               r[0] = (along ? cross(a, b) : dot(a, b)) / (length(a) * length(b)) * Dual(size);
             });
      }
    } else if (name == "tangent" || name == "smooth") {
      tangent(number, on, name == "smooth");
    } else if (name == "equal") {
      for (std::size_t i = 1; i < on.size(); ++i)
        if (on[0].element == Element::Round)
          same(number, rounds_[on[0].index].radius, rounds_[on[i].index].radius);
        else
          rows(number, list({ends(on[0]).from, ends(on[0]).to, ends(on[i]).from, ends(on[i]).to}), 1,
               [](const Dual* x, Dual* r) {
                 r[0] = length(point(x, 3) - point(x, 2)) - length(point(x, 1) - point(x, 0));
               });
    } else if (name == "concentric") {
      const auto centre = [&](const Named& each) {
        return each.element == Element::Point   ? places_[each.index]
               : each.element == Element::Round ? rounds_[each.index].centre
                                                : ellipses_[each.index].centre;
      };
      for (std::size_t i = 1; i < on.size(); ++i) samePlace(number, centre(on[0]), centre(on[i]));
    } else if (name == "midpoint") {
      const LineShape line =
          on[1].element == Element::Line ? ends(on[1]) : LineShape{places_[on[1].index], places_[on[2].index]};
      rows(number, list({places_[on[0].index], line.from, line.to}), 2, [](const Dual* x, Dual* r) {
        const DualPoint off = point(x, 0) - (point(x, 1) + point(x, 2)) * Dual(0.5);
        r[0] = off.u;
        r[1] = off.v;
      });
    } else if (name == "collinear") {
      const bool lines = on[0].element == Element::Line;
      const LineShape line = lines ? ends(on[0]) : LineShape{places_[on[0].index], places_[on[1].index]};
      const auto onLine = [&](ScalarPoint at) {
        rows(number, list({at, line.from, line.to}), 1,
             [](const Dual* x, Dual* r) { r[0] = offset(point(x, 0), point(x, 1), point(x, 2)); });
      };
      for (std::size_t i = lines ? 1 : 2; i < on.size(); ++i) {
        if (lines) onLine(ends(on[i]).from);
        onLine(lines ? ends(on[i]).to : places_[on[i].index]);
      }
    } else if (name == "symmetric") {
      symmetric(number, on);
    } else if (name == "fixed") {
      const auto hold = [&](ScalarPoint each) {
        fix(number, each.u);
        fix(number, each.v);
      };
      for (const Named& each : on) {
        if (each.element == Element::Point) hold(places_[each.index]);
        if (each.element == Element::Line) hold(ends(each).from), hold(ends(each).to);
        if (each.element == Element::Round) {
          const RoundShape& round = rounds_[each.index];
          hold(round.centre);
          if (round.ends.empty()) {
            fix(number, round.radius);
          } else {
            // The second end lies on the circle anyway: it is held along it.
            hold(round.ends[0]);
            const PlanePoint out = equations.at(round.ends[1]) - equations.at(round.centre);
            fix(number, std::abs(out.u) < std::abs(out.v) ? round.ends[1].u : round.ends[1].v);
          }
        }
        if (each.element == Element::Ellipse) {
          hold(ellipses_[each.index].centre);
          hold(ellipses_[each.index].end);
          fix(number, ellipses_[each.index].small);
        }
        if (each.element == Element::Spline)
          for (const ScalarPoint& at : splines_[each.index].points) hold(at);
      }
    }
  } catch (const Error& error) {
    refused.emplace(index, error.happened());
  }
}

}  // namespace kervo
