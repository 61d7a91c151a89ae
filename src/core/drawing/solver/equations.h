// Unknowns and equations of a drawing: what the solver works on.
#pragma once

#include <functional>
#include <span>
#include <vector>

#include "drawing/solver/dual.h"
#include "geom/space.h"

namespace kervo {

/// A coordinate or size: its index in Equations.
using Scalar = std::size_t;

struct ScalarPoint {
  Scalar u, v;
};

/// One or several rows that must become zero. Rows are in mm: what is an angle is multiplied by the drawing's size.
struct Equation {
  static constexpr std::size_t mostRows = 4;

  std::vector<Scalar> scalars;  ///< at most Dual::most for a formula
  std::size_t rows = 1;
  /// From the values of `scalars` to the rows.
  std::function<void(const Dual* values, Dual* rows)> formula = {};
  /// The same where there is no formula in closed form; derivatives are taken by differences.
  std::function<void(const double* values, double* rows)> computed = {};
  int constraint = -1;  ///< its place in the drawing; −1 for what makes a curve that curve
};

/// Scalars that are the same are made one; known ones are constants.
class Equations {
 public:
  Scalar unknown(double start);
  Scalar known(double value);
  /// Makes two of them one. Where both are known already, or are one already, false: nothing is done.
  bool unite(Scalar a, Scalar b);
  /// Makes it a constant; false if it is one already.
  bool fix(Scalar scalar, double value);
  void add(Equation equation) { equations_.push_back(std::move(equation)); }

  std::size_t size() const { return scalars_.size(); }
  Scalar root(Scalar scalar) const;
  bool isKnown(Scalar scalar) const { return scalars_[root(scalar)].known; }
  double value(Scalar scalar) const { return scalars_[root(scalar)].value; }
  void set(Scalar scalar, double value) { scalars_[root(scalar)].value = value; }
  PlanePoint at(ScalarPoint point) const { return {value(point.u), value(point.v)}; }
  const std::vector<Equation>& all() const { return equations_; }

  /// Equations that share unknowns, and those unknowns, in order; unknowns in no equation are in no part. An equation
  /// without unknowns is a part of its own.
  struct Part {
    std::vector<Scalar> unknowns;  ///< roots
    std::vector<std::size_t> equations;
    std::size_t rows = 0;
  };
  std::vector<Part> parts() const;

 private:
  struct Held {
    double value;
    bool known;
    Scalar parent;
  };
  std::vector<Held> scalars_;
  std::vector<Equation> equations_;
};

}  // namespace kervo
