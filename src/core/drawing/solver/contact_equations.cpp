// Points on curves, and curves that touch each other.
#include "drawing/solver/drawing_equations.h"

#include "base/error.h"
#include "base/say.h"
#include "drawing/curve_kind.h"
#include "drawing/solver/formulas.h"

namespace kervo {

using formula::list;
using formula::offset;
using formula::point;
using formula::sign;

void DrawingEquations::onCurve(int constraint, ScalarPoint at, const Named& curve) {
  switch (curve.element) {
    case Element::Line: {
      const LineShape& line = lines_[curve.index];
      return rows(constraint, list({at, line.from, line.to}), 1,
                  [](const Dual* x, Dual* r) { r[0] = offset(point(x, 0), point(x, 1), point(x, 2)); });
    }
    case Element::Round: {
      const RoundShape& round = rounds_[curve.index];
      return rows(constraint, list({at, round.centre}, {round.radius}), 1,
                  [](const Dual* x, Dual* r) { r[0] = length(point(x, 0) - point(x, 1)) - x[4]; });
    }
    case Element::Ellipse: {
      // In the ellipse's own axes x²/a² + y²/b² = 1; times the mean size, so that it is about a distance.
      const EllipseShape& shape = ellipses_[curve.index];
      return rows(constraint, list({at, shape.centre, shape.end}, {shape.small}), 1, [](const Dual* x, Dual* r) {
        const DualPoint axis = point(x, 2) - point(x, 1), way = point(x, 0) - point(x, 1);
        const Dual large = length(axis);
        const Dual along = dot(way, axis) / (large * large), across = cross(axis, way) / (large * x[6]);
        r[0] = (sqrt(along * along + across * across) - Dual(1)) * Dual((large.value + std::abs(x[6].value)) / 2);
      });
    }
    case Element::Spline: {
      const SplineShape& shape = splines_[curve.index];
      std::vector<Scalar> scalars = list({at});
      std::vector<PlanePoint> now;
      for (const ScalarPoint& each : shape.points) {
        now.push_back(equations.at(each));
        scalars.insert(scalars.end(), {each.u, each.v});
      }
      // Where on it the point lies is one more unknown.
      scalars.push_back(equations.unknown(shape.through(drawing_, now).nearest(equations.at(at))));
      return computed(constraint, std::move(scalars), 2, [shape, &drawing = drawing_](const double* x, double* r) {
        std::vector<PlanePoint> poles;
        for (std::size_t i = 0; i < shape.points.size(); ++i) poles.push_back({x[2 + 2 * i], x[3 + 2 * i]});
        const PlanePoint off = shape.through(drawing, poles).at(x[2 + 2 * poles.size()]) - PlanePoint{x[0], x[1]};
        r[0] = off.u;
        r[1] = off.v;
      });
    }
    case Element::Point:
      break;
  }
}

void DrawingEquations::splineContact(int constraint, const SplineShape& spline, const Named& named, bool smooth) {
  const SplineShape* second = named.element == Element::Spline ? &splines_[named.index] : nullptr;
  const std::vector<ScalarPoint> ends = second ? std::vector{second->points.front(), second->points.back()}
                                        : named.element == Element::Line
                                            ? std::vector{lines_[named.index].from, lines_[named.index].to}
                                            : rounds_[named.index].ends;
  for (const bool atEnd : {false, true})
    for (std::size_t end = 0; end < ends.size(); ++end) {
      if (spline.closed(drawing_) || !meet(atEnd ? spline.points.back() : spline.points.front(), ends[end])) continue;
      std::vector<Scalar> scalars;
      for (const ScalarPoint& each : spline.points) scalars.insert(scalars.end(), {each.u, each.v});
      const std::size_t first = spline.points.size();
      if (second)
        for (const ScalarPoint& each : second->points) scalars.insert(scalars.end(), {each.u, each.v});
      else if (named.element == Element::Line)
        for (const Scalar each : list({lines_[named.index].from, lines_[named.index].to})) scalars.push_back(each);
      else
        for (const Scalar each : list({rounds_[named.index].centre, ends[end]}, {rounds_[named.index].radius}))
          scalars.push_back(each);
      const std::optional<SplineShape> other = second ? std::optional(*second) : std::nullopt;
      const bool isLine = named.element == Element::Line;
      const double size = extent;
      computed(
          constraint, std::move(scalars), smooth ? 2 : 1,
          [&drawing = drawing_, spline, other, first, atEnd, end, isLine, smooth, size](const double* x, double* r) {
            const auto read = [&](std::size_t from, std::size_t count) {
              std::vector<PlanePoint> result;
              for (std::size_t i = from; i < from + count; ++i) result.push_back({x[2 * i], x[2 * i + 1]});
              return result;
            };
            const Spline::Frame own = spline.through(drawing, read(0, first)).frame(atEnd ? 1 : 0);
            PlanePoint along;
            double bend = 0;
            if (other) {
              const Spline::Frame frame =
                  other->through(drawing, read(first, other->points.size())).frame(end == 1 ? 1 : 0);
              along = frame.tangent();
              bend = frame.curvature();
            } else {
              const std::vector<PlanePoint> ends = read(first, 2);
              const PlanePoint way = ends[1] - ends[0];
              along = (isLine ? way : PlanePoint{-way.v, way.u}) * (1 / length(way));
              if (!isLine) bend = 1 / x[2 * (first + 2)];
            }
            const PlanePoint tangent = own.tangent();
            r[0] = cross(along, tangent) * size;
            // Seen along the same way.
            if (smooth) r[1] = (own.curvature() - bend * sign(dot(along, tangent))) * size * size;
          });
      return;
    }
  throw Error(say("a spline is tangent or smooth only at an end that it shares with the other curve"), "",
              say("Make the two ends coincident first"));
}

void DrawingEquations::tangent(int constraint, const std::vector<Named>& on, bool smooth) {
  const Named &a = on[0], &b = on[1];
  if (a.element == Element::Spline) return splineContact(constraint, splines_[a.index], b, smooth);
  if (b.element == Element::Ellipse) {
    // The distance from the centre to a tangent at a right angle to n is √((a·n)² + (b·n)²), a and b the half axes.
    const LineShape& line = lines_[a.index];
    const EllipseShape& shape = ellipses_[b.index];
    const double side = sideNow(shape.centre, line);
    return rows(constraint, list({line.from, line.to, shape.centre, shape.end}, {shape.small}), 1,
                [side](const Dual* x, Dual* r) {
                  const DualPoint along = point(x, 1) - point(x, 0), axis = point(x, 3) - point(x, 2);
                  const Dual large = length(axis), size = length(along);
                  const Dual a = cross(along, axis) / size, b = dot(along, axis) / (size * large) * x[8];
                  r[0] = offset(point(x, 2), point(x, 0), point(x, 1)) * Dual(side) - sqrt(a * a + b * b);
                });
  }
  const RoundShape& round = rounds_[b.index];
  if (a.element == Element::Line) {
    const LineShape& line = lines_[a.index];
    for (const ScalarPoint& end : {line.from, line.to})
      for (const ScalarPoint& other : round.ends)
        if (meet(end, other))
          return rows(constraint, list({line.from, line.to, round.centre, other}), 1, [](const Dual* x, Dual* r) {
            const DualPoint along = point(x, 1) - point(x, 0);
            r[0] = dot(along, point(x, 3) - point(x, 2)) / length(along);
          });
    const double side = sideNow(round.centre, line);
    return rows(
        constraint, list({line.from, line.to, round.centre}, {round.radius}), 1,
        [side](const Dual* x, Dual* r) { r[0] = offset(point(x, 2), point(x, 0), point(x, 1)) * Dual(side) - x[6]; });
  }
  const RoundShape& first = rounds_[a.index];
  for (const ScalarPoint& end : first.ends)
    for (const ScalarPoint& other : round.ends)
      if (meet(end, other))
        return rows(constraint, list({first.centre, round.centre, end}), 1, [](const Dual* x, Dual* r) {
          const DualPoint way = point(x, 2) - point(x, 1);
          r[0] = cross(point(x, 2) - point(x, 0), way) / length(way);
        });
  // One inside the other, or side by side, as they are now.
  const double apart = distance(equations.at(first.centre), equations.at(round.centre));
  const double one = equations.value(first.radius), two = equations.value(round.radius);
  const bool inside = apart < std::max(one, two);
  const double larger = one < two ? -1 : 1;
  rows(constraint, list({first.centre, round.centre}, {first.radius, round.radius}), 1,
       [inside, larger](const Dual* x, Dual* r) {
         r[0] = length(point(x, 1) - point(x, 0)) - (inside ? (x[4] - x[5]) * Dual(larger) : x[4] + x[5]);
       });
}

}  // namespace kervo
