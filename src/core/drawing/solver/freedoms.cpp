#include "drawing/solver/freedoms.h"

#include <Eigen/OrderingMethods>
#include <Eigen/QR>
#include <Eigen/SparseQR>

#include "drawing/solver/jacobian.h"

namespace kervo {

namespace {

/// A pivot below this share of the largest row says nothing new.
constexpr double nothingNew = 1e-7;
/// Above this many unknowns most derivatives are zero, and that pays.
constexpr Eigen::Index dense = 60;

}  // namespace

Freedoms freedomsOf(const Equations& equations, const Equations::Part& part) {
  Freedoms result;
  const auto count = static_cast<Eigen::Index>(part.unknowns.size());
  if (count == 0) return result;
  const Linearized now = linearized(equations, part, columnsOf(equations, part));
  const auto take = [&](const Eigen::MatrixXd& rest) {
    for (Eigen::Index i = 0; i < rest.cols(); ++i)
      result.movements.emplace_back(rest.col(i).data(), rest.col(i).data() + count);
  };
  if (count <= dense) {
    Eigen::ColPivHouseholderQR<Eigen::MatrixXd> qr(count, now.derivatives.rows());
    qr.setThreshold(nothingNew);
    qr.compute(Eigen::MatrixXd(now.derivatives.transpose()));
    result.rank = static_cast<std::size_t>(qr.rank());
    if (qr.rank() == count) return result;  // Eigen takes no blocks of a matrix without columns
    Eigen::MatrixXd rest = Eigen::MatrixXd::Zero(count, count - qr.rank());
    rest.bottomRows(count - qr.rank()).setIdentity();
    take(qr.householderQ() * rest);
    return result;
  }
  Eigen::SparseMatrix<double> transposed = now.derivatives.transpose();
  transposed.makeCompressed();
  Eigen::SparseQR<Eigen::SparseMatrix<double>, Eigen::COLAMDOrdering<int>> qr;
  double largest = 0;
  for (int column = 0; column < transposed.outerSize(); ++column)
    largest = std::max(largest, transposed.col(column).norm());
  qr.setPivotThreshold(nothingNew * std::max(largest, 1e-300));
  qr.compute(transposed);
  result.rank = static_cast<std::size_t>(qr.rank());
  if (qr.rank() == count) return result;
  Eigen::MatrixXd rest = Eigen::MatrixXd::Zero(count, count - qr.rank());
  rest.bottomRows(count - qr.rank()).setIdentity();
  take(qr.matrixQ() * rest);
  return result;
}

std::vector<bool> dependentRows(const Equations& equations, const Equations::Part& part) {
  const Linearized now = linearized(equations, part, columnsOf(equations, part));
  const Eigen::MatrixXd rows = now.derivatives;
  std::vector<bool> dependent(static_cast<std::size_t>(rows.rows()), false);
  // Rows of the basis are orthogonal and of unit length; each row is projected twice, which is as good as exact.
  Eigen::MatrixXd basis(rows.cols(), std::min(rows.rows(), rows.cols()));
  Eigen::Index count = 0;
  for (Eigen::Index i = 0; i < rows.rows(); ++i) {
    Eigen::VectorXd left = rows.row(i).transpose();
    const double before = left.norm();
    for (int pass = 0; pass < 2; ++pass) left -= basis.leftCols(count) * (basis.leftCols(count).transpose() * left);
    if (left.norm() <= nothingNew * std::max(before, 1e-300) || count == basis.cols())
      dependent[static_cast<std::size_t>(i)] = true;
    else
      basis.col(count++) = left / left.norm();
  }
  return dependent;
}

}  // namespace kervo
