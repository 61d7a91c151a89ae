#include "geom/surface/skin.h"

#include <BSplCLib.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <algorithm>
#include <array>

#include "base/say.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

Handle(Geom_BSplineCurve) interpolated(const std::vector<Point>& points, const std::vector<double>& parameters,
                                       const Vector* atStart, const Vector* atEnd) {
  const auto count = static_cast<int>(points.size());
  Handle(TColgp_HArray1OfPnt) through = new TColgp_HArray1OfPnt(1, count);
  Handle(TColStd_HArray1OfReal) at = new TColStd_HArray1OfReal(1, count);
  for (int i = 1; i <= count; ++i) {
    through->SetValue(i, toPnt(points[static_cast<std::size_t>(i) - 1]));
    at->SetValue(i, parameters[static_cast<std::size_t>(i) - 1]);
  }
  // Rows may come to a point: two of their points are then one.
  GeomAPI_Interpolate spline(through, at, false, 0);
  if (atStart && atEnd) spline.Load(toVec(*atStart), toVec(*atEnd), false);
  spline.Perform();
  if (!spline.IsDone()) throw Error(say("a surface could not be laid through the curves"), "", say("Simplify them"));
  return spline.Curve();
}

}  // namespace

namespace {

constexpr int degree = 5, atEnds = 3;

/// The first and second derivatives of rows where they begin (`step` > 0) or end (`step` < 0), from five of them.
std::pair<Row, Row> derivativesAt(const std::function<Row(double)>& rowAt, double place, double step) {
  constexpr std::array<double, 5> first{-25, 48, -36, 16, -3}, second{35, -104, 114, -56, 11};
  constexpr double divisor = 12;
  std::array<Row, 5> rows;
  for (std::size_t i = 0; i < rows.size(); ++i) rows[i] = rowAt(place + step * static_cast<double>(i));
  Row once(rows.front().size()), twice(rows.front().size());
  for (std::size_t k = 0; k < once.size(); ++k) {
    Vector sum1, sum2;
    for (std::size_t i = 0; i < rows.size(); ++i) {
      // Differences to the first one, so that large coordinates cost no digits.
      const Vector off = rows[i][k] - rows[0][k];
      sum1 = sum1 + off * first[i];
      sum2 = sum2 + off * second[i];
    }
    once[k] = Point{} + sum1 * (1 / (divisor * step));
    twice[k] = Point{} + sum2 * (1 / (divisor * step * step));
  }
  return {once, twice};
}

}  // namespace

Columns columnsThrough(const std::function<Row(double)>& rowAt, double from, double to, int spans) {
  Columns result;
  std::vector<Row> rows;
  for (int i = 0; i <= spans; ++i) {
    result.knots.push_back(i == spans ? to : from + (to - from) * i / spans);
    result.multiplicities.push_back(i == 0 || i == spans ? degree + 1 : 1);
    rows.push_back(rowAt(result.knots.back()));
  }
  // From inside: beyond its ends there may be a corner.
  const double step = (to - from) * 2e-3;
  const auto [begins, bends] = derivativesAt(rowAt, from, step);
  const auto [ends, bendsAtEnd] = derivativesAt(rowAt, to, -step);
  // A knot at each place; as many conditions as poles: the rows, and two derivatives at each end.
  TColStd_Array1OfReal knots(1, spans + 1);
  TColStd_Array1OfInteger counts(1, spans + 1);
  for (int i = 0; i <= spans; ++i) {
    knots.SetValue(i + 1, result.knots[static_cast<std::size_t>(i)]);
    counts.SetValue(i + 1, result.multiplicities[static_cast<std::size_t>(i)]);
  }
  const int conditions = spans + 1 + 2 * (atEnds - 1);
  TColStd_Array1OfReal flat(1, conditions + degree + 1), parameters(1, conditions);
  TColStd_Array1OfInteger orders(1, conditions);
  BSplCLib::KnotSequence(knots, counts, flat);
  for (int i = 1; i <= conditions; ++i) {
    const int place = std::clamp(i - atEnds, 0, spans);
    parameters.SetValue(i, result.knots[static_cast<std::size_t>(place)]);
    // The last row first at the end: the matrix is solved without exchanging rows.
    orders.SetValue(i, i <= atEnds ? i - 1 : i > conditions - atEnds ? conditions - i : 0);
  }
  for (std::size_t pole = 0; pole < rows.front().size(); ++pole) {
    TColgp_Array1OfPnt column(1, conditions);
    for (int i = 0; i <= spans; ++i) {
      const int at = i == 0 ? 1 : i == spans ? conditions : i + atEnds;
      column.SetValue(at, toPnt(rows[static_cast<std::size_t>(i)][pole]));
    }
    column.SetValue(2, toPnt(begins[pole]));
    column.SetValue(3, toPnt(bends[pole]));
    column.SetValue(conditions - 1, toPnt(ends[pole]));
    column.SetValue(conditions - 2, toPnt(bendsAtEnd[pole]));
    int problem = 0;
    BSplCLib::Interpolate(degree, flat, parameters, orders, column, problem);
    if (problem != 0) throw Error(say("a surface could not be laid through the curves"), "", say("Simplify them"));
    std::vector<Point>& poles = result.poles.emplace_back();
    for (int i = 1; i <= conditions; ++i) poles.push_back(fromPnt(column.Value(i)));
  }
  return result;
}

namespace {

std::pair<TColStd_Array1OfReal, TColStd_Array1OfInteger> asArrays(const std::vector<double>& knots,
                                                                  const std::vector<int>& multiplicities) {
  const auto count = static_cast<int>(knots.size());
  std::pair<TColStd_Array1OfReal, TColStd_Array1OfInteger> result{TColStd_Array1OfReal(1, count),
                                                                  TColStd_Array1OfInteger(1, count)};
  for (int i = 1; i <= count; ++i) {
    result.first.SetValue(i, knots[static_cast<std::size_t>(i) - 1]);
    result.second.SetValue(i, multiplicities[static_cast<std::size_t>(i) - 1]);
  }
  return result;
}

}  // namespace

Handle(Geom_BSplineCurve) Columns::curve(std::size_t column) const {
  const auto count = static_cast<int>(poles[column].size());
  TColgp_Array1OfPnt points(1, count);
  for (int i = 1; i <= count; ++i) points.SetValue(i, toPnt(poles[column][static_cast<std::size_t>(i) - 1]));
  const auto [uKnots, uCounts] = asArrays(knots, multiplicities);
  return new Geom_BSplineCurve(points, uKnots, uCounts, degree);
}

Handle(Geom2d_BSplineCurve) Columns::flatCurve(std::size_t column) const {
  const auto count = static_cast<int>(poles[column].size());
  TColgp_Array1OfPnt2d points(1, count);
  for (int i = 1; i <= count; ++i) {
    const Point& pole = poles[column][static_cast<std::size_t>(i) - 1];
    points.SetValue(i, {pole.x, pole.y});
  }
  const auto [uKnots, uCounts] = asArrays(knots, multiplicities);
  return new Geom2d_BSplineCurve(points, uKnots, uCounts, degree);
}

namespace {

/// Of control points by columns.
Handle(Geom_BSplineSurface)
    surfaceOf(const std::vector<std::vector<Point>>& columns, const Across& along, const Across& across) {
  const auto count = static_cast<int>(columns.size()), rows = static_cast<int>(columns.front().size());
  TColgp_Array2OfPnt grid(1, rows, 1, count);
  TColStd_Array2OfReal weights(1, rows, 1, count);
  weights.Init(1);
  for (int k = 1; k <= count; ++k)
    for (int i = 1; i <= rows; ++i) {
      const auto column = static_cast<std::size_t>(k) - 1;
      grid.SetValue(i, k, toPnt(columns[column][static_cast<std::size_t>(i) - 1]));
      if (!across.weights.empty()) weights.SetValue(i, k, across.weights[column]);
    }
  const auto [uKnots, uCounts] = asArrays(along.knots, along.multiplicities);
  const auto [vKnots, vCounts] = asArrays(across.knots, across.multiplicities);
  return new Geom_BSplineSurface(grid, weights, uKnots, vKnots, uCounts, vCounts, along.degree, across.degree);
}

}  // namespace

Handle(Geom_BSplineCurve) curveAcross(const Row& row, const Across& across) {
  TColgp_Array1OfPnt poles(1, static_cast<int>(row.size()));
  for (std::size_t i = 0; i < row.size(); ++i) poles.SetValue(static_cast<int>(i) + 1, toPnt(row[i]));
  const auto [knots, counts] = asArrays(across.knots, across.multiplicities);
  return new Geom_BSplineCurve(poles, knots, counts, across.degree);
}

Handle(Geom_BSplineSurface) skin(const Columns& columns, const Across& across) {
  return surfaceOf(columns.poles, {degree, columns.knots, columns.multiplicities, {}}, across);
}

Handle(Geom_BSplineSurface) ruled(const Row& from, const Row& to, const Across& across) {
  std::vector<std::vector<Point>> columns;
  for (std::size_t i = 0; i < from.size(); ++i) columns.push_back({from[i], to[i]});
  return surfaceOf(columns, {}, across);
}

Handle(Geom_BSplineSurface)
    skin(const std::function<Row(double)>& rowAt, double from, double to, int spans, const Across& across) {
  return skin(columnsThrough(rowAt, from, to, spans), across);
}

Row rowThrough(const std::vector<Point>& points, const std::vector<double>& parameters, Across& across) {
  across = {1, parameters, std::vector<int>(parameters.size(), 1), {}};
  across.multiplicities.front() = across.multiplicities.back() = 2;
  return points;
}

Row rowThrough(const std::vector<Point>& points, const std::vector<double>& parameters, Vector atStart, Vector atEnd,
               Across& across) {
  const Handle(Geom_BSplineCurve) curve = interpolated(points, parameters, &atStart, &atEnd);
  across = {curve->Degree(), {}, {}, {}};
  for (int i = 1; i <= curve->NbKnots(); ++i) {
    across.knots.push_back(curve->Knot(i));
    across.multiplicities.push_back(curve->Multiplicity(i));
  }
  Row row;
  for (int i = 1; i <= curve->NbPoles(); ++i) row.push_back(fromPnt(curve->Pole(i)));
  return row;
}

}  // namespace kervo
