#include "geom/plane_split.h"

#include "geom/primitives.h"
#include "geom/tolerances.h"
#include "geom/topology.h"

namespace kervo {

namespace {

/// Every point of the part lies on one side of `middle`: the sampled one that is farthest from it says which.
bool isInFront(const Shape& part, const Plane& plane, double middle) {
  double farthest = 0;
  for (const Face& face : facesOf(part)) {
    const double distance = plane.signedDistance(face.samplePoint()) - middle;
    if (std::abs(distance) > std::abs(farthest)) farthest = distance;
  }
  return farthest > 0;
}

}  // namespace

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
  for (const Shape& part : sides.cut.outside.pieces())
    (isInFront(part, plane, (kerf.from + kerf.to) / 2) ? sides.front : sides.back).push_back(part);
  return sides;
}

}  // namespace kervo
