#include "geom/divide/plane_split.h"

#include "base/parallel.h"
#include "geom/divide/mesh_divide.h"
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
  if (const Mesh* mesh = part.mesh()) {
    for (const Point& point : mesh->points()) see(point);
    return farthest;
  }
  for (const Skeleton::VertexPart& corner : skeletonOf(part).vertices) see(fromPnt(BRep_Tool::Pnt(corner.vertex)));
  // A cap of a ball has no corner but on its rim.
  if (std::abs(farthest) < tolerance::looseEdge)
    for (const Face& face : facesOf(part)) see(face.samplePoint());
  return farthest;
}

PlaneSplit splitByPlane(const std::string& name, const Shape& stock, const Plane& plane, const Kerf& kerf,
                        Progress& progress) {
  if (stock.mesh()) return splitMeshByPlane(stock, plane, kerf, progress);
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
  const std::vector<Shape> parts = sides.cut.outside.pieces();
  std::vector<double> farthest(parts.size());
  inParallel(parts.size(), [&](std::size_t i) { farthest[i] = farthestFrom(middle, parts[i]); });
  for (std::size_t i = 0; i < parts.size(); ++i) (farthest[i] > 0 ? sides.front : sides.back).push_back(parts[i]);
  return sides;
}

}  // namespace kervo
