#include "geom/faces/surface_meeting.h"

#include <Eigen/Dense>
#include <GeomAPI_IntSS.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include "geom/kernel/elementary.h"

namespace kervo {

std::optional<FromSurface> fromSurface(const Handle(Geom_Surface) & surface, const gp_Pnt& point) {
  const GeomAdaptor_Surface adaptor(surface);
  gp_Pnt2d at;
  if (const auto found = parametersOn(adaptor, point)) {
    at = *found;
  } else {
    const GeomAPI_ProjectPointOnSurf nearest(point, surface);
    if (nearest.NbPoints() == 0) return std::nullopt;
    double u = 0, v = 0;
    nearest.LowerDistanceParameters(u, v);
    at = {u, v};
  }
  gp_Pnt foot;
  gp_Vec u, v;
  adaptor.D1(at.X(), at.Y(), foot, u, v);
  const gp_Vec normal = u.Crossed(v);
  if (normal.Magnitude() < tolerance::finest) return std::nullopt;
  FromSurface result{0, normal.Normalized()};
  result.distance = gp_Vec(foot, point).Dot(result.way);
  return result;
}

std::optional<gp_Pnt> pointOnAll(const std::vector<Handle(Geom_Surface)>& surfaces, const std::vector<Bound>& bounds,
                                 const gp_Pnt& start) {
  constexpr int mostSteps = 50;
  gp_Pnt at = start;
  for (int step = 0; step < mostSteps; ++step) {
    std::vector<std::pair<gp_Vec, double>> rows;
    double worst = 0;
    for (const Handle(Geom_Surface) & surface : surfaces) {
      const auto from = fromSurface(surface, at);
      if (!from) return std::nullopt;
      rows.emplace_back(from->way, from->distance);
      worst = std::max(worst, std::abs(from->distance));
    }
    for (const Bound& bound : bounds) {
      const GeomAPI_ProjectPointOnCurve nearest(at, bound.curve);
      if (nearest.NbPoints() == 0) return std::nullopt;
      gp_Pnt foot;
      gp_Vec along;
      bound.curve->D1(nearest.LowerDistanceParameter(), foot, along);
      const gp_Ax2 across(foot, gp_Dir(along));
      const gp_Vec off(foot, at);
      for (const gp_Dir& way : {across.XDirection(), across.YDirection()}) rows.emplace_back(way, off.Dot(gp_Vec(way)));
      worst = std::max(worst, foot.Distance(at));
    }
    constexpr double enough = 1e-10;
    if (worst < enough * std::max(1.0, at.XYZ().Modulus())) return at;
    Eigen::MatrixXd matrix(static_cast<Eigen::Index>(rows.size()), 3);
    Eigen::VectorXd off(static_cast<Eigen::Index>(rows.size()));
    for (std::size_t i = 0; i < rows.size(); ++i) {
      const auto row = static_cast<Eigen::Index>(i);
      matrix.row(row) << rows[i].first.X(), rows[i].first.Y(), rows[i].first.Z();
      off(row) = -rows[i].second;
    }
    // The shortest way where a direction is free: along an edge between surfaces that touch.
    const Eigen::Vector3d move = matrix.completeOrthogonalDecomposition().solve(off);
    at.Translate(gp_Vec(move.x(), move.y(), move.z()));
    if (move.norm() < enough && worst > tolerance::point) return std::nullopt;
  }
  for (const Handle(Geom_Surface) & surface : surfaces) {
    const auto from = fromSurface(surface, at);
    if (!from || std::abs(from->distance) > tolerance::point) return std::nullopt;
  }
  return at;
}

Handle(Geom_Curve) curveOfBoth(const Handle(Geom_Surface) & a, const Handle(Geom_Surface) & b, const gp_Pnt& near) {
  const Handle(Geom_Plane) planeA = Handle(Geom_Plane)::DownCast(a), planeB = Handle(Geom_Plane)::DownCast(b);
  if (!planeA.IsNull() && !planeB.IsNull()) {
    const gp_Dir normalA = planeA->Pln().Axis().Direction(), normalB = planeB->Pln().Axis().Direction();
    if (normalA.IsParallel(normalB, tolerance::sameDirection)) return {};
    const auto on = pointOnAll({a, b}, {}, near);
    if (!on) return {};
    return new Geom_Line(*on, normalA.Crossed(normalB));
  }
  const GeomAPI_IntSS both(a, b, tolerance::point);
  if (!both.IsDone()) return {};
  Handle(Geom_Curve) best;
  double least = Box::infinity;
  for (int i = 1; i <= both.NbLines(); ++i) {
    Handle(Geom_Curve) line = both.Line(i);
    // Whole circles come cut open.
    if (const auto part = Handle(Geom_TrimmedCurve)::DownCast(line);
        !part.IsNull() && (part->BasisCurve()->IsPeriodic() || part->BasisCurve()->IsKind(STANDARD_TYPE(Geom_Line))))
      line = part->BasisCurve();
    const GeomAPI_ProjectPointOnCurve nearest(near, line);
    double distance = nearest.NbPoints() > 0 ? nearest.LowerDistance() : Box::infinity;
    for (const double end : {line->FirstParameter(), line->LastParameter()})
      if (!Precision::IsInfinite(end)) distance = std::min(distance, line->Value(end).Distance(near));
    if (distance < least) {
      least = distance;
      best = line;
    }
  }
  return best;
}

}  // namespace kervo
