// A drawing is divided into parts that share no unknowns. Each part is fitted separately, from where it was last. If a
// part cannot be fitted, the smallest set of its constraints that contradict each other is searched for.
#include "drawing/solve.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "base/say.h"
#include "drawing/curve_kind.h"
#include "drawing/solver/drawing_equations.h"
#include "drawing/solver/freedoms.h"
#include "drawing/solver/least_squares.h"
#include "geom/planes.h"

namespace kervo {

namespace {

using Same = DrawingEquations::Same;

/// Rows that are off by less hold, mm; in a large drawing what rounding leaves.
constexpr double exactness = 1e-10, rounding = 1e-14;
/// A point whose share of all movements is below this does not move.
constexpr double unmoved = 1e-12;
/// Dragged points move this much less than others.
constexpr double dragStiffness = 1e4;
/// Sines below this say no turn.
constexpr double straight = 1e-3;

double exactnessOf(const DrawingEquations& built) {
  return std::max(exactness, rounding * built.extent);
}

/// Fits every part; gives those that could not be.
std::vector<Equations::Part> fitAll(DrawingEquations& built) {
  std::vector<Equations::Part> failed;
  for (Equations::Part& part : built.equations.parts())
    if (!fit(built.equations, part, exactnessOf(built)).solved) failed.push_back(std::move(part));
  return failed;
}

/// The drawing with the places of the equations as its last ones.
Drawing placed(Drawing drawing, const DrawingEquations& built) {
  for (std::size_t i = 0; i < drawing.points.size(); ++i) drawing.points[i].last = built.equations.at(built.points[i]);
  for (std::size_t i = 0; i < drawing.curves.size(); ++i)
    for (std::size_t k = 0; k < built.sizes[i].size(); ++k)
      drawing.curves[i].sizes[k] = built.equations.value(built.sizes[i][k]);
  return drawing;
}

/// Pairs of lines that share a point: turning from one to the other must keep its side.
std::vector<double> turnsOf(const Drawing& drawing, const DrawingEquations& built) {
  std::vector<std::vector<PlanePoint>> ways(drawing.points.size());
  for (std::size_t i = 0; i < drawing.curves.size(); ++i) {
    if (drawing.curves[i].kind != "line" || built.through[i].empty()) continue;
    const std::size_t from = built.through[i][0], to = built.through[i][1];
    const PlanePoint way = drawing.points[to].last - drawing.points[from].last;
    ways[from].push_back(way);
    ways[to].push_back(way * -1);
  }
  std::vector<double> turns;
  for (const std::vector<PlanePoint>& at : ways)
    for (std::size_t i = 1; i < at.size(); ++i)
      turns.push_back(cross(at[i - 1], at[i]) / std::max(length(at[i - 1]) * length(at[i]), 1e-300));
  return turns;
}

bool flipped(const std::vector<double>& before, const std::vector<double>& after) {
  for (std::size_t i = 0; i < before.size(); ++i)
    if (std::abs(before[i]) > straight && std::abs(after[i]) > straight && before[i] * after[i] < 0) return true;
  return false;
}

class Solving {
 public:
  Solving(const Drawing& drawing, const DrawingValues& values) : drawing_(drawing), values_(values) {
    for (const DrawnConstraint& constraint : drawing.constraints) drives_.push_back(!constraint.reference);
  }

  Solution run() {
    Solution solution;
    for (;;) {
      DrawingEquations built(drawing_, values_, drives_, Same::One);
      bool again = false;
      for (const auto& [constraint, reason] : built.refused) again |= refuse(solution, constraint, {}, reason);
      if (again) continue;
      std::vector<Equations::Part> failed = fitAll(built);
      if (!failed.empty() || flipped(turnsOf(drawing_, built), turnsOf(placed(drawing_, built), built))) {
        if (std::optional<Drawing> there = gradually(drives_)) {
          DrawingEquations last(*there, values_, drives_, Same::One);
          if (fitAll(last).empty()) return finished(std::move(solution), last);
        }
      }
      if (failed.empty()) return finished(std::move(solution), built);
      for (const Equations::Part& part : failed) {
        const std::vector<std::size_t> core = contradiction(built, part);
        if (core.empty()) {
          // They could hold, but not from here.
          if (const auto last = lastConstraint(built, part))
            again |= refuse(solution, *last, {}, say("no place was found for it near where the drawing is"));
          continue;
        }
        const std::size_t culprit = culpritOf(core);
        std::vector<std::size_t> others = core;
        std::erase(others, culprit);
        again |= refuse(solution, culprit, others, {});
      }
      if (!again) return finished(std::move(solution), built);
    }
  }

 private:
  bool refuse(Solution& solution, std::size_t constraint, const std::vector<std::size_t>& with,
              const std::string& reason) {
    Conflict conflict{drawing_.constraints[constraint].id, {}, reason};
    for (const std::size_t other : with) conflict.with.push_back(drawing_.constraints[other].id);
    solution.conflicts.push_back(std::move(conflict));
    refused_.push_back(constraint);
    drives_[constraint] = false;
    return true;
  }

  /// From the values that the dimensions have now to those they are to have, in small steps.
  std::optional<Drawing> gradually(const std::vector<bool>& drives) const {
    for (const int steps : {8, 32}) {
      Drawing now = drawing_;
      std::vector<double> from(drawing_.constraints.size(), 0);
      {
        const DrawingEquations start(drawing_, values_, drives, Same::One);
        for (std::size_t i = 0; i < from.size(); ++i)
          if (drives[i] && drawing_.constraints[i].value && !start.refused.contains(i)) from[i] = start.measured(i);
      }
      bool arrived = true;
      for (int step = 1; step <= steps && arrived; ++step) {
        DrawingValues between = values_;
        const double share = static_cast<double>(step) / steps;
        for (std::size_t i = 0; i < from.size(); ++i)
          if (drives[i] && drawing_.constraints[i].value)
            between.constraints[i] = from[i] + (values_.constraints[i] - from[i]) * share;
        DrawingEquations built(now, between, drives, Same::One);
        arrived = fitAll(built).empty();
        now = placed(now, built);
      }
      if (arrived) return now;
    }
    return std::nullopt;
  }

  bool canHold(const std::vector<std::size_t>& constraints) const {
    std::vector<bool> drives(drives_.size(), false);
    for (const std::size_t constraint : constraints) drives[constraint] = true;
    DrawingEquations built(drawing_, values_, drives, Same::One);
    return fitAll(built).empty() || gradually(drives).has_value();
  }

  /// The smallest set of constraints of a part that cannot hold together, in order; empty if they can.
  std::vector<std::size_t> contradiction(const DrawingEquations& built, const Equations::Part& part) const {
    // Those that share something with the part, also those that only made scalars one.
    std::set<Scalar> within(part.unknowns.begin(), part.unknowns.end());
    std::set<std::size_t> all;
    for (const std::size_t equation : part.equations)
      if (const int constraint = built.equations.all()[equation].constraint; constraint >= 0)
        all.insert(static_cast<std::size_t>(constraint));
    for (std::size_t i = 0; i < drives_.size(); ++i)
      if (drives_[i])
        for (const Scalar scalar : built.scalarsOf(i))
          if (within.contains(built.equations.root(scalar)) || (built.united[i] > 0 && built.equations.isKnown(scalar)))
            all.insert(i);
    std::vector<std::size_t> suspects = offenders({all.begin(), all.end()});
    if (canHold(suspects)) {
      suspects.assign(all.begin(), all.end());
      if (canHold(suspects)) return {};
    }
    // One after another is left out, unless the rest could hold without it.
    for (std::size_t i = 0; i < suspects.size();) {
      std::vector<std::size_t> rest = suspects;
      rest.erase(rest.begin() + static_cast<std::ptrdiff_t>(i));
      if (canHold(rest))
        ++i;
      else
        suspects = std::move(rest);
    }
    return suspects;
  }

  static std::optional<std::size_t> lastConstraint(const DrawingEquations& built, const Equations::Part& part) {
    int last = -1;
    for (const std::size_t equation : part.equations) last = std::max(last, built.equations.all()[equation].constraint);
    return last < 0 ? std::nullopt : std::optional(static_cast<std::size_t>(last));
  }

  /// The one without which all others hold, and of several of those the last: what was added last then. Otherwise the
  /// last of them.
  std::size_t culpritOf(const std::vector<std::size_t>& core) const {
    for (std::size_t i = core.size(); i-- > 0;) {
      std::vector<bool> drives = drives_;
      drives[core[i]] = false;
      DrawingEquations built(drawing_, values_, drives, Same::One);
      if (fitAll(built).empty()) return core[i];
    }
    return core.back();
  }

  /// Where least squares come to rest without a solution, the rows that are not zero contradict each other.
  std::vector<std::size_t> offenders(const std::vector<std::size_t>& constraints) const {
    std::vector<bool> drives(drives_.size(), false);
    for (const std::size_t constraint : constraints) drives[constraint] = true;
    DrawingEquations built(drawing_, values_, drives, Same::Apart);
    std::set<std::size_t> found;
    for (const Equations::Part& part : built.equations.parts()) {
      const Fit fitted = fit(built.equations, part, exactnessOf(built));
      if (fitted.solved) continue;
      std::size_t row = 0;
      for (const std::size_t index : part.equations) {
        const Equation& equation = built.equations.all()[index];
        for (std::size_t r = 0; r < equation.rows; ++r, ++row)
          if (equation.constraint >= 0 && std::abs(fitted.rows[row]) > 1e-6 * fitted.residual)
            found.insert(static_cast<std::size_t>(equation.constraint));
      }
    }
    return {found.begin(), found.end()};
  }

  Solution finished(Solution solution, DrawingEquations& built) const {
    const std::vector<Equations::Part> parts = built.equations.parts();
    // Of each root scalar, the part it is in and its place there.
    std::vector<std::pair<int, std::size_t>> home(built.equations.size(), {-1, 0});
    for (std::size_t p = 0; p < parts.size(); ++p)
      for (std::size_t i = 0; i < parts[p].unknowns.size(); ++i) home[parts[p].unknowns[i]] = {static_cast<int>(p), i};

    std::vector<Freedoms> freedoms;
    bool dependent = false;
    for (const Equations::Part& part : parts) {
      freedoms.push_back(freedomsOf(built.equations, part));
      solution.freedoms += static_cast<int>(freedoms.back().movements.size());
      dependent |= freedoms.back().rank < part.rows;
    }
    for (Scalar scalar = 0; scalar < built.equations.size(); ++scalar)
      if (built.equations.root(scalar) == scalar && !built.equations.isKnown(scalar) && home[scalar].first < 0)
        ++solution.freedoms;
    for (std::size_t i = 0; i < drives_.size(); ++i) dependent |= built.idle[i] > 0;

    findMovements(solution, built, home, freedoms);
    if (dependent) findAlreadyTrue(solution, placed(drawing_, built));
    take(solution, built, parts, home);
    return solution;
  }

  void findMovements(Solution& solution, const DrawingEquations& built,
                     const std::vector<std::pair<int, std::size_t>>& home,
                     const std::vector<Freedoms>& freedoms) const {
    // What two scalars share of all movements.
    const auto shared = [&](Scalar a, Scalar b) {
      a = built.equations.root(a);
      b = built.equations.root(b);
      if (built.equations.isKnown(a) || built.equations.isKnown(b)) return 0.0;
      const auto [partA, placeA] = home[a];
      const auto [partB, placeB] = home[b];
      if (partA != partB) return 0.0;
      if (partA < 0) return a == b ? 1.0 : 0.0;
      double sum = 0;
      for (const std::vector<double>& movement : freedoms[static_cast<std::size_t>(partA)].movements)
        sum += movement[placeA] * movement[placeB];
      return sum;
    };
    for (const ScalarPoint& point : built.points) {
      const double uu = shared(point.u, point.u), uv = shared(point.u, point.v), vv = shared(point.v, point.v);
      const double middle = (uu + vv) / 2, half = std::hypot((uu - vv) / 2, uv);
      const double angle = std::atan2(2 * uv, uu - vv) / 2;
      std::vector<PlanePoint> directions;
      if (middle + half > unmoved) directions.push_back({std::cos(angle), std::sin(angle)});
      if (middle - half > unmoved) directions.push_back({-std::sin(angle), std::cos(angle)});
      solution.directions.push_back(std::move(directions));
    }
    for (std::size_t i = 0; i < drawing_.curves.size(); ++i) {
      bool settled = true;
      for (const std::size_t point : built.through[i]) settled &= solution.directions[point].empty();
      for (const Scalar size : built.sizes[i]) settled &= shared(size, size) <= unmoved;
      solution.settled.push_back(settled);
    }
  }

  /// In the order of the drawing, with rows for every constraint.
  void findAlreadyTrue(Solution& solution, const Drawing& there) const {
    const DrawingEquations built(there, values_, drives_, Same::Apart);
    std::vector<int> rows(drives_.size(), 0), new_(drives_.size(), 0);
    for (Equations::Part part : built.equations.parts()) {
      const auto constraintOf = [&](std::size_t equation) { return built.equations.all()[equation].constraint; };
      std::stable_sort(part.equations.begin(), part.equations.end(),
                       [&](std::size_t a, std::size_t b) { return constraintOf(a) < constraintOf(b); });
      const std::vector<bool> dependent = dependentRows(built.equations, part);
      std::size_t row = 0;
      for (const std::size_t equation : part.equations)
        for (std::size_t r = 0; r < built.equations.all()[equation].rows; ++r, ++row)
          if (const int constraint = constraintOf(equation); constraint >= 0) {
            ++rows[static_cast<std::size_t>(constraint)];
            if (!dependent[row]) ++new_[static_cast<std::size_t>(constraint)];
          }
    }
    for (std::size_t i = 0; i < rows.size(); ++i)
      if (rows[i] > 0 && new_[i] == 0) solution.alreadyTrue.push_back(drawing_.constraints[i].id);
  }

  /// Positions; those connected with a contradiction as they were.
  void take(Solution& solution, DrawingEquations& built, const std::vector<Equations::Part>& parts,
            const std::vector<std::pair<int, std::size_t>>& home) const {
    std::vector<bool> stays(parts.size(), false);
    std::set<Scalar> single;
    for (const std::size_t constraint : refused_)
      for (const Scalar scalar : built.scalarsOf(constraint))
        if (const Scalar root = built.equations.root(scalar); home[root].first >= 0)
          stays[static_cast<std::size_t>(home[root].first)] = true;
    for (std::size_t i = 0; i < parts.size(); ++i)
      if (!stays[i])
        for (const double row : rowsOf(built.equations, parts[i]))
          solution.residual = std::max(solution.residual, std::abs(row));
    const auto isStaying = [&](Scalar scalar) {
      const int part = home[built.equations.root(scalar)].first;
      return part >= 0 && stays[static_cast<std::size_t>(part)];
    };
    for (std::size_t i = 0; i < drawing_.points.size(); ++i) {
      const ScalarPoint& point = built.points[i];
      const PlanePoint now = built.equations.at(point), last = drawing_.points[i].last;
      solution.points.push_back({isStaying(point.u) ? last.u : now.u, isStaying(point.v) ? last.v : now.v});
    }
    for (std::size_t i = 0; i < drawing_.curves.size(); ++i) {
      solution.sizes.emplace_back();
      for (std::size_t k = 0; k < built.sizes[i].size(); ++k)
        solution.sizes.back().push_back(isStaying(built.sizes[i][k]) ? drawing_.curves[i].sizes[k]
                                                                     : built.equations.value(built.sizes[i][k]));
    }
    for (std::size_t i = 0; i < drawing_.constraints.size(); ++i)
      solution.measured.push_back(drawing_.constraints[i].value ? built.measured(i) : 0);
  }

  const Drawing& drawing_;
  const DrawingValues& values_;
  std::vector<bool> drives_;
  std::vector<std::size_t> refused_;
};

}  // namespace

Solution solve(const Drawing& drawing, const DrawingValues& values) {
  return Solving(drawing, values).run();
}

Solution dragged(const Drawing& drawing, const DrawingValues& values, const Drag& drag) {
  std::vector<bool> drives;
  for (const DrawnConstraint& constraint : drawing.constraints) drives.push_back(!constraint.reference);
  DrawingEquations built(drawing, values, drives, Same::One);
  std::vector<double> stiffness(built.equations.size(), 1);
  std::set<Scalar> moved;
  for (const std::size_t index : drag.points)
    for (const auto& [scalar, by] : {std::pair(built.points[index].u, drag.by.u), {built.points[index].v, drag.by.v}}) {
      const Scalar root = built.equations.root(scalar);
      if (built.equations.isKnown(root) || !moved.insert(root).second) continue;
      built.equations.set(root, built.equations.value(root) + by);
      stiffness[root] = dragStiffness;
    }
  Solution solution;
  std::set<Scalar> stays;
  for (const Equations::Part& part : built.equations.parts()) {
    const Fit fitted = fit(built.equations, part, exactnessOf(built), stiffness);
    solution.residual = std::max(solution.residual, fitted.residual);
    if (!fitted.solved) stays.insert(part.unknowns.begin(), part.unknowns.end());
  }
  for (std::size_t i = 0; i < drawing.points.size(); ++i) {
    const ScalarPoint& point = built.points[i];
    const PlanePoint now = built.equations.at(point), last = drawing.points[i].last;
    solution.points.push_back({stays.contains(built.equations.root(point.u)) ? last.u : now.u,
                               stays.contains(built.equations.root(point.v)) ? last.v : now.v});
  }
  for (std::size_t i = 0; i < drawing.curves.size(); ++i) {
    solution.sizes.emplace_back();
    for (std::size_t k = 0; k < built.sizes[i].size(); ++k)
      solution.sizes.back().push_back(stays.contains(built.equations.root(built.sizes[i][k]))
                                          ? drawing.curves[i].sizes[k]
                                          : built.equations.value(built.sizes[i][k]));
  }
  return solution;
}

double measuredNow(const Drawing& drawing, const DrawingValues& values, const DrawnConstraint& dimension) {
  const Drawing asked{drawing.points, drawing.curves, {dimension}};
  DrawingValues with = values;
  with.constraints = {0};
  const DrawingEquations built(asked, with, {false}, Same::One);
  return built.measured(0);
}

Drawing moved(Drawing drawing, const Solution& solution) {
  for (std::size_t i = 0; i < drawing.points.size(); ++i) drawing.points[i].last = solution.points[i];
  for (std::size_t i = 0; i < drawing.curves.size(); ++i)
    if (!solution.sizes[i].empty()) drawing.curves[i].sizes = solution.sizes[i];
  return drawing;
}

}  // namespace kervo
