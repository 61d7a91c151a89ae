// Surfaces through rows of control points. For src/core/geom/surface only.
#pragma once

#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <functional>
#include <vector>

#include "geom/space.h"

namespace kervo {

/// The control points of the curve that runs across a surface at a place of it.
using Row = std::vector<Point>;

/// What the rows have in common: how they run across.
struct Across {
  int degree = 1;
  std::vector<double> knots{0, 1};
  std::vector<int> multiplicities{2, 2};
  std::vector<double> weights = {};  ///< of the control points; none if they are all the same

  /// One Bézier curve.
  static Across bezier(int degree) { return {degree, {0, 1}, {degree + 1, degree + 1}, {}}; }
};

/// Splines of degree 5 that follow the points of rows, one for each point of a row.
struct Columns {
  std::vector<double> knots;
  std::vector<int> multiplicities;
  std::vector<std::vector<Point>> poles;

  Handle(Geom_BSplineCurve) curve(std::size_t column) const;
  /// Of the points' x and y.
  Handle(Geom2d_BSplineCurve) flatCurve(std::size_t column) const;
};
/// Through the rows at `spans` + 1 places, with the rows' own derivatives at both ends. Throws Error where the kernel
/// fails.
Columns columnsThrough(const std::function<Row(double)>& rowAt, double from, double to, int spans);

/// The curve that runs across.
Handle(Geom_BSplineCurve) curveAcross(const Row& row, const Across& across);
/// The surface whose u runs along the columns and whose v runs across them.
Handle(Geom_BSplineSurface) skin(const Columns& columns, const Across& across);
/// Straight from one row to another along u.
Handle(Geom_BSplineSurface) ruled(const Row& from, const Row& to, const Across& across);

/// The surface whose u runs from one place to another and whose v runs across: each control point follows a spline of
/// degree 5 through those of the rows, which are asked for at `spans` + 1 places. At its ends it has the rows' own
/// derivatives, so that surfaces that go on from one another do so smoothly. Throws Error where the kernel fails.
Handle(Geom_BSplineSurface)
    skin(const std::function<Row(double)>& rowAt, double from, double to, int spans, const Across& across);

/// A row through points at rising parameters, and how it runs across, which is the same for all such rows: straight
/// from point to point, or a spline with these derivatives at its ends.
Row rowThrough(const std::vector<Point>& points, const std::vector<double>& parameters, Across& across);
Row rowThrough(const std::vector<Point>& points, const std::vector<double>& parameters, Vector atStart, Vector atEnd,
               Across& across);

}  // namespace kervo
