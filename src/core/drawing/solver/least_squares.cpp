// The step from x solves (JᵀJ + λW) d = −Jᵀr. With a small λ that is the shortest step to where the rows vanish, so
// that what need not move stays, and rows that depend on each other do no harm. λ grows until a step makes the rows
// smaller.
#include "drawing/solver/least_squares.h"

#include <Eigen/SparseCholesky>

#include "drawing/solver/jacobian.h"

namespace kervo {

namespace {

constexpr int mostSteps = 100;
/// λ as a share of the mean of JᵀJ's diagonal: where it starts, and where it is too large or small to matter.
constexpr double firstDamping = 1e-7, leastDamping = 1e-12, mostDamping = 1e6;
/// Rows that shrink by less than this share in so many steps one after another have come to rest.
constexpr double stalled = 1e-4;
constexpr int stalledSteps = 8;
/// Where rows that hold depend on each other, a place is found that is far less exact than they are: steps go on until
/// they are this short, mm.
constexpr double settled = 1e-9;
/// Of unknowns, where derivatives are taken by differences; a share of those beyond 1.
constexpr double difference = 1e-6;

}  // namespace

std::vector<int> columnsOf(const Equations& equations, const Equations::Part& part) {
  std::vector<int> column(equations.size(), -1);
  for (std::size_t i = 0; i < part.unknowns.size(); ++i) column[part.unknowns[i]] = static_cast<int>(i);
  return column;
}

Linearized linearized(const Equations& equations, const Equations::Part& part, const std::vector<int>& column) {
  Linearized result;
  result.rows.resize(static_cast<Eigen::Index>(part.rows));
  std::vector<Eigen::Triplet<double>> triplets;
  int row = 0;
  const auto enter = [&](std::size_t r, Scalar scalar, double value) {
    // Zeros too: the pattern must stay the same from step to step.
    if (!equations.isKnown(scalar))
      triplets.emplace_back(row + static_cast<int>(r), column[equations.root(scalar)], value);
  };
  Dual values[Dual::most], rows[Equation::mostRows];
  for (const std::size_t index : part.equations) {
    const Equation& equation = equations.all()[index];
    const std::vector<Scalar>& scalars = equation.scalars;
    if (equation.formula) {
      for (std::size_t i = 0; i < scalars.size(); ++i)
        values[i] = equations.isKnown(scalars[i]) ? Dual(equations.value(scalars[i]))
                                                  : Dual::unknown(equations.value(scalars[i]), i);
      equation.formula(values, rows);
      for (std::size_t r = 0; r < equation.rows; ++r) {
        result.rows[row + static_cast<int>(r)] = rows[r].value;
        for (std::size_t i = 0; i < scalars.size(); ++i) enter(r, scalars[i], rows[r].by[i]);
      }
    } else {
      std::vector<double> at;
      for (const Scalar scalar : scalars) at.push_back(equations.value(scalar));
      double low[Equation::mostRows], high[Equation::mostRows];
      equation.computed(at.data(), high);
      for (std::size_t r = 0; r < equation.rows; ++r) result.rows[row + static_cast<int>(r)] = high[r];
      for (std::size_t i = 0; i < scalars.size(); ++i) {
        if (equations.isKnown(scalars[i])) continue;
        const double middle = at[i], step = difference * std::max(1.0, std::abs(middle));
        at[i] = middle - step;
        equation.computed(at.data(), low);
        at[i] = middle + step;
        equation.computed(at.data(), high);
        at[i] = middle;
        for (std::size_t r = 0; r < equation.rows; ++r) enter(r, scalars[i], (high[r] - low[r]) / (2 * step));
      }
    }
    row += static_cast<int>(equation.rows);
  }
  result.derivatives.resize(row, static_cast<Eigen::Index>(part.unknowns.size()));
  result.derivatives.setFromTriplets(triplets.begin(), triplets.end());
  return result;
}

std::vector<double> rowsOf(const Equations& equations, const Equations::Part& part) {
  const Linearized now = linearized(equations, part, columnsOf(equations, part));
  return {now.rows.begin(), now.rows.end()};
}

namespace {

/// At rest where rows do not vanish: a valley, or a ridge like that of parallel lines that are to be at a right angle.
constexpr double resting = 1e-6;
/// By how much unknowns are moved off a ridge, as shares of how far they lie apart, one after another.
constexpr double nudges[] = {0.01, 0.1, 0.3};
/// The longest step, as a share of it: on a ridge, rounding alone would throw everything far away.
constexpr double farthest = 30;

/// How far the unknowns lie apart, or from zero, mm.
double spread(const Equations& equations, const Equations::Part& part) {
  double size = 1;
  for (const Scalar unknown : part.unknowns) size = std::max(size, std::abs(equations.value(unknown)));
  return size;
}

/// A step as long as the drawing is large would change the rows by next to nothing.
bool isAtRest(const Equations& equations, const Equations::Part& part) {
  const Linearized now = linearized(equations, part, columnsOf(equations, part));
  const Eigen::VectorXd slope = now.derivatives.transpose() * now.rows;
  return slope.norm() * spread(equations, part) <= resting * now.rows.squaredNorm();
}

/// The same way every time, each unknown differently, by half of it at most.
void moveOff(Equations& equations, const Equations::Part& part, double by) {
  // By squares, so that equal vectors do not get equal additions.
  constexpr double golden = 0.6180339887498949;
  double index = 0;
  for (const Scalar unknown : part.unknowns) {
    ++index;
    const double share = golden * index * index;
    equations.set(unknown, equations.value(unknown) + (share - std::floor(share) - 0.5) * by);
  }
}

/// `longest`: of a step, so that it does not leap over what is near.
Fit fitFromHere(Equations& equations, const Equations::Part& part, double exactness,
                const std::vector<double>& stiffness, double longest);

}  // namespace

Fit fit(Equations& equations, const Equations::Part& part, double exactness, const std::vector<double>& stiffness) {
  const auto place = [&] {
    std::vector<double> at;
    for (const Scalar unknown : part.unknowns) at.push_back(equations.value(unknown));
    return at;
  };
  const auto putTo = [&](const std::vector<double>& at) {
    for (std::size_t i = 0; i < at.size(); ++i) equations.set(part.unknowns[i], at[i]);
  };
  const double size = part.unknowns.empty() ? 0 : spread(equations, part);
  const bool onRidge = isAtRest(equations, part);
  const std::vector<double> start = place();
  Fit first = fitFromHere(equations, part, exactness, stiffness, onRidge ? size : farthest * size);
  if (first.solved || part.unknowns.empty() || !(onRidge || isAtRest(equations, part))) return first;
  const std::vector<double> rest = place();
  for (const double nudge : nudges) {
    putTo(start);
    moveOff(equations, part, nudge * size);
    Fit again = fitFromHere(equations, part, exactness, stiffness, size / 4);
    if (again.solved) return again;
  }
  putTo(rest);
  return first;
}

namespace {

Fit fitFromHere(Equations& equations, const Equations::Part& part, double exactness,
                const std::vector<double>& stiffness, double longest) {
  const std::vector<int> column = columnsOf(equations, part);
  const auto count = static_cast<Eigen::Index>(part.unknowns.size());
  Linearized now = linearized(equations, part, column);
  const auto place = [&] {
    Eigen::VectorXd x(count);
    for (Eigen::Index i = 0; i < count; ++i) x[i] = equations.value(part.unknowns[static_cast<std::size_t>(i)]);
    return x;
  };
  const auto moveTo = [&](const Eigen::VectorXd& x) {
    for (Eigen::Index i = 0; i < count; ++i) equations.set(part.unknowns[static_cast<std::size_t>(i)], x[i]);
  };
  const auto largest = [](const Eigen::VectorXd& rows) { return rows.size() ? rows.cwiseAbs().maxCoeff() : 0.0; };

  Eigen::VectorXd x = place();
  double damping = firstDamping;
  Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver;
  bool analysed = false;
  int atRest = 0;
  bool arrived = false;
  for (int step = 0; step < mostSteps && count > 0 && std::isfinite(now.rows.sum()); ++step) {
    if (now.rows.squaredNorm() == 0) break;
    const bool close = largest(now.rows) <= exactness;
    const Eigen::SparseMatrix<double> transposed = now.derivatives.transpose();
    Eigen::SparseMatrix<double> normal = transposed * now.derivatives;
    const double mean = std::max(normal.diagonal().sum() / static_cast<double>(count), 1e-300);
    const Eigen::VectorXd slope = transposed * now.rows;
    Eigen::VectorXd weight = Eigen::VectorXd::Ones(count);
    if (!stiffness.empty())
      for (Eigen::Index i = 0; i < count; ++i) weight[i] = stiffness[part.unknowns[static_cast<std::size_t>(i)]];
    // Every diagonal entry is there, so that the pattern stays the same.
    Eigen::SparseMatrix<double> diagonal(count, count);
    diagonal.setIdentity();
    bool better = false;
    while (damping < mostDamping) {
      for (Eigen::Index i = 0; i < count; ++i) diagonal.coeffRef(i, i) = damping * mean * weight[i];
      const Eigen::SparseMatrix<double> damped = normal + diagonal;
      if (!analysed) solver.analyzePattern(damped);
      analysed = true;
      solver.factorize(damped);
      if (solver.info() != Eigen::Success) {
        damping *= 10;
        continue;
      }
      const Eigen::VectorXd next = x - solver.solve(slope);
      if ((next - x).cwiseAbs().maxCoeff() > longest) {
        damping *= 10;
        continue;
      }
      arrived = close && (next - x).cwiseAbs().maxCoeff() < settled;
      moveTo(next);
      Linearized there = linearized(equations, part, column);
      if (std::isfinite(there.rows.sum()) && there.rows.squaredNorm() < now.rows.squaredNorm()) {
        atRest = there.rows.squaredNorm() < (1 - stalled) * now.rows.squaredNorm() ? 0 : atRest + 1;
        better = atRest < stalledSteps;
        x = next;
        now = std::move(there);
        damping = std::max(damping / 10, leastDamping);
        break;
      }
      moveTo(x);
      // Close to the place rounding is all that is left.
      if (close) break;
      damping *= 10;
    }
    if (!better || arrived) break;
  }
  Fit result{largest(now.rows) <= exactness, largest(now.rows), {now.rows.begin(), now.rows.end()}};
  return result;
}

}  // namespace

}  // namespace kervo
