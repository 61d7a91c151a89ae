#include "geom/surface/parameter_curve.h"

#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2dConvert.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <Geom2d_Line.hxx>
#include <Geom2d_TrimmedCurve.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>
#include <algorithm>
#include <cmath>

#include "geom/tolerances.h"

namespace kervo {

Handle(Geom2d_Curve) curveThrough(const std::vector<double>& at, const std::vector<gp_Pnt2d>& points) {
  const gp_Vec2d way(points.front(), points.back());
  const double span = at.back() - at.front();
  bool straight = true;
  for (std::size_t i = 0; i < points.size() && straight; ++i) {
    const gp_Pnt2d wanted = points.front().Translated(way * ((at[i] - at.front()) / span));
    straight = wanted.Distance(points[i]) < 1e-11;
  }
  if (straight && std::abs(way.Magnitude() / span - 1) < tolerance::rounding) {
    const gp_Dir2d direction(way);
    return new Geom2d_Line(points.front().Translated(gp_Vec2d(direction) * -at.front()), direction);
  }
  if (straight) {
    TColgp_Array1OfPnt2d poles(1, 2);
    poles.SetValue(1, points.front());
    poles.SetValue(2, points.back());
    TColStd_Array1OfReal knots(1, 2);
    knots.SetValue(1, at.front());
    knots.SetValue(2, at.back());
    TColStd_Array1OfInteger multiplicities(1, 2);
    multiplicities.Init(2);
    return new Geom2d_BSplineCurve(poles, knots, multiplicities, 1);
  }
  const int count = static_cast<int>(points.size());
  Handle(TColgp_HArray1OfPnt2d) through = new TColgp_HArray1OfPnt2d(1, count);
  Handle(TColStd_HArray1OfReal) parameters = new TColStd_HArray1OfReal(1, count);
  for (int i = 0; i < count; ++i) {
    through->SetValue(i + 1, points[static_cast<std::size_t>(i)]);
    parameters->SetValue(i + 1, at[static_cast<std::size_t>(i)]);
  }
  Geom2dAPI_Interpolate interpolate(through, parameters, false, tolerance::finest);
  interpolate.Perform();
  return interpolate.IsDone() ? Handle(Geom2d_Curve)(interpolate.Curve()) : Handle(Geom2d_Curve)();
}

namespace {

using PointsAt = std::function<std::vector<gp_Pnt2d>(const std::vector<double>&)>;
using Off = std::function<double(double, const gp_Pnt2d&)>;

Handle(Geom2d_Curve) smoothPiece(const PointsAt& pointsAt, const Off& off, double first, double last, double enough) {
  for (std::size_t spans = 16; spans <= 1024; spans *= 2) {
    std::vector<double> at, between;
    for (std::size_t i = 0; i <= spans; ++i) {
      at.push_back(i == spans ? last : first + (last - first) * static_cast<double>(i) / static_cast<double>(spans));
      if (i > 0) between.push_back((at[i - 1] + at[i]) / 2);
    }
    Handle(Geom2d_Curve) found = curveThrough(at, pointsAt(at));
    if (found.IsNull()) return {};
    double farthest = 0;
    for (const double t : between) farthest = std::max(farthest, off(t, found->Value(t)));
    if (farthest <= enough) return found;
  }
  return {};
}

/// Pieces that follow each other as one curve, with corners where they meet.
Handle(Geom2d_Curve) joined(const std::vector<Handle(Geom2d_Curve)>& pieces, const std::vector<double>& breaks) {
  constexpr int degree = 3;
  std::vector<gp_Pnt2d> poles;
  std::vector<double> knots;
  std::vector<int> counts;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    Handle(Geom2d_BSplineCurve) piece = Handle(Geom2d_BSplineCurve)::DownCast(pieces[i]);
    if (piece.IsNull())
      piece = Geom2dConvert::CurveToBSplineCurve(new Geom2d_TrimmedCurve(pieces[i], breaks[i], breaks[i + 1]));
    piece->IncreaseDegree(degree);
    for (int k = i == 0 ? 1 : 2; k <= piece->NbPoles(); ++k) poles.push_back(piece->Pole(k));
    for (int k = i == 0 ? 1 : 2; k <= piece->NbKnots(); ++k) {
      knots.push_back(piece->Knot(k));
      const bool inner = k == piece->NbKnots() && i + 1 < pieces.size();
      counts.push_back(inner ? degree : piece->Multiplicity(k));
    }
  }
  TColgp_Array1OfPnt2d points(1, static_cast<int>(poles.size()));
  TColStd_Array1OfReal at(1, static_cast<int>(knots.size()));
  TColStd_Array1OfInteger multiplicities(1, static_cast<int>(knots.size()));
  for (std::size_t i = 0; i < poles.size(); ++i) points.SetValue(static_cast<int>(i) + 1, poles[i]);
  for (std::size_t i = 0; i < knots.size(); ++i) {
    at.SetValue(static_cast<int>(i) + 1, knots[i]);
    multiplicities.SetValue(static_cast<int>(i) + 1, counts[i]);
  }
  return new Geom2d_BSplineCurve(points, at, multiplicities, degree);
}

}  // namespace

Handle(Geom2d_Curve)
    curveFollowing(const PointsAt& pointsAt, const Off& off, const std::vector<double>& breaks, double enough) {
  // As one, if it is smooth enough for that.
  if (const auto whole = smoothPiece(pointsAt, off, breaks.front(), breaks.back(), enough); !whole.IsNull())
    return whole;
  if (breaks.size() < 3) return {};
  // What pointsAt() gives goes on from piece to piece only if it is asked for all of them at once.
  std::vector<Handle(Geom2d_Curve)> pieces;
  for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
    const auto piece = smoothPiece(
        [&](const std::vector<double>& at) {
          std::vector<double> all(at);
          for (const double each : breaks)
            if (each < at.front() || each > at.back()) all.push_back(each);
          std::sort(all.begin(), all.end());
          const std::vector<gp_Pnt2d> points = pointsAt(all);
          const auto from = std::find(all.begin(), all.end(), at.front()) - all.begin();
          return std::vector<gp_Pnt2d>(points.begin() + from,
                                       points.begin() + from + static_cast<std::ptrdiff_t>(at.size()));
        },
        off, breaks[i], breaks[i + 1], enough);
    if (piece.IsNull()) return {};
    pieces.push_back(piece);
  }
  return joined(pieces, breaks);
}

}  // namespace kervo
