#include "geom/measure/approach.h"

#include <BRepExtrema_DistShapeShape.hxx>
#include <algorithm>

#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

std::optional<double> untilPlane(const Shape& shape, Vector direction, const Plane& plane) {
  const double closing = dot(direction, plane.normal);
  if (std::abs(closing) < tolerance::parallel) return std::nullopt;
  // The side of the shape that meets the plane first.
  const Vector towards = closing > 0 ? plane.normal : -plane.normal;
  const double gap = dot(plane.origin, towards) - extentAlong(shape, towards).second;
  const double distance = gap / std::abs(closing);
  return distance < -tolerance::onBoundary ? std::nullopt : std::optional(std::max(0.0, distance));
}

std::optional<double> untilFace(const Shape& shape, Vector direction, const TopoDS_Face& face, double limit,
                                Progress& progress) {
  constexpr int most = 400;
  double moved = 0;
  for (int i = 0; i < most && moved < limit; ++i) {
    progress.throwIfStopped();
    gp_Trsf move;
    move.SetTranslation(toVec(direction * moved));
    const BRepExtrema_DistShapeShape nearest(shape.body().topology.Moved(TopLoc_Location(move)), face);
    if (!nearest.IsDone()) return std::nullopt;
    if (nearest.Value() < tolerance::point) return moved;
    moved += nearest.Value();
    if (nearest.Value() < 10 * tolerance::point && i > 50) return moved;
  }
  return std::nullopt;
}

}  // namespace

bool touches(const Shape& a, const Shape& b) {
  if (a.empty() || b.empty() || !a.roughBox().enlarged(tolerance::onBoundary).overlaps(b.roughBox())) return false;
  return kernelCall("measuring a distance", [&] {
    const BRepExtrema_DistShapeShape nearest(a.body().topology, b.body().topology);
    return nearest.IsDone() && nearest.Value() <= tolerance::onBoundary;
  });
}

std::pair<double, double> extentAlong(const Shape& shape, Vector direction) {
  return kernelCall("measuring a body", [&] {
    gp_Trsf toPlane;
    toPlane.SetTransformation(toAxes(Plane::through({}, direction)));
    Bnd_Box box;
    BRepBndLib::AddOptimal(shape.body().topology.Moved(TopLoc_Location(toPlane)), box, false, false);
    return std::pair(box.CornerMin().Z(), box.CornerMax().Z());
  });
}

std::optional<double> distanceUntilMet(const std::vector<Shape>& shapes, Vector direction, const Face& target,
                                       Progress& progress) {
  return kernelCall("looking for where the bodies meet the face", [&] {
    std::optional<double> first;
    const std::optional<Plane> plane = target.plane();
    Bnd_Box goal;
    BRepBndLib::Add(target.body().face, goal, false);
    for (const Shape& shape : shapes) {
      Box all = shape.roughBox();
      all.add(fromPnt(goal.CornerMin()));
      all.add(fromPnt(goal.CornerMax()));
      const auto distance = plane ? untilPlane(shape, direction, *plane)
                                  : untilFace(shape, direction, target.body().face, 2 * all.diagonal(), progress);
      if (distance && (!first || *distance < *first)) first = distance;
    }
    return first;
  });
}

}  // namespace kervo
