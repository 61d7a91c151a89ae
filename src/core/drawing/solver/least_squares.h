// Damped least squares: from where the unknowns are to the nearest place where the equations hold.
#pragma once

#include <vector>

#include "drawing/solver/equations.h"

namespace kervo {

struct Fit {
  bool solved = false;
  double residual = 0;       ///< the largest row, mm
  std::vector<double> rows;  ///< at the place that was found, in the order of the part's equations
};

/// Moves the unknowns of a part until every row is within `exactness` of zero, or none of them gets closer.
/// `stiffness`, by root scalar: how much less one moves than others do; empty: all alike.
Fit fit(Equations& equations, const Equations::Part& part, double exactness, const std::vector<double>& stiffness = {});

/// Rows at the present place.
std::vector<double> rowsOf(const Equations& equations, const Equations::Part& part);

}  // namespace kervo
