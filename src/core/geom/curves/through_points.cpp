#include "geom/curves/through_points.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepLib.hxx>
#include <BSplCLib.hxx>
#include <Eigen/Dense>
#include <GC_MakeArcOfCircle.hxx>
#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>
#include <algorithm>
#include <cmath>
#include <math_Matrix.hxx>

#include "base/say.h"
#include "geom/curves/curve_chains.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/topology_body.h"
#include "geom/place_text.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

void requireApart(const std::vector<Point>& points, std::size_t fewest, bool closed) {
  if (points.size() < fewest)
    throw Error(say("%1 points are too few: it takes %2", points.size(), fewest), "", say("Pick more points"));
  for (std::size_t i = 0; i < points.size(); ++i) {
    if (i + 1 == points.size() && !closed) break;
    const Point next = points[(i + 1) % points.size()];
    if (distance(points[i], next) < tolerance::smallestSize)
      throw Error(say("two points that follow each other lie in one place, %1", placeText(next)), "",
                  say("Leave out one of them"));
  }
}

Error noSpline() {
  return Error(say("no spline could be laid through the points"), "", say("Move them, or leave some out"));
}

Shape bodyOfOne(const CurveStretch& stretch) {
  CurveChain chain;
  chain.stretches.push_back(stretch);
  return bodyOf({chain});
}

Shape splineThrough(const std::vector<Point>& points, bool closed) {
  const auto count = static_cast<int>(points.size());
  const Handle(TColgp_HArray1OfPnt) through = new TColgp_HArray1OfPnt(1, count);
  for (int i = 1; i <= count; ++i) through->SetValue(i, toPnt(points[static_cast<std::size_t>(i) - 1]));
  GeomAPI_Interpolate spline(through, closed, tolerance::point);
  spline.Perform();
  if (!spline.IsDone()) throw noSpline();
  const Handle(Geom_BSplineCurve) curve = spline.Curve();
  if (curve->IsPeriodic()) curve->SetNotPeriodic();
  return bodyOfOne({Handle(Geom_Curve)(curve), curve->FirstParameter(), curve->LastParameter()});
}

Shape arcThrough(const std::vector<Point>& points, bool closed) {
  if (points.size() > 3)
    throw Error(say("an arc goes through three points, and %1 are chosen", points.size()), "",
                say("Leave some out, or choose a spline"));
  const GC_MakeArcOfCircle arc(toPnt(points[0]), toPnt(points[1]), toPnt(points[2]));
  if (!arc.IsDone()) throw Error(say("the three points lie on a line"), "", say("Move one, or choose lines"));
  const Handle(Geom_Curve) circle = arc.Value()->BasisCurve();
  if (closed) return bodyOfOne({circle, circle->FirstParameter(), circle->LastParameter()});
  return bodyOfOne({circle, arc.Value()->FirstParameter(), arc.Value()->LastParameter()});
}

}  // namespace

Shape curveThrough(const std::vector<Point>& points, Through kind, bool closed) {
  return kernelCall("laying a curve through points", [&] {
    if (kind == Through::Arc) {
      requireApart(points, 3, true);
      return arcThrough(points, closed);
    }
    requireApart(points, closed ? 3 : 2, closed);
    if (kind == Through::Spline) return splineThrough(points, closed);
    CurveChain chain;
    for (std::size_t i = 0; i + 1 < points.size(); ++i) chain.stretches.push_back(lineFrom(points[i], points[i + 1]));
    if (closed) chain.stretches.push_back(lineFrom(points.back(), points.front()));
    return bodyOf({chain});
  });
}

Shape curveOnFace(const std::vector<Point>& points, const Face& face, bool closed) {
  requireApart(points, closed ? 3 : 2, closed);
  return kernelCall("laying a curve on a face", [&] {
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(face.body().face);
    std::vector<gp_Pnt2d> places;
    for (const Point& point : points) {
      const GeomAPI_ProjectPointOnSurf nearest(toPnt(point), surface);
      if (nearest.NbPoints() == 0)
        throw Error(say("the face has no place near to %1", placeText(point)), "", say("Choose another point"));
      double u = 0, v = 0;
      nearest.LowerDistanceParameters(u, v);
      // The copy that is nearer to the point before.
      if (!places.empty() && surface->IsUPeriodic())
        u += surface->UPeriod() * std::round((places.back().X() - u) / surface->UPeriod());
      if (!places.empty() && surface->IsVPeriodic())
        v += surface->VPeriod() * std::round((places.back().Y() - v) / surface->VPeriod());
      places.emplace_back(u, v);
    }
    if (closed) {
      // All the way round, if that is where it leads.
      gp_Pnt2d last = places.front();
      if (surface->IsUPeriodic())
        last.SetX(last.X() + surface->UPeriod() * std::round((places.back().X() - last.X()) / surface->UPeriod()));
      places.push_back(last);
    }
    const auto count = static_cast<int>(places.size());
    const Handle(TColgp_HArray1OfPnt2d) through = new TColgp_HArray1OfPnt2d(1, count);
    const Handle(TColStd_HArray1OfReal) at = new TColStd_HArray1OfReal(1, count);
    // By the lengths between them in space, so that it is as even there as one in space would be.
    double length = 0;
    for (int i = 1; i <= count; ++i) {
      const gp_Pnt2d& place = places[static_cast<std::size_t>(i) - 1];
      if (i > 1) {
        const gp_Pnt2d& before = places[static_cast<std::size_t>(i) - 2];
        length += surface->Value(before.X(), before.Y()).Distance(surface->Value(place.X(), place.Y()));
      }
      through->SetValue(i, place);
      at->SetValue(i, length);
    }
    Geom2dAPI_Interpolate spline(through, at, false, tolerance::rounding);
    spline.Perform();
    if (!spline.IsDone()) throw noSpline();
    TopoDS_Edge edge = BRepBuilderAPI_MakeEdge(spline.Curve(), surface).Edge();
    constexpr double follows = 1e-6;
    constexpr int mostDegree = 8, mostSpans = 200;
    if (!BRepLib::BuildCurve3d(edge, follows, GeomAbs_C1, mostDegree, mostSpans))
      throw Error(say("the curve on the face could not be followed in space"), "", say("Move the points"));
    return bodyOf(chainsOf(TopoDS_Shape(edge)));
  });
}

namespace {

/// Places of a chain by its length, from 0 to 1.
std::vector<Point> evenly(const CurveChain& chain, int count) {
  std::vector<double> ends{0};
  for (const CurveStretch& stretch : chain.stretches) ends.push_back(ends.back() + stretch.length());
  std::vector<Point> points;
  constexpr int steps = 64;
  // Lengths along each stretch by small steps: they only set how evenly the places lie.
  std::vector<std::vector<double>> along;
  for (const CurveStretch& stretch : chain.stretches) {
    std::vector<double>& lengths = along.emplace_back(std::vector<double>{0});
    for (int i = 1; i <= steps; ++i) {
      const auto place = [&](int k) { return stretch.from + (stretch.to - stretch.from) * k / steps; };
      lengths.push_back(lengths.back() + distance(stretch.at(place(i - 1)), stretch.at(place(i))));
    }
  }
  for (int i = 0; i <= count; ++i) {
    const double wanted = ends.back() * i / count;
    std::size_t number = 0;
    while (number + 1 < chain.stretches.size() && ends[number + 1] < wanted) ++number;
    const CurveStretch& stretch = chain.stretches[number];
    const double own = std::clamp((wanted - ends[number]) / (ends[number + 1] - ends[number]), 0.0, 1.0);
    const std::vector<double>& lengths = along[number];
    std::size_t step = 0;
    while (step + 1 < steps && lengths[step + 1] < own * lengths.back()) ++step;
    const double within = (own * lengths.back() - lengths[step]) / std::max(lengths[step + 1] - lengths[step], 1e-300);
    const double parameter = stretch.from + (stretch.to - stretch.from) * (static_cast<double>(step) + within) / steps;
    points.push_back(i == 0       ? chain.stretches.front().start()
                     : i == count ? chain.stretches.back().end()
                                  : stretch.at(parameter));
  }
  return points;
}

/// With evenly spaced knots, nearest to points that lie evenly along it; through the first and the last one.
Handle(Geom_BSplineCurve) nearestSpline(const std::vector<Point>& points, int degree, int poles) {
  const int spans = poles - degree;
  TColStd_Array1OfReal knots(1, spans + 1);
  TColStd_Array1OfInteger times(1, spans + 1);
  for (int i = 1; i <= spans + 1; ++i) {
    knots(i) = static_cast<double>(i - 1) / spans;
    times(i) = i == 1 || i == spans + 1 ? degree + 1 : 1;
  }
  TColStd_Array1OfReal flat(1, poles + degree + 1);
  BSplCLib::KnotSequence(knots, times, flat);
  const auto rows = static_cast<Eigen::Index>(points.size());
  Eigen::MatrixXd all = Eigen::MatrixXd::Zero(rows, poles);
  Eigen::MatrixXd wanted(rows, 3);
  math_Matrix values(1, 1, 1, degree + 1);
  for (Eigen::Index i = 0; i < rows; ++i) {
    const Point& point = points[static_cast<std::size_t>(i)];
    wanted.row(i) << point.x, point.y, point.z;
    Standard_Integer first = 1;
    BSplCLib::EvalBsplineBasis(0, degree + 1, flat, static_cast<double>(i) / static_cast<double>(rows - 1), first,
                               values);
    for (int k = 0; k <= degree; ++k) all(i, first - 1 + k) = values(1, k + 1);
  }
  Eigen::MatrixXd found(poles, 3);
  found.row(0) = wanted.row(0);
  found.row(poles - 1) = wanted.row(rows - 1);
  if (poles > 2) {
    const Eigen::MatrixXd rest = wanted - all.col(0) * found.row(0) - all.col(poles - 1) * found.row(poles - 1);
    found.middleRows(1, poles - 2) = all.middleCols(1, poles - 2).colPivHouseholderQr().solve(rest);
  }
  TColgp_Array1OfPnt points3d(1, poles);
  for (int i = 0; i < poles; ++i) points3d(i + 1) = gp_Pnt(found(i, 0), found(i, 1), found(i, 2));
  return new Geom_BSplineCurve(points3d, knots, times, degree);
}

/// How far a place is from a polyline.
double apart(Point place, const std::vector<Point>& line) {
  double least = Box::infinity;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) {
    const Vector way = line[i + 1] - line[i];
    const double square = dot(way, way);
    const double share = square > 0 ? std::clamp(dot(place - line[i], way) / square, 0.0, 1.0) : 0;
    least = std::min(least, distance(place, line[i] + way * share));
  }
  return least;
}

}  // namespace

Refitted refitted(const Shape& curve, int degree, int controlPoints) {
  constexpr int most = 9;
  if (degree < 1 || degree > most)
    throw Error(say("a degree of %1 cannot be had", degree), "", say("Choose one from 1 to %1", most));
  if (controlPoints < degree + 1)
    throw Error(say("%1 control points are too few for degree %2", controlPoints, degree), "",
                say("Choose at least %1, or a lower degree", degree + 1));
  return kernelCall("fitting a spline", [&] {
    Refitted result;
    std::vector<CurveChain> chains;
    for (const CurveChain& chain : chainsOf(curve)) {
      const int samples = std::max(200, 12 * controlPoints);
      const std::vector<Point> points = evenly(chain, samples);
      const Handle(Geom_BSplineCurve) spline = nearestSpline(points, degree, controlPoints);
      std::vector<Point> made;
      for (int i = 0; i <= 4 * samples; ++i)
        made.push_back(fromPnt(spline->Value(static_cast<double>(i) / (4 * samples))));
      const std::vector<Point> fine = evenly(chain, 4 * samples);
      const auto look = [&](const std::vector<Point>& from, const std::vector<Point>& to) {
        for (const Point& point : from)
          if (const double off = apart(point, to); off > result.off) result.off = off, result.offAt = point;
      };
      look(points, made);
      std::vector<Point> few;
      for (std::size_t i = 0; i < made.size(); i += 4) few.push_back(made[i]);
      look(few, fine);
      CurveChain& fitted = chains.emplace_back();
      fitted.stretches.push_back({Handle(Geom_Curve)(spline), 0, 1});
    }
    result.curve = bodyOf(chains);
    return result;
  });
}

}  // namespace kervo
