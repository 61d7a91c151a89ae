#include "drawing/snap.h"

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "drawing/constraint_kind.h"
#include "drawing/crossings.h"

namespace kervo {

namespace {

double boxDistance(const PlaneBox& box, PlanePoint point) {
  const double u = std::max({box.low.u - point.u, point.u - box.high.u, 0.0});
  const double v = std::max({box.low.v - point.v, point.v - box.high.v, 0.0});
  return std::hypot(u, v);
}

/// The circle that a round curve is part of; nothing for others.
std::optional<Carrier> roundOf(const PlanarCurve& curve) {
  const auto carrier = curve.geometry->carrier();
  return carrier && carrier->radius > 0 ? carrier : std::nullopt;
}

std::optional<Carrier> lineOf(const PlanarCurve& curve) {
  const auto carrier = curve.geometry->carrier();
  return carrier && carrier->radius == 0 ? carrier : std::nullopt;
}

PlanePoint footOn(const Carrier& line, PlanePoint point) {
  const PlanePoint way = line.to - line.from;
  return line.from + way * (dot(point - line.from, way) / dot(way, way));
}

}  // namespace

Snapper::Snapper(const Drawing& drawing, const DrawingValues& values, const Solution& solution) {
  for (std::size_t i = 0; i < drawing.points.size(); ++i)
    points_.emplace_back(drawing.points[i].id, solution.points.at(i));
  points_.emplace_back(originId, PlanePoint{});
  const DrawingIds ids(drawing, values.taken);
  try {
    curves_ = curvesOf(drawing, values, solution, true);
  } catch (const Error&) {
    // Where a curve is none at present, only points are found.
    curves_.clear();
  }
  for (const PlanarCurve& curve : curves_) {
    bool held = true;
    try {
      ids.element(curve.id);
    } catch (const Error&) {
      held = false;
    }
    held_.push_back(held);
  }
}

std::optional<std::string> Snapper::curveAt(PlanePoint place, double reach) const {
  std::optional<std::string> nearest;
  double least = reach;
  for (const PlanarCurve& curve : curves_) {
    if (boxDistance(curve.geometry->box(), place) > least) continue;
    const double apart = distance(curve.geometry->at(nearestOn(*curve.geometry, place)), place);
    if (apart > least) continue;
    least = apart;
    nearest = curve.id;
  }
  return nearest;
}

void Snapper::addPoints(std::vector<Goal>& goals, PlanePoint place, const SnapWanted& wanted) const {
  for (const auto& [id, at] : points_)
    if (distance(at, place) <= wanted.reach) goals.push_back({{at, SnapTo::Point, {id}}, 0});
}

void Snapper::addOnCurves(std::vector<Goal>& goals, PlanePoint place, const SnapWanted& wanted) const {
  std::vector<std::size_t> there;
  for (std::size_t i = 0; i < curves_.size(); ++i) {
    const PlanarCurve& curve = curves_[i];
    if (!held_[i] || std::find(wanted.without.begin(), wanted.without.end(), curve.id) != wanted.without.end())
      continue;
    if (boxDistance(curve.geometry->box(), place) > wanted.reach) {
      // Along a line beyond its end, as far as it is long.
      if (const auto line = lineOf(curve)) {
        const PlanePoint foot = footOn(*line, place);
        const double size = distance(line->from, line->to);
        const double beyond = std::min(distance(foot, line->from), distance(foot, line->to));
        if (distance(foot, place) <= wanted.reach / 2 && beyond < size)
          goals.push_back({{foot, SnapTo::Curve, {curve.id}, false, true}, 5});
      }
      continue;
    }
    const PlanePoint on = curve.geometry->at(nearestOn(*curve.geometry, place));
    if (distance(on, place) <= wanted.reach) {
      there.push_back(i);
      goals.push_back({{on, SnapTo::Curve, {curve.id}}, 4});
    }
    if (lineOf(curve)) {
      const PlanePoint middle = curve.geometry->at(0.5);
      if (distance(middle, place) <= wanted.reach) goals.push_back({{middle, SnapTo::Middle, {curve.id}}, 1});
    }
    if (const auto round = roundOf(curve))
      for (const PlanePoint way : {PlanePoint{1, 0}, {0, 1}, {-1, 0}, {0, -1}}) {
        const PlanePoint at = round->centre + way * round->radius;
        if (distance(at, place) <= wanted.reach && curve.geometry->holds(at))
          goals.push_back({{at, SnapTo::Quadrant, {curve.id}, way.v == 0}, 2});
      }
  }
  constexpr std::size_t most = 6;  // curves through one place whose crossings are sought
  for (std::size_t i = 0; i < std::min(there.size(), most); ++i)
    for (std::size_t j = i + 1; j < std::min(there.size(), most); ++j)
      for (const Crossing& each : crossings(*curves_[there[i]].geometry, *curves_[there[j]].geometry))
        if (distance(each.at, place) <= wanted.reach)
          goals.push_back({{each.at, SnapTo::Crossing, {curves_[there[i]].id, curves_[there[j]].id}}, 1});
}

void Snapper::addFromWhere(std::vector<Goal>& goals, PlanePoint place, PlanePoint from,
                           const SnapWanted& wanted) const {
  for (std::size_t i = 0; i < curves_.size(); ++i) {
    const PlanarCurve& curve = curves_[i];
    if (!held_[i] || boxDistance(curve.geometry->box(), place) > wanted.reach) continue;
    if (const auto line = lineOf(curve)) {
      const PlanePoint foot = footOn(*line, from);
      if (distance(foot, place) <= wanted.reach && distance(foot, from) > wanted.reach)
        goals.push_back({{foot, SnapTo::Square, {curve.id}}, 3});
    }
    const auto round = roundOf(curve);
    if (!round) continue;
    const PlanePoint way = from - round->centre;
    const double far = length(way);
    if (far <= round->radius + wanted.reach / 4) continue;
    // Where a line from there touches the circle.
    const PlanePoint along = way * (1 / far), across{-along.v, along.u};
    const double share = round->radius / far;
    for (const double side : {1.0, -1.0}) {
      const PlanePoint at = round->centre + along * (round->radius * share) +
                            across * (side * round->radius * std::sqrt(1 - share * share));
      if (distance(at, place) <= wanted.reach && curve.geometry->holds(at))
        goals.push_back({{at, SnapTo::Tangent, {curve.id}}, 3});
    }
  }
  if (distance(from, place) <= wanted.reach) return;
  const auto onGrid = [&](double x) { return wanted.grid ? std::round(x / *wanted.grid) * *wanted.grid : x; };
  if (std::abs(place.v - from.v) <= wanted.reach) goals.push_back({{{onGrid(place.u), from.v}, SnapTo::Level}, 6});
  if (std::abs(place.u - from.u) <= wanted.reach) goals.push_back({{{from.u, onGrid(place.v)}, SnapTo::Upright}, 6});
}

Snap Snapper::at(PlanePoint place, const SnapWanted& wanted) const {
  std::vector<Goal> goals;
  addPoints(goals, place, wanted);
  if (goals.empty()) {
    addOnCurves(goals, place, wanted);
    if (wanted.from) addFromWhere(goals, place, *wanted.from, wanted);
  }
  std::erase_if(goals, [&](const Goal& goal) {
    return std::any_of(goal.snap.on.begin(), goal.snap.on.end(), [&](const std::string& id) {
      return std::find(wanted.without.begin(), wanted.without.end(), id) != wanted.without.end();
    });
  });
  if (goals.empty()) {
    if (!wanted.grid) return {place};
    const double step = *wanted.grid;
    return {{std::round(place.u / step) * step, std::round(place.v / step) * step}, SnapTo::Grid};
  }
  return std::min_element(goals.begin(), goals.end(),
                          [&](const Goal& a, const Goal& b) {
                            if (a.rank != b.rank) return a.rank < b.rank;
                            return distance(a.snap.at, place) < distance(b.snap.at, place);
                          })
      ->snap;
}

}  // namespace kervo
