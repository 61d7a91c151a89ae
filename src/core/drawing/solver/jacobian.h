// Rows and derivatives of a part of the equations, for files that use Eigen.
#pragma once

#include <Eigen/SparseCore>
#include <vector>

#include "drawing/solver/equations.h"

namespace kervo {

struct Linearized {
  Eigen::VectorXd rows;
  Eigen::SparseMatrix<double> derivatives;  ///< rows × unknowns of the part
};

/// At the present place. `column`: by root scalar, its place among the part's unknowns.
Linearized linearized(const Equations& equations, const Equations::Part& part, const std::vector<int>& column);

/// That table.
std::vector<int> columnsOf(const Equations& equations, const Equations::Part& part);

}  // namespace kervo
