#include "geom/plane_split.h"

#include "geom/kernel/shape_body.h"
#include "geom/kernel/skeleton.h"
#include "geom/primitives.h"
#include "geom/tolerances.h"
#include "geom/topology.h"

namespace kervo {

double farthestFrom(const Plane& plane, const Shape& part) {
  double farthest = 0;
  const auto see = [&](Point point) {
    const double distance = plane.signedDistance(point);
    if (std::abs(distance) > std::abs(farthest)) farthest = distance;
  };
  for (const Skeleton::VertexPart& corner : skeletonOf(part).vertices) see(fromPnt(BRep_Tool::Pnt(corner.vertex)));
  // A cap of a ball has no corner but on its rim.
  if (std::abs(farthest) < tolerance::looseEdge)
    for (const Face& face : facesOf(part)) see(face.samplePoint());
  return farthest;
}

PlaneSplit splitByPlane(const std::string& name, const Shape& stock, const Plane& plane, const Kerf& kerf,
                        Progress& progress) {
  PlaneSplit sides;
  const Box box = stock.roughBox();
  const bool noKerf = kerf.width() < tolerance::smallestSize;
  sides.cut =
      divide(stock, {makeSlab(name, plane, noKerf ? 0 : kerf.from, noKerf ? Box::infinity : kerf.to, box)}, progress);
  if (noKerf) {
    sides.front = sides.cut.inside.pieces();
    sides.back = sides.cut.outside.pieces();
    return sides;
  }
  sides.waste = sides.cut.inside;
  const Plane middle = plane.moved((kerf.from + kerf.to) / 2);
  for (const Shape& part : sides.cut.outside.pieces())
    (farthestFrom(middle, part) > 0 ? sides.front : sides.back).push_back(part);
  return sides;
}

}  // namespace kervo
