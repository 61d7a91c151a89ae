#include "geom/measure/between.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <algorithm>
#include <cmath>

#include "base/say.h"
#include "geom/divide/boolean.h"
#include "geom/kernel/topology_body.h"
#include "geom/planes.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

TopoDS_Shape kernelShapeOf(const MeasuredPart& part) {
  if (const auto* point = std::get_if<Point>(&part)) return BRepBuilderAPI_MakeVertex(toPnt(*point)).Vertex();
  if (const auto* edge = std::get_if<Edge>(&part)) return edge->body().edge;
  if (const auto* face = std::get_if<Face>(&part)) return face->body().face;
  return std::get<Shape>(part).body().topology;
}

std::optional<Plane> planeOf(const MeasuredPart& part) {
  const auto* face = std::get_if<Face>(&part);
  return face ? face->plane() : std::nullopt;
}

/// Of a straight edge.
std::optional<Vector> straightOf(const MeasuredPart& part) {
  const auto* edge = std::get_if<Edge>(&part);
  if (!edge || BRepAdaptor_Curve(edge->body().edge).GetType() != GeomAbs_Line) return std::nullopt;
  const auto axis = edge->axis();
  return axis ? std::optional(axis->direction) : std::nullopt;
}

/// Of a round face or edge.
std::optional<Axis> roundAxisOf(const MeasuredPart& part) {
  if (const auto* face = std::get_if<Face>(&part)) return face->axis();
  if (const auto* edge = std::get_if<Edge>(&part); edge && !straightOf(part)) return edge->axis();
  return std::nullopt;
}

double distanceOf(const Axis& a, const Axis& b) {
  const Vector across = cross(a.direction, b.direction), way = b.point - a.point;
  if (length(across) > tolerance::sameDirection) return std::abs(dot(way, normalized(across)));
  return length(way - a.direction * dot(way, a.direction));
}

void measureDirections(Between& result, const MeasuredPart& a, const MeasuredPart& b) {
  const auto planeA = planeOf(a), planeB = planeOf(b);
  const auto between = [](const Vector& u, const Vector& v) { return std::clamp(std::abs(dot(u, v)), 0.0, 1.0); };
  if (planeA && planeB) {
    if (length(cross(planeA->normal, planeB->normal)) < tolerance::sameDirection)
      result.planes = std::abs(planeA->signedDistance(planeB->origin));
    else
      result.angle = std::acos(std::clamp(-dot(planeA->normal, planeB->normal), -1.0, 1.0));
    return;
  }
  const auto axisA = roundAxisOf(a), axisB = roundAxisOf(b);
  if (axisA && axisB) result.axes = distanceOf(*axisA, *axisB);
  const auto direction = [](const MeasuredPart& part, const std::optional<Axis>& axis) {
    const auto straight = straightOf(part);
    return straight || !axis ? straight : std::optional(axis->direction);
  };
  const auto lineA = direction(a, axisA), lineB = direction(b, axisB);
  if (lineA && lineB) result.angle = std::acos(between(*lineA, *lineB));
  if (lineA && planeB) result.angle = std::asin(between(*lineA, planeB->normal));
  if (planeA && lineB) result.angle = std::asin(between(planeA->normal, *lineB));
}

}  // namespace

Between measuredBetween(const MeasuredPart& a, const MeasuredPart& b, Progress& progress) {
  Between result;
  kernelCall("measuring a distance", [&] {
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    const BRepExtrema_DistShapeShape nearest(kernelShapeOf(a), kernelShapeOf(b), Extrema_ExtFlag_MIN,
                                             Extrema_ExtAlgo_Grad, indicator->Start());
    progress.throwIfStopped();
    if (!nearest.IsDone() || nearest.NbSolution() < 1)
      throw Error(say("the distance could not be found"), "", say("Measure between smaller parts, such as faces"));
    result.distance = nearest.Value();
    result.from = fromPnt(nearest.PointOnShape1(1));
    result.to = fromPnt(nearest.PointOnShape2(1));
    measureDirections(result, a, b);
  });
  const auto *one = std::get_if<Shape>(&a), *other = std::get_if<Shape>(&b);
  if (one && other && one->kind() == BodyKind::Solid && other->kind() == BodyKind::Solid &&
      result.distance < tolerance::point) {
    const Shape common = intersect({*one, *other}, progress);
    result.overlap = common.empty() ? 0 : common.volume();
  }
  return result;
}

std::optional<double> radiusOf(const Face& face) {
  const BRepAdaptor_Surface surface(face.body().face, false);
  if (surface.GetType() == GeomAbs_Cylinder) return surface.Cylinder().Radius();
  if (surface.GetType() == GeomAbs_Sphere) return surface.Sphere().Radius();
  return std::nullopt;
}

std::optional<double> radiusOf(const Edge& edge) {
  const BRepAdaptor_Curve curve(edge.body().edge);
  if (curve.GetType() == GeomAbs_Circle) return curve.Circle().Radius();
  return std::nullopt;
}

}  // namespace kervo
