// Lines and circles meet in closed form. Other curves are divided into short pieces; where the pieces' boxes overlap,
// the nearest pair of points is sought, first by least squares, which finds crossings, then as two points with
// parallel tangents, which finds touches as exactly.
#include "drawing/crossings.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Curves this near share a place, mm.
constexpr double same = 1e-9;
constexpr double near = tolerance::point;
/// Pieces into which a curve is divided, and a span of a spline at least.
constexpr std::size_t pieces = 192, piecesOfSpan = 4;
constexpr int rounds = 60;

/// The derivative by the parameter.
PlanePoint speed(const PlaneCurve& curve, double t) {
  constexpr double step = 1e-6;
  const double low = std::max(0.0, t - step), high = std::min(1.0, t + step);
  return curve.tangentAt(t) * (length(curve.at(high) - curve.at(low)) / (high - low));
}

double inRange(const PlaneCurve& curve, double t) {
  return curve.closed() ? t - std::floor(t) : std::clamp(t, 0.0, 1.0);
}

struct Pair {
  double a, b;
};

/// The nearest points of two curves around a pair of parameters.
Pair approach(const PlaneCurve& a, const PlaneCurve& b, Pair at) {
  double damping = 1e-12;
  double apart = distance(a.at(at.a), b.at(at.b));
  for (int round = 0; round < rounds && apart > 0; ++round) {
    const PlanePoint off = a.at(at.a) - b.at(at.b), va = speed(a, at.a), vb = speed(b, at.b);
    const double aa = dot(va, va) * (1 + damping), bb = dot(vb, vb) * (1 + damping), ab = -dot(va, vb);
    const double ra = -dot(va, off), rb = dot(vb, off);
    const double determinant = aa * bb - ab * ab;
    if (!(std::abs(determinant) > 0)) break;
    const Pair next{inRange(a, at.a + (ra * bb - ab * rb) / determinant),
                    inRange(b, at.b + (aa * rb - ab * ra) / determinant)};
    const double then = distance(a.at(next.a), b.at(next.b));
    if (then < apart) {
      at = next;
      apart = then;
      damping = std::max(damping / 10, 1e-12);
    } else if (damping > 1e3) {
      break;
    } else {
      damping = std::max(damping * 30, 1e-6);
    }
  }
  return at;
}

/// The pair near a touch at which tangents are parallel and the points face each other.
Pair polished(const PlaneCurve& a, const PlaneCurve& b, Pair at) {
  const auto off = [&](Pair p) {
    return std::array{cross(a.tangentAt(p.a), b.tangentAt(p.b)), dot(a.at(p.a) - b.at(p.b), a.tangentAt(p.a))};
  };
  constexpr double step = 1e-6;
  Pair best = at;
  for (int round = 0; round < 12; ++round) {
    const auto now = off(at);
    const auto atA = off({inRange(a, at.a + step), at.b}), beforeA = off({inRange(a, at.a - step), at.b});
    const auto atB = off({at.a, inRange(b, at.b + step)}), beforeB = off({at.a, inRange(b, at.b - step)});
    const double aa = (atA[0] - beforeA[0]) / (2 * step), ab = (atB[0] - beforeB[0]) / (2 * step);
    const double ba = (atA[1] - beforeA[1]) / (2 * step), bb = (atB[1] - beforeB[1]) / (2 * step);
    const double determinant = aa * bb - ab * ba;
    if (!(std::abs(determinant) > 1e-12)) break;
    at = {inRange(a, at.a - (now[0] * bb - ab * now[1]) / determinant),
          inRange(b, at.b - (aa * now[1] - ba * now[0]) / determinant)};
  }
  const double before = distance(a.at(best.a), b.at(best.b)), after = distance(a.at(at.a), b.at(at.b));
  return after <= before + same ? at : best;
}

struct PieceBox {
  PlaneBox box;
  double middle;
};

std::size_t piecesOf(const PlaneCurve& curve) {
  const auto* spline = dynamic_cast<const SplineCurve*>(&curve);
  return std::max(pieces, spline ? piecesOfSpan * spline->spline().poles().size() : 0);
}

std::vector<PieceBox> divided(const PlaneCurve& curve) {
  std::vector<PieceBox> result;
  const std::size_t count = piecesOf(curve);
  result.reserve(count);
  PlanePoint from = curve.at(0);
  for (std::size_t i = 0; i < count; ++i) {
    const double t0 = static_cast<double>(i) / static_cast<double>(count);
    const double t1 = static_cast<double>(i + 1) / static_cast<double>(count);
    const PlanePoint to = curve.at(t1), middle = curve.at((t0 + t1) / 2);
    // By how much the piece is bent, with as much again to spare.
    const double bend = 2 * distance(middle, from + (to - from) * 0.5) + same;
    result.push_back({{{std::min(from.u, to.u) - bend, std::min(from.v, to.v) - bend},
                       {std::max(from.u, to.u) + bend, std::max(from.v, to.v) + bend}},
                      (t0 + t1) / 2});
    from = to;
  }
  return result;
}

bool overlap(const PlaneBox& a, const PlaneBox& b) {
  return a.low.u <= b.high.u && b.low.u <= a.high.u && a.low.v <= b.high.v && b.low.v <= a.high.v;
}

void add(std::vector<Crossing>& found, const Crossing& crossing) {
  // Two places nearer than the kernel's own precision are one.
  for (const Crossing& each : found)
    if (distance(each.at, crossing.at) < tolerance::point) return;
  found.push_back(crossing);
}

/// An end of one that lies on the other, also of stretches that they share.
void addEnds(std::vector<Crossing>& found, const PlaneCurve& a, const PlaneCurve& b) {
  const auto shared = [&](const PlaneCurve& one, const PlaneCurve& other, bool swapped) {
    if (one.closed()) return;
    for (const double end : {0.0, 1.0}) {
      const PlanePoint point = one.at(end);
      const double there = nearestOn(other, point);
      if (distance(other.at(there), point) > same) continue;
      add(found, swapped ? Crossing{point, there, end} : Crossing{point, end, there});
    }
  };
  shared(a, b, false);
  shared(b, a, true);
}

/// Of lines and circles.
void addMeetings(std::vector<Crossing>& found, const PlaneCurve& a, const PlaneCurve& b, const Carrier& ofA,
                 const Carrier& ofB) {
  for (const PlanePoint point : meetings(ofA, ofB).points)
    if (a.holds(point) && b.holds(point)) add(found, {point, nearestOn(a, point), nearestOn(b, point)});
}

void addSought(std::vector<Crossing>& found, const PlaneCurve& a, const PlaneCurve& b) {
  const auto ofA = divided(a), ofB = divided(b);
  for (const PieceBox& pieceA : ofA)
    for (const PieceBox& pieceB : ofB) {
      if (!overlap(pieceA.box, pieceB.box)) continue;
      Pair at = approach(a, b, {pieceA.middle, pieceB.middle});
      if (distance(a.at(at.a), b.at(at.b)) > 1e-6) continue;
      if (std::abs(cross(a.tangentAt(at.a), b.tangentAt(at.b))) < 1e-3) at = polished(a, b, at);
      if (distance(a.at(at.a), b.at(at.b)) > same) continue;
      // On a stretch that they share every place is one of both: its ends are found by themselves.
      const double step = 1e-3;
      const auto along = [&](double by) {
        const PlanePoint point = a.at(inRange(a, at.a + by));
        return distance(b.at(nearestOn(b, point)), point) < same;
      };
      if (along(step) || along(-step)) continue;
      add(found, {a.at(at.a), at.a, at.b});
    }
}

}  // namespace

std::vector<Crossing> selfCrossings(const PlaneCurve& curve) {
  std::vector<Crossing> found;
  const auto* spline = dynamic_cast<const SplineCurve*>(&curve);
  if (!spline) return found;
  // A curve whose control points turn by less than half a turn goes round nothing.
  const std::vector<PlanePoint>& poles = spline->spline().poles();
  double turned = 0;
  for (std::size_t i = 2; i < poles.size(); ++i) {
    const PlanePoint before = poles[i - 1] - poles[i - 2], after = poles[i] - poles[i - 1];
    turned += std::abs(std::atan2(cross(before, after), dot(before, after)));
  }
  if (turned < std::numbers::pi) return found;
  const std::vector<PieceBox> parts = divided(curve);
  const double apart = 0.5 / static_cast<double>(parts.size());
  for (std::size_t i = 0; i < parts.size(); ++i)
    for (std::size_t j = i + 2; j < parts.size(); ++j) {
      if ((curve.closed() && i == 0 && j + 1 == parts.size()) || !overlap(parts[i].box, parts[j].box)) continue;
      const Pair at = approach(curve, curve, {parts[i].middle, parts[j].middle});
      const double low = std::min(at.a, at.b), high = std::max(at.a, at.b);
      const bool oneAndTheSame = high - low < apart || (curve.closed() && low + 1 - high < apart);
      if (oneAndTheSame || distance(curve.at(low), curve.at(high)) > same) continue;
      // Ends that meet close it; they cross nothing.
      if (!curve.closed() && low < apart && high > 1 - apart && distance(curve.at(0), curve.at(1)) < tolerance::point)
        continue;
      add(found, {curve.at(low), low, high});
    }
  return found;
}

double nearestOn(const PlaneCurve& curve, PlanePoint point) {
  if (const auto carrier = curve.carrier(); carrier && carrier->radius == 0) {
    const PlanePoint from = curve.at(0), way = curve.at(1) - from;
    return std::clamp(dot(point - from, way) / dot(way, way), 0.0, 1.0);
  }
  double best = 0, least = distance(curve.at(0), point);
  const std::size_t count = piecesOf(curve);
  for (std::size_t i = 1; i <= count; ++i) {
    const double t = static_cast<double>(i) / static_cast<double>(count);
    if (const double apart = distance(curve.at(t), point); apart < least) {
      least = apart;
      best = t;
    }
  }
  // From the nearest of the places tried to where the way to the point is at a right angle.
  double low = best - 1.0 / static_cast<double>(count), high = best + 1.0 / static_cast<double>(count);
  if (!curve.closed()) {
    low = std::max(low, 0.0);
    high = std::min(high, 1.0);
  }
  const auto past = [&](double t) {
    const double in = inRange(curve, t);
    return dot(point - curve.at(in), curve.tangentAt(in)) < 0;
  };
  if (past(low)) return inRange(curve, low);
  if (!past(high)) return inRange(curve, high);
  for (int i = 0; i < 60 && high - low > 1e-17; ++i) {
    const double middle = (low + high) / 2;
    (past(middle) ? high : low) = middle;
  }
  return inRange(curve, (low + high) / 2);
}

double lengthBetween(const PlaneCurve& curve, double from, double to) {
  // By the rule of Gauss in five points, on short pieces.
  constexpr std::array<double, 5> places{0, 0.5384693101056831, -0.5384693101056831, 0.9061798459386640,
                                         -0.9061798459386640};
  constexpr std::array<double, 5> weights{0.5688888888888889, 0.4786286704993665, 0.4786286704993665,
                                          0.2369268850561891, 0.2369268850561891};
  if (const auto carrier = curve.carrier()) {
    if (carrier->radius == 0) return distance(curve.at(from), curve.at(to));
    const PlanePoint start = curve.at(0) - carrier->centre, end = curve.at(1) - carrier->centre;
    double sweep = std::atan2(cross(start, end), dot(start, end));
    if (sweep <= 0 || curve.closed()) sweep += 2 * std::acos(-1.0);
    return carrier->radius * sweep * (to - from);
  }
  // Never across a knot, where a spline may have a corner.
  std::vector<double> breaks{from};
  if (const auto* spline = dynamic_cast<const SplineCurve*>(&curve))
    for (const double knot : spline->spline().knots())
      if (knot > breaks.back() && knot < to) breaks.push_back(knot);
  breaks.push_back(to);
  const int steps = breaks.size() > 4 ? 24 : 64;
  double sum = 0;
  for (std::size_t span = 1; span < breaks.size(); ++span) {
    const double half = (breaks[span] - breaks[span - 1]) / steps / 2;
    for (int i = 0; i < steps; ++i)
      for (std::size_t j = 0; j < places.size(); ++j)
        sum += weights[j] * half * length(speed(curve, breaks[span - 1] + (2 * i + 1 + places[j]) * half));
  }
  return sum;
}

std::vector<Crossing> crossings(const PlaneCurve& a, const PlaneCurve& b) {
  std::vector<Crossing> found;
  const auto wider = [](PlaneBox box) {
    return PlaneBox{box.low - PlanePoint{same, same}, box.high + PlanePoint{same, same}};
  };
  if (!overlap(wider(a.box()), b.box())) return found;
  addEnds(found, a, b);
  const auto ofA = a.carrier(), ofB = b.carrier();
  if (ofA && ofB)
    addMeetings(found, a, b, *ofA, *ofB);
  else
    addSought(found, a, b);
  std::sort(found.begin(), found.end(), [](const Crossing& x, const Crossing& y) { return x.onA < y.onA; });
  return found;
}

bool mayCross(const PlaneCurve& a, const PlaneCurve& b) {
  const auto ofA = a.carrier(), ofB = b.carrier();
  if (!ofA || !ofB) {
    const auto inside = [](const PlaneCurve& curve, double t) {
      return curve.closed() ||
             (distance(curve.at(t), curve.at(0)) > 2 * near && distance(curve.at(t), curve.at(1)) > 2 * near);
    };
    const std::vector<Crossing> found = crossings(a, b);
    if (std::any_of(found.begin(), found.end(),
                    [&](const Crossing& each) { return inside(a, each.onA) || inside(b, each.onB); }))
      return true;
    // They share both ends: one may lie on the other.
    return found.size() > 1 && distance(b.at(nearestOn(b, a.at(0.5))), a.at(0.5)) < near;
  }
  const Meetings found = meetings(*ofA, *ofB);
  for (const PlanePoint point : found.points) {
    if (!a.holds(point) || !b.holds(point)) continue;
    const auto isEnd = [&](const PlaneCurve& curve) {
      return !curve.closed() && (distance(point, curve.at(0)) < 2 * near || distance(point, curve.at(1)) < 2 * near);
    };
    if (!isEnd(a) || !isEnd(b)) return true;
  }
  if (!found.overlap) return false;
  // On one carrier: they overlap if an end or the middle of one lies on the other, other than end on end.
  if (a.closed() || b.closed()) return true;
  const auto touches = [&](const PlaneCurve& p, const PlaneCurve& q) {
    for (const PlanePoint end : {p.at(0), p.at(1)})
      if (q.holds(end) && distance(end, q.at(0)) > 2 * near && distance(end, q.at(1)) > 2 * near) return true;
    return q.holds(p.at(0.5));
  };
  return touches(a, b) || touches(b, a);
}

}  // namespace kervo
